/**
 * Fingerprints of melodies: two settings of one tune share most of theirs, whatever their key, octave, note
 * values on paper or title. Runs of six intervals with the relation of their lengths are hashed and thinned
 * by winnowing (Schleimer, Wilkerson and Aiken 2003: of every few neighbours the smallest hash is kept), so
 * that the same passage leaves the same marks wherever it stands.
 */
import { toNumber } from '#core/music/fraction'
import { midi } from '#core/music/pitch'
import { placeEvents, type Placed } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'

/** Hashes, 32 bits each, without order or repetition. */
export type MelodyPrint = readonly number[]

const RUN = 6
const WINDOW = 3
const MOST = 160

interface Tone {
  readonly height: number
  readonly length: number
}

/** How far up, and whether the second is longer (1), shorter (-1) or as long (0). */
type Move = readonly [number, -1 | 0 | 1]

/**
 * Lengths in quarters, a dotted pair (three and one, or one and three) that begins where a note of its whole
 * length may taken as two equal notes: one player's dotted tune is another's even one.
 */
function lengths(events: readonly Placed[]): number[] {
  const out = events.map(p => toNumber(p.event.duration))
  for (let i = 0; i + 1 < events.length; i++) {
    const [a, b] = [out[i]!, out[i + 1]!]
    const begins = toNumber(events[i]!.inMeasure) / (a + b)
    const pair =
      (a === 3 * b || b === 3 * a) && [events[i], events[i + 1]].every(p => p!.event.kind === 'note')
    if (!pair || !Number.isInteger(begins)) continue
    out[i] = out[i + 1] = (a + b) / 2
    i++
  }
  return out
}

/** The melody as tones: the top note of double stops, ties and repeated notes joined, rests left out. */
function melody(events: readonly Placed[]): Tone[] {
  const out: Tone[] = []
  const long = lengths(events)
  for (const [i, { event: e }] of events.entries()) {
    if (e.kind !== 'note') continue
    const height = midi(e.heads.at(-1)!.pitch)
    const length = long[i]!
    const last = out.at(-1)
    if (last?.height === height) out[out.length - 1] = { height, length: last.length + length }
    else out.push({ height, length })
  }
  return out
}

/** 32-bit FNV-1a of the run of moves that begins at one. */
function hash(moves: readonly Move[], from: number): number {
  let h = 0x811c9dc5
  for (let i = from; i < from + RUN; i++) for (const v of moves[i]!) h = Math.imul(h ^ (v & 0xff), 0x01000193)
  return h >>> 0
}

export const melodyPrint = (tune: Tune): MelodyPrint => melodyPrintOf(placeEvents(tune))

/** The print of some events in a row: a phrase's lies within its tune's. */
export function melodyPrintOf(events: readonly Placed[]): MelodyPrint {
  const tones = melody(events)
  const moves = tones.slice(1).map((t, i): Move => {
    const ratio = t.length / tones[i]!.length
    return [t.height - tones[i]!.height, ratio > 1.4 ? 1 : ratio < 0.7 ? -1 : 0]
  })
  const runs = Math.max(0, moves.length - RUN + 1)
  const hashes = Array.from({ length: runs }, (_, i) => hash(moves, i))
  const kept = new Set<number>()
  for (let i = 0; i + WINDOW <= hashes.length || (i === 0 && hashes.length > 0); i++)
    kept.add(Math.min(...hashes.slice(i, i + WINDOW)))
  return [...kept].slice(0, MOST)
}

/** A print of fewer tells nothing. */
export const LEAST_MARKS = 4

/** How much of the smaller print is in the other, 0 to 1; 0 where the smaller tells nothing. */
export function likeness(a: MelodyPrint, b: MelodyPrint): number {
  const [small, large] = a.length <= b.length ? [a, b] : [b, a]
  if (small.length < LEAST_MARKS) return 0
  const set = new Set(large)
  return small.filter(h => set.has(h)).length / small.length
}

/** From here on two tunes are worth comparing as settings of one. */
export const ALIKE = 0.5

export interface Alike {
  readonly id: string
  readonly likeness: number
}

/** An index over many prints that finds the alike ones without comparing every pair. */
export class PrintIndex {
  private readonly byHash = new Map<number, Set<string>>()
  private readonly prints = new Map<string, MelodyPrint>()

  set(id: string, print: MelodyPrint) {
    this.delete(id)
    this.prints.set(id, print)
    for (const h of print) {
      const own = this.byHash.get(h)
      if (own) own.add(id)
      else this.byHash.set(h, new Set([id]))
    }
  }

  delete(id: string) {
    for (const h of this.prints.get(id) ?? []) this.byHash.get(h)?.delete(id)
    this.prints.delete(id)
  }

  /** Tunes at least as like as {@link ALIKE}, the likest first. */
  alike(print: MelodyPrint, except = ''): Alike[] {
    const ids = new Set(print.flatMap(h => [...(this.byHash.get(h) ?? [])]))
    return [...ids]
      .filter(id => id !== except)
      .map(id => ({ id, likeness: likeness(print, this.prints.get(id)!) }))
      .filter(a => a.likeness >= ALIKE)
      .sort((a, b) => b.likeness - a.likeness)
  }

  /** Tunes that hold at least `share` of a short print, the fullest first. */
  holding(print: MelodyPrint, share: number, except = ''): Alike[] {
    const counts = new Map<string, number>()
    for (const h of print)
      for (const id of this.byHash.get(h) ?? []) counts.set(id, (counts.get(id) ?? 0) + 1)
    return [...counts]
      .filter(([id, n]) => id !== except && n >= share * print.length)
      .map(([id, n]) => ({ id, likeness: n / print.length }))
      .sort((a, b) => b.likeness - a.likeness)
  }

  /** All of them, by id. */
  all = (): ReadonlyMap<string, MelodyPrint> => this.prints
}
