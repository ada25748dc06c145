import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { placeMeasures } from './timeline'
import { playOrder } from './playOrder'

const tune = (music: string, head = 'M:2/4\nL:1/4') =>
  readAbc(`X:1\nT:t\n${head}\nK:D\n${music}\n`).tunes[0]!.tune
/** First note of each measure in the order played, with the pass. */
const played = (music: string, struck?: Set<string>) => {
  const t = tune(music)
  return playOrder(struck ? { ...t, play: { ...t.play, struck: [...struck] } } : t)
    .map(({ index }) => {
      const e = t.measures[index]!.events[0]!
      return e.kind === 'note' ? e.heads[0]!.pitch.step : 'z'
    })
    .join('')
}

describe('play order', () => {
  it.each([
    ['no repeats', 'DD|EE|FF|]', 'DEF'],
    ['a repeat from the start', 'DD|EE:|FF|]', 'DEDEF'],
    ['a repeat with its own start', 'CC|:DD|EE:|FF|]', 'CDEDEF'],
    ['first and second ending', '|:DD|1EE:|2FF|]', 'DEDF'],
    ['endings of two measures, and another part', '|:DD|1EE|FF:|2GG|AA||:BB:|', 'DEFDGABB'],
    ['three times with three endings', '|:DD|1EE:|2FF:|3GG|]', 'DEDFDG'],
    ['one ending for two passes', '|:DD|1,2EE:|3FF|]', 'DEDEDF'],
    ['a part after the second ending', '|:DD|1EE:|2FF||GG|AA|]', 'DEDFGA'],
    ['two repeats in a row without starts', 'DD:|EE:|', 'DDEE'],
  ])('%s', (_name, music, order) => expect(played(music)).toBe(order))

  it('passes over a repeat the teacher has struck out', () => {
    const t = tune('DD|EE:|FF|]')
    expect(played('DD|EE:|FF|]', new Set([t.measures[1]!.id]))).toBe('DEF')
  })
})

describe('measure numbers', () => {
  const numbers = (music: string) => placeMeasures(tune(music)).map(m => m.number)
  it('count a pickup as nought', () => expect(numbers('A|DD|EE|]')).toEqual([0, 1, 2]))
  it('do not count the second half of a bar that a repeat sign divides', () =>
    expect(numbers('A|DD|E:|F|GG|]')).toEqual([0, 1, 2, 2, 3]))
})
