import { expect, it } from 'vitest'
import { ordinal } from './counts'

it.each([
  [1, 'first'],
  [2, 'second'],
  [10, 'tenth'],
  [11, '11th'],
  [12, '12th'],
  [13, '13th'],
  [21, '21st'],
  [22, '22nd'],
  [23, '23rd'],
  [30, '30th'],
  [101, '101st'],
  [111, '111th'],
])('%i is said %s', (n, said) => expect(ordinal(n)).toBe(said))
