import { expect, it } from 'vitest'
import { useAttempt } from './attempt'

it('says what went wrong, until something goes right', async () => {
  const { problem, attempt } = useAttempt()
  await attempt(() => Promise.reject(new Error('The shelf is away.')))
  expect(problem.value).toBe('The shelf is away.')
  await attempt(() => Promise.reject('plainly' as unknown as Error))
  expect(problem.value).toBe('plainly')
  await attempt(() => Promise.resolve())
  expect(problem.value).toBe('')
})
