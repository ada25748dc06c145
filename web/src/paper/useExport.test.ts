import { expect, it, vi } from 'vitest'
import { useExport } from './useExport'

const finished = (e: { busy: { value: boolean } }) => vi.waitFor(() => expect(e.busy.value).toBe(false))

it('runs at once where nothing is protected, and tells how far it is', async () => {
  const e = useExport(() => false)
  const seen: unknown[] = []
  e.ask(async () => {
    for (let i = 1; i <= 2; i++) {
      await e.told(i, 2)
      seen.push(e.progress.value)
    }
  })
  expect(e.busy.value).toBe(true)
  await finished(e)
  expect(seen).toEqual([
    { done: 1, of: 2 },
    { done: 2, of: 2 },
  ])
  expect([e.progress.value, e.problem.value]).toEqual([null, ''])
})

it('asks first where something is protected', async () => {
  const e = useExport(() => true)
  const work = vi.fn(() => Promise.resolve())
  e.ask(work)
  expect(work).not.toHaveBeenCalled()
  expect(e.waiting.value).toBe(work)
  await e.run(e.waiting.value!)
  expect(work).toHaveBeenCalledOnce()
  expect(e.waiting.value).toBeNull()
  e.ask(work)
  e.leave()
  expect(e.waiting.value).toBeNull()
  expect(work).toHaveBeenCalledOnce()
})

it('stops between two pieces when it is told to, without calling that a fault', async () => {
  const e = useExport(() => false)
  let pieces = 0
  e.ask(async () => {
    for (let i = 1; i <= 100; i++) {
      pieces++
      if (i === 3) e.stop()
      await e.told(i, 100)
    }
  })
  await finished(e)
  expect([pieces, e.problem.value]).toEqual([3, ''])
  // The next one is not stopped by it.
  await e.run(() => e.told(1, 1))
  expect(e.problem.value).toBe('')
})

it('tells a fault in a sentence', async () => {
  const e = useExport(() => false)
  await e.run(() => Promise.reject(new Error('no face')))
  expect(e.problem.value).toBe('The file could not be made: no face')
})
