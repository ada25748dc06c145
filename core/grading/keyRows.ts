/**
 * What a search through keys, octaves and tunings tries and finds, and which of it is best. No fingers are
 * found here.
 */
import type { Arrangement } from '#core/arrangement/recipe'
import { CROSS_TUNINGS, homeTuning, parseTuning, type Tuning } from '#core/instruments/tunings'
import { keyOfSignature, sameKey, signature, type Key } from '#core/music/key'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { Level } from '#core/levels/levels'
import type { Grade, LevelTable } from './demands'

export interface KeyRow {
  readonly instrument: InstrumentId
  readonly key: Key
  readonly octave: number
  /** Sounding pitches, the highest first; null at home. */
  readonly tuning: Tuning | null
  readonly level: Level
  /** Share of the notes played on an open string. */
  readonly openShare: number
  readonly crossings: number
  readonly shifts: number
  /** What the key itself costs there ({@link keyCost}), less what it is worth to stay in the tune's own. */
  readonly keyCost: number
  /** How often the half-step pattern of the hand changes. */
  readonly shapes: number
  /** Lowest and highest note as written for this instrument. */
  readonly range: readonly [string, string]
  readonly grade: Grade
  /** The arrangement that plays it so. */
  readonly recipe: Arrangement
  /** The key and place of the tune as it stands. */
  readonly own: boolean
}

export interface KeySearch {
  readonly instruments: readonly InstrumentId[]
  readonly keys: readonly Key[]
  readonly tunings: 'home' | 'all'
  /** A learner's or class's arrangement to begin with, by instrument. */
  readonly base?: Partial<Record<InstrumentId, Arrangement>>
  readonly table?: LevelTable
}

/** Twelve keys of one mode, from five flats to six sharps. */
export const keysOfMode = (own: Key): Key[] => {
  const all = Array.from({ length: 12 }, (_, i) => keyOfSignature(i - 5, own.mode)).filter(
    k => Math.abs(k.alter) <= 1,
  )
  return all.some(k => sameKey(k, own)) ? all : [...all, own]
}

/** An instrument in one key, in each of the tunings that are tried there, home first. */
export interface KeyQuestion {
  readonly instrument: InstrumentId
  readonly key: Key
  readonly tunings: readonly (Tuning | null)[]
}

export interface Candidate {
  readonly instrument: InstrumentId
  readonly key: Key
  readonly tuning: Tuning | null
}

/** Everything that will be tried: the tune's own key first, so that there is something to compare with. */
export function keyQuestions(tune: Tune, search: KeySearch): KeyQuestion[] {
  const keys = [...search.keys].sort((a, b) => Number(sameKey(b, tune.key)) - Number(sameKey(a, tune.key)))
  return search.instruments.flatMap(instrument => {
    const tunings = [null, ...(search.tunings === 'all' ? tuningsOf(instrument) : [])]
    return keys.map(key => ({ instrument, key, tunings }))
  })
}

export const candidatesOf = ({ tunings, ...q }: KeyQuestion): Candidate[] =>
  tunings.map(tuning => ({ ...q, tuning }))

const tuningsOf = (id: InstrumentId): Tuning[] =>
  CROSS_TUNINGS[id].flatMap(text => {
    const read = parseTuning(id, text)
    return 'tuning' in read && read.tuning.length === homeTuning(id).length ? [read.tuning] : []
  })

type Measured = Readonly<
  Record<'level' | 'shifts' | 'keyCost' | 'shapes' | 'crossings' | 'openShare', number>
>

/**
 * Lower level first; then fewer shifts; then the key that is plainer and rings; then fewer shapes of the
 * hand, fewer crossings, more open strings.
 */
export const compareRows = (a: Measured, b: Measured): number =>
  a.level - b.level ||
  a.shifts - b.shifts ||
  a.keyCost - b.keyCost ||
  a.shapes - b.shapes ||
  a.crossings - b.crossings ||
  b.openShare - a.openShare

const noWorse = (a: Measured, b: Measured) =>
  a.level <= b.level &&
  a.shifts <= b.shifts &&
  a.keyCost <= b.keyCost &&
  a.crossings <= b.crossings &&
  a.openShare >= b.openShare &&
  a.shapes <= b.shapes

