import { expect, it } from 'vitest'
import { usualFinger } from './usualFinger'

it.each([
  ['violin', [0, 1, 1, 2, 2, 3, 3, 4]],
  ['viola', [0, 1, 1, 2, 2, 3, 3, 4]],
  ['cello', [0, 1, 1, 2, 3, 4]],
  ['bass', [0, 1, 1, 2, 4]],
] as const)('in the lowest position of the %s', (instrument, fingers) => {
  expect(fingers.map((_, offset) => usualFinger(instrument, offset))).toEqual(fingers)
})

it('higher up, and nowhere beyond the fingerboard', () => {
  expect(usualFinger('violin', 12)).not.toBeNull()
  expect(usualFinger('violin', 40)).toBeNull()
})
