import { describe, expect, it } from 'vitest'
import type { Tally } from '#core/fingering/tally'
import { tradeText, tradeWords } from './ways'

const tempo = (perMinute: number) => ({ beat: { n: 1, d: 1 }, perMinute })
const own: Tally = {
  shifts: 2,
  way: 144,
  crossings: 3,
  open: 1,
  fourth: 2,
  reached: 0,
  slides: 0,
  holdsTo: tempo(96),
}
const said = (other: Partial<Tally>) => tradeText(tradeWords(own, { ...own, ...other }))

describe('what another way gains and loses', () => {
  it('is told in shifts, millimetres, crossings, open strings and the tempo it is playable up to', () => {
    expect(said({ shifts: 1, way: 72, crossings: 5, holdsTo: tempo(120) })).toBe(
      '1 shift fewer, 72 mm less to travel, playable up to quarter note = 120; but 2 crossings more',
    )
    expect(said({ open: 3, fourth: 0 })).toBe('2 fourth fingers fewer, 2 open strings more')
    expect(said({ shifts: 0, way: 0, holdsTo: null })).toContain('nothing limits the tempo')
  })
  it('is nothing where the figures are the same, or nearly', () => {
    expect(said({})).toBeNull()
    expect(said({ way: 140 })).toBeNull()
  })
})