/**
 * Of each instrument's lowest level the rows no other row beats in everything (the Pareto front), best first.
 */
export function paretoBest(rows: readonly KeyRow[]): KeyRow[] {
  const lowest = new Map<InstrumentId, Level>()
  for (const r of rows) lowest.set(r.instrument, Math.min(r.level, lowest.get(r.instrument) ?? 8) as Level)
  const own = rows.filter(r => r.level === lowest.get(r.instrument))
  return own
    .filter(a => !own.some(b => b !== a && b.instrument === a.instrument && noWorse(b, a) && !noWorse(a, b)))
    .sort(compareRows)
}

/** What is weighed besides the level. */
export const MEASURES = ['shifts', 'crossings', 'openShare', 'shapes'] as const
export type Measure = (typeof MEASURES)[number]

const lessIsBetter = (m: Measure, r: KeyRow) => (m === 'openShare' ? -r[m] : r[m])

/**
 * Why a row is among the best of its instrument: what none of the others has better, and one of them worse.
 */
export function strengthsOf(row: KeyRow, best: readonly KeyRow[]): Measure[] {
  const others = best.filter(b => b !== row && b.instrument === row.instrument)
  return MEASURES.filter(m => {
    const own = lessIsBetter(m, row)
    return others.every(o => lessIsBetter(m, o) >= own) && others.some(o => lessIsBetter(m, o) > own)
  })
}

export interface BestKeys {
  readonly instrument: InstrumentId
  readonly rows: readonly { readonly row: KeyRow; readonly strengths: readonly Measure[] }[]
}

/** So many keys of an instrument are named. */
const MOST_NAMED = 3

/**
 * The best few of each instrument: what needs no retuning first, then by what it asks; of equal ones what
 * lies nearer to the tune's own key.
 */
export function bestKeys(rows: readonly KeyRow[], own: Key): BestKeys[] {
  const retuned = (r: KeyRow) => Number(r.tuning !== null)
  const away = (r: KeyRow) => Math.abs(signature(r.key) - signature(own))
  const best = paretoBest(rows).sort(
    (a, b) => retuned(a) - retuned(b) || compareRows(a, b) || away(a) - away(b),
  )
  return [...new Set(rows.map(r => r.instrument))].map(instrument => {
    const here = best.filter(r => r.instrument === instrument)
    return {
      instrument,
      rows: here.slice(0, MOST_NAMED).map(row => ({ row, strengths: strengthsOf(row, here) })),
    }
  })
}

/**
 * For a class: keys in which every instrument plays, by the highest level any of them needs, then by all
 * levels together.
 */
export function commonKeys(
  rows: readonly KeyRow[],
  instruments: readonly InstrumentId[],
): { readonly key: Key; readonly level: Level; readonly rows: readonly KeyRow[] }[] {
  const keys = rows.map(r => r.key).filter((k, i, all) => all.findIndex(o => sameKey(o, k)) === i)
  return keys
    .flatMap(key => {
      const own = instruments.map(
        i => rows.filter(r => r.instrument === i && sameKey(r.key, key)).sort(byTuning)[0],
      )
      if (own.some(r => r === undefined)) return []
      const found = own as KeyRow[]
      return [{ key, level: Math.max(...found.map(r => r.level)) as Level, rows: found }]
    })
    .sort((a, b) => compareRows(together(a.rows), together(b.rows)) || a.level - b.level)
}

/** Nobody retunes for a class where it is as easy at home. */
const byTuning = (a: KeyRow, b: KeyRow) =>
  a.level - b.level || Number(a.tuning !== null) - Number(b.tuning !== null) || compareRows(a, b)

/** More than all levels of a class together. */
const WEAKEST = 1000

/** Several instruments as one: the highest level counts before all, then every amount added up. */
function together(rows: readonly KeyRow[]): Measured {
  const sum = (m: keyof Measured) => rows.reduce((n, r) => n + r[m], 0)
  return {
    level: Math.max(...rows.map(r => r.level)) * WEAKEST + sum('level'),
    shifts: sum('shifts'),
    keyCost: sum('keyCost'),
    shapes: sum('shapes'),
    crossings: sum('crossings'),
    openShare: sum('openShare'),
  }
}
