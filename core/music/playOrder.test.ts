import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { placeMeasures } from './timeline'
import { playOrder } from './playOrder'
import type { NoteEvent } from './tune'

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

  it.each([
    ['da capo: all of it again', 'DD|EE|FF!D.C.!|', 'DEFDEF'],
    ['da capo al fine', 'DD|EE!fine!|FF|GG!D.C.!|', 'DEFGDE'],
    ['fine counts only after the jump, and alone stops nothing', 'DD|EE!fine!|FF|', 'DEF'],
    ['dal segno al fine', 'DD|!segno!EE|FF!fine!|GG!D.S.!|', 'DEFGEF'],
    ['dal segno al coda', 'DD|!segno!EE!dacoda!|FF!D.S.!|!coda!GG|AA|]', 'DEFEGA'],
    ['repeats are not taken after a jump', '|:DD|EE:|FF!fine!|GG!D.C.!|', 'DEDEFGDEF'],
    ['and of endings the last is', '|:DD|1EE:|2FF!fine!||GG!D.C.!|', 'DEDFGDF'],
    ['a jump at the end of a repeat waits until the repeat is over', '|:DD|EE!D.C.!:|', 'DEDEDE'],
    ['a jump within a repeat waits for its last time through', '|:DD!D.C.!|1EE:|2FF|]', 'DEDDF'],
    ['the third of three, too', '|::DD!D.C.!|EE::|FF|', 'DEDEDDEF'],
    ['and is taken at once where the repeat is over', '|:DD:|EE!D.C.!|FF|', 'DDEDEF'],
    ['a jump to a segno that is nowhere is not taken', 'DD|EE!D.S.!|', 'DE'],
    ['a repeat of three times', '|::DD|EE::|FF|', 'DEDEDEF'],
  ])('%s', (_name, music, order) => expect(played(music)).toBe(order))

  it.each([
    ['ABA', '[P:A]DD|EE|[P:B]FF|', 'DEFDE'],
    ['AABA', '[P:A]DD|[P:B]|:EE:|', 'DDEED'],
    ['(AB)2C', '[P:A]DD|[P:B]EE|[P:C]FF|', 'DEDEF'],
    ['A2.B', '[P:A]DD|[P:B]EE|', 'DDE'],
  ])('plays the parts in the order %s', (order, music, want) => {
    const t = tune(music, `P:${order}\nM:2/4\nL:1/4`)
    const steps = playOrder(t).map(
      ({ index }) => (t.measures[index]!.events[0] as NoteEvent).heads[0]!.pitch.step,
    )
    expect(steps.join('')).toBe(want)
    expect(
      playOrder(t)
        .map(p => p.pass)
        .filter(p => p === 1),
    ).toHaveLength(t.measures.length)
  })
  it('an order that names a part that is not there is no order', () => {
    expect(
      playOrder({ ...tune('[P:A]DD|[P:B]EE|'), play: { struck: [], times: 1, parts: ['A', 'Q'] } }),
    ).toHaveLength(2)
  })
  it('stays in proportion to the measures, whatever signs stand in it', () => {
    const wild = tune('!segno!DD!D.C.!|'.repeat(400) + 'EE!D.S.!|')
    expect(playOrder(wild).length).toBeLessThanOrEqual(2 * wild.measures.length)
  })

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
