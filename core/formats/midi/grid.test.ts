import { describe, expect, it } from 'vitest'
import { toNumber } from '#core/music/fraction'
import { quantise } from './grid'

type Played = readonly [start: number, end: number, midi: number]
const heard = (...notes: Played[]) => quantise(notes.map(([start, end, midi]) => ({ start, end, midi })))
const slots = (...notes: Played[]) =>
  heard(...notes).slots.map(s => [toNumber(s.start), toNumber(s.end), ...s.notes])
/** Notes at these times, each as long as to the next one. */
const at = (...times: number[]): Played[] => times.map((t, i) => [t, times[i + 1] ?? t + 0.1, 60 + i])
const starts = (...times: number[]) => heard(...at(...times)).slots.map(s => toNumber(s.start))
const grid = (...times: number[]) => heard(...at(...times)).quantised?.values

describe('played times', () => {
  it('are put in order, notes that begin together from the lowest up, each once', () => {
    expect(slots([1, 2, 60], [0, 1, 64], [0, 1, 60], [0, 1, 67], [0, 1, 60])).toEqual([
      [0, 1, 60, 64, 67],
      [1, 2, 60],
    ])
    // Struck a little apart they belong together all the same, and last as long as the longest.
    expect(slots([0.02, 0.9, 64], [0, 1, 60], [1, 2, 62])).toEqual([
      [0, 1, 60, 64],
      [1, 2, 62],
    ])
  })
  it('of a note that sounds into the next one end where that begins; more than a player’s overlap is told', () => {
    expect(slots([0, 1.5, 60], [1, 2, 62])).toEqual([
      [0, 1, 60],
      [1, 2, 62],
    ])
    expect(heard([0, 1.5, 60], [1, 2, 62]).cut).toBe(1)
    expect(heard([0, 1.25, 60], [1, 2, 62]).cut).toBe(0)
    expect(heard([0, 3, 60], [1, 3, 62], [2, 3, 64]).cut).toBe(2)
    // Begun together, ended apart: well apart, a little, or where the next one ends both.
    expect(heard([0, 4, 60], [0, 2, 64]).held).toBe(1)
    expect(heard([0, 2, 60], [0, 1.8, 64]).held).toBe(0)
    expect(heard([0, 4, 60], [0, 2, 64], [2, 4, 65]).held).toBe(0)
  })
  it('of a short silence are the player’s articulation, of a longer one a rest', () => {
    expect(slots([0, 0.8, 60], [1, 2, 62])[0]).toEqual([0, 1, 60])
    expect(slots([0, 0.5, 60], [1, 2, 62])[0]).toEqual([0, 0.5, 60])
    // Eighths played short are eighths; struck as sixteenths with a rest they are that.
    expect(slots([0, 0.25, 60], [0.5, 0.75, 62])[0]).toEqual([0, 0.5, 60])
    expect(slots([0, 0.15, 60], [0.5, 0.75, 62])[0]).toEqual([0, 0.25, 60])
  })
  it('of the shortest note are one place of its grid', () => {
    expect(slots([0, 0.01, 60])).toEqual([[0, 0.25, 60]])
    const last = heard([0, 0.3, 60], [1 / 3, 0.6, 62], [2 / 3, 0.67, 64]).slots.at(-1)!
    expect([last.start, last.end]).toEqual([
      { n: 2, d: 3 },
      { n: 1, d: 1 },
    ])
  })
  it('a hair before a beat are on it', () => {
    expect(starts(0, 1 - 1e-7, 2)).toEqual([0, 1, 2])
    expect(starts(0.98, 2)).toEqual([1, 2])
  })
})

describe('the grid of a quarter', () => {
  it('is of sixteenths or triplets, by what lies nearer, each quarter for itself', () => {
    expect(starts(0, 0.26, 0.49, 0.76)).toEqual([0, 0.25, 0.5, 0.75])
    expect(starts(0, 0.34, 0.65)).toEqual([0, 1 / 3, 2 / 3])
    expect(starts(0, 0.33, 0.67, 1, 1.25, 1.5, 1.75)).toEqual([0, 1 / 3, 2 / 3, 1, 1.25, 1.5, 1.75])
  })
  it('is finer only where two notes follow each other closely', () => {
    expect(starts(0, 0.12, 0.25, 0.38, 0.5)).toEqual([0, 0.125, 0.25, 0.375, 0.5])
    expect(starts(0, 1 / 6, 2 / 6, 3 / 6, 4 / 6, 5 / 6)).toEqual([0, 1 / 6, 1 / 3, 1 / 2, 2 / 3, 5 / 6])
    // A single late note is late.
    expect(starts(0, 0.59)).toEqual([0, 0.5])
    expect(starts(0.12, 1)).toEqual([0, 1])
    // So are notes of a chord struck one after another.
    expect(starts(0, 0.008, 0.59)).toEqual([0, 0.5])
  })
  it('is the same in whatever order the notes are given', () => {
    const quick = at(0, 0.125, 0.25, 0.375, 0.5, 1)
    const mixed = [3, 0, 4, 2, 5, 1].map(i => quick[i]!)
    expect(slots(...mixed)).toEqual(slots(...quick))
    expect(slots(...mixed).map(s => s[0])).toEqual([0, 0.125, 0.25, 0.375, 0.5, 1])
  })
  it('is named, and how far the furthest note was moved, where it is worth telling', () => {
    expect(grid(0, 0.5, 1.015)).toBeUndefined()
    expect(grid(0, 0.5, 1.03)).toEqual({ grid: 'sixteenth', furthest: '3%' })
    expect(grid(0, 0.33, 0.67, 1.04)).toEqual({ grid: 'sixteenth or triplet', furthest: '4%' })
    expect(grid(0, 0.125, 0.25, 0.375, 1.04)).toEqual({ grid: 'thirty-second', furthest: '4%' })
    expect(grid(0, 1 / 6, 2 / 6, 0.5, 4 / 6, 5 / 6, 1.04)).toEqual({
      grid: 'sixteenth or triplet sixteenth',
      furthest: '4%',
    })
    expect(heard(...at(0, 0.5, 1.03)).quantised!.severity).toBe('note')
    expect(heard(...at(0, 0.5, 1.03)).slots.map(s => Math.round(s.moved * 100))).toEqual([0, 0, 3])
  })
})
