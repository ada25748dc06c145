import { expect, it } from 'vitest'
import { torture } from './torture'

it('a server killed over and over loses nothing it acknowledged, and breaks no backup', async () => {
  const report = await torture(3, 11)
  expect(report.faults).toEqual([])
  expect(report.acknowledged).toBeGreaterThan(5)
}, 120_000)
