import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from './composed'
import { keyName } from './key'
import { midi } from './pitch'
import { placeMeasures } from './timeline'
import type { Tune } from './tune'

const made = Array.from({ length: 60 }, (_, n) => readAbc(composedAbc(n)))
const tunes = made.map(m => m.tunes[0]!.tune)
const heads = (t: Tune, bar: number) =>
  t.measures[bar]!.events.map(e => (e.kind === 'note' ? midi(e.heads[0]!.pitch) : null))
const written = (t: Tune, bars: readonly number[]) =>
  bars.map(b => JSON.stringify(t.measures[b]!.events.map(e => [e.duration, heads(t, b)]))).join()

describe('tunes made by the dozen', () => {
  it('are read without a finding, every measure full, sixteen of them', () => {
    made.forEach((m, n) => {
      expect([n, m.findings]).toEqual([n, []])
      expect(m.tunes).toHaveLength(1)
      const measures = placeMeasures(tunes[n]!)
      expect(measures).toHaveLength(16)
      expect(measures.every(x => x.length.n * x.full.d === x.full.n * x.length.d)).toBe(true)
    })
  })
  it('are the same for the same number, others for another, of every kind and key', () => {
    expect(composedAbc(7)).toBe(composedAbc(7))
    expect(new Set(tunes.map(t => written(t, [0, 1, 2, 3]))).size).toBe(60)
    expect(new Set(tunes.map(t => t.kind))).toEqual(new Set(['reel', 'jig', 'waltz', 'song', 'march', 'air']))
    expect(new Set(tunes.map(t => keyName(t.key))).size).toBeGreaterThan(11)
    expect(tunes.map(t => t.title)).toEqual(tunes.map((_, n) => `Made tune ${n}`))
  })
  it('go A A B A: the first ends open, the last closes on the tonic', () => {
    for (const t of tunes) {
      expect(written(t, [0, 1, 2])).toBe(written(t, [4, 5, 6]))
      expect(written(t, [4, 5, 6, 7])).toBe(written(t, [12, 13, 14, 15]))
      const last = t.measures[15]!.events.at(-1)!
      expect(last.kind === 'note' && last.heads[0]!.pitch.step).toBe(t.key.step)
    }
  })
  it('keep within two octaves, and step more than they leap', () => {
    for (const t of tunes) {
      const sounds = t.measures.flatMap((_, b) => heads(t, b)) as number[]
      expect(Math.max(...sounds) - Math.min(...sounds)).toBeLessThanOrEqual(24)
      const moves = sounds.slice(1).map((s, i) => Math.abs(s - sounds[i]!))
      expect(moves.filter(m => m <= 4).length / moves.length).toBeGreaterThan(0.6)
    }
  })
})
