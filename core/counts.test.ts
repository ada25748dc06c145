import { expect, it } from 'vitest'
import { counted, numberWord, ordinal, timesText } from './counts'

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

it('writes small numbers out', () => {
  expect([0, 1, 10, 11].map(numberWord)).toEqual(['no', 'one', 'ten', '11'])
})

it('counts one and many, none too', () => {
  expect([0, 1, 2].map(n => counted(n, 'shift'))).toEqual(['0 shifts', '1 shift', '2 shifts'])
  expect([1, 2].map(n => counted(n, 'note differs', 'notes differ'))).toEqual([
    '1 note differs',
    '2 notes differ',
  ])
  expect([1, 2, 3].map(timesText)).toEqual(['once', 'twice', '3 times'])
})
