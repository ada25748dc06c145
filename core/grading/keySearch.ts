/** Which key, octave and tuning suits a learner: every one of them tried, the fingers found, and what it asks told. */
import { arrange } from '#core/arrangement/arrange'
import type { DeriveContext } from '#core/arrangement/context'
import { DeriveMemory } from '#core/arrangement/derive'
import { withKey, withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { handShapes } from '#core/teach/shapes'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { CROSS_TUNINGS, homeTuning, parseTuning, type Tuning } from '#core/instruments/tunings'
import { keyOfSignature, sameKey, type Key } from '#core/music/key'
import { formatPitch, midi, type Pitch } from '#core/music/pitch'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { Level } from '#core/levels/levels'
import type { Grade, LevelTable } from './demands'
import { lowestLevel } from './lowest'

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
  /** Different half-step patterns the hand takes. */
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
  const all = Array.from({ length: 12 }, (_, i) => keyOfSignature(i - 5, own.mode)).filter(k => Math.abs(k.alter) <= 1) // prettier-ignore
  return all.some(k => sameKey(k, own)) ? all : [...all, own]
}

export interface Candidate {
  readonly instrument: InstrumentId
  readonly key: Key
  readonly tuning: Tuning | null
}

/** Everything that will be tried: the tune's own key first, so that there is something to compare with. */
export function candidates(tune: Tune, search: KeySearch): Candidate[] {
  const keys = [...search.keys].sort((a, b) => Number(sameKey(b, tune.key)) - Number(sameKey(a, tune.key)))
  return search.instruments.flatMap(instrument => {
    const cross = search.tunings === 'all' ? tuningsOf(instrument) : []
    return [null, ...cross].flatMap(tuning => keys.map(key => ({ instrument, key, tuning })))
  })
}

const tuningsOf = (id: InstrumentId): Tuning[] =>
  CROSS_TUNINGS[id].flatMap(text => {
    const read = parseTuning(id, text)
    return 'tuning' in read && read.tuning.length === homeTuning(id).length ? [read.tuning] : []
  })

/** Half steps above the highest open string that a learner may still be asked for: beyond, the tune lies an octave too high. */
const HIGHEST_ABOVE = 17
/** Octaves tried, the ones that fit the strings. */
const OCTAVES = [0, -1, 1, -2, -3] as const

/** The best way to play the tune in one key and tuning on one instrument; null when it fits no octave of it. */
export function tryCandidate(
  tune: Tune,
  { instrument, key, tuning }: Candidate,
  search: KeySearch,
  context: DeriveContext,
  memory = new DeriveMemory(),
): KeyRow | null {
  const base = search.base?.[instrument] ?? newArrangement(instrument, sizeOf(instrument).name)
  const strings = tuning ?? homeTuning(instrument)
  const above = INSTRUMENTS[instrument].writtenAbove
  let best: KeyRow | null = null
  let fitting = 0
  for (const octave of OCTAVES) {
    const recipe = withPlayed(withKey(base, key, tune.key), {
      tuning: tuning && [...tuning],
      octave,
      level: null,
    })
    const pitches = pitchesOf(arrange(tune, recipe, context).tune)
    if (pitches.length === 0) return null
    const [low, high] = [midi(pitches[0]!) - above, midi(pitches.at(-1)!) - above]
    if (low < strings.at(-1)! || high > strings[0]! + HIGHEST_ABOVE) continue
    if (++fitting > MOST_OCTAVES) break
    const row = rowOf(tune, recipe, pitches, search, context, memory)
    if (row && (!best || better(row, best))) best = { ...row, key, octave, tuning }
  }
  return best
}

/** So many octaves that fit are compared. */
const MOST_OCTAVES = 2

const pitchesOf = (tune: Tune): Pitch[] =>
  tune.measures
    .flatMap(m => m.events.flatMap(e => (e.kind === 'note' ? e.heads.map(h => h.pitch) : [])))
    .sort((a, b) => midi(a) - midi(b))

function rowOf(
  tune: Tune,
  recipe: Arrangement,
  pitches: readonly Pitch[],
  search: KeySearch,
  context: DeriveContext,
  memory: DeriveMemory,
): Omit<KeyRow, 'key' | 'octave' | 'tuning'> | null {
  const graded = lowestLevel(tune, recipe, context, memory, search.table)
  if (graded.unplayable > 0) return null
  const { derived } = graded
  const notes = derived.fingering.notes.filter(n => n.tiedFrom === undefined)
  const open = notes.filter(n => n.finger === 0).length
  return {
    instrument: recipe.played.instrument,
    level: graded.level,
    openShare: notes.length > 0 ? Math.round((100 * open) / notes.length) / 100 : 0,
    crossings: derived.crossings.length,
    shifts: derived.shifts.length,
    shapes: new Set(handShapes(derived.fingering, new Set(notes.map(n => n.id))).map(s => JSON.stringify(s)))
      .size,
    range: [formatPitch(pitches[0]!), formatPitch(pitches.at(-1)!)],
    grade: graded.grade,
    recipe: withPlayed(graded.recipe, { level: graded.recipe.played.level ?? graded.level }),
    own: recipe.played.key === null && recipe.played.octave === 0 && recipe.played.tuning === null,
  }
}

type Measured = Pick<KeyRow, 'level' | 'shifts' | 'crossings' | 'openShare' | 'shapes'>

/** Lower level first; then fewer shifts, fewer crossings, more open strings. */
export const compareRows = (a: Measured, b: Measured): number =>
  a.level - b.level || a.shifts - b.shifts || a.crossings - b.crossings || b.openShare - a.openShare
const better = (a: Measured, b: Measured) => compareRows(a, b) < 0

const noWorse = (a: Measured, b: Measured) =>
  a.level <= b.level && a.shifts <= b.shifts && a.crossings <= b.crossings && a.openShare >= b.openShare && a.shapes <= b.shapes // prettier-ignore

/** Rows no other row of the same instrument beats in everything (the Pareto front), best first. */
export function paretoBest(rows: readonly KeyRow[]): KeyRow[] {
  return rows
    .filter(a => !rows.some(b => b !== a && b.instrument === a.instrument && noWorse(b, a) && !noWorse(a, b)))
    .sort(compareRows)
}

/** For a class: keys in which every instrument plays, by the highest level any of them needs, then by all levels together. */
export function commonKeys(rows: readonly KeyRow[], instruments: readonly InstrumentId[]): { readonly key: Key; readonly level: Level; readonly rows: readonly KeyRow[] }[] {
  const keys = rows.map(r => r.key).filter((k, i, all) => all.findIndex(o => sameKey(o, k)) === i)
  return keys
    .flatMap(key => {
      const own = instruments.map(i => rows.filter(r => r.instrument === i && sameKey(r.key, key)).sort(compareRows)[0])
      if (own.some(r => r === undefined)) return []
      const found = own as KeyRow[]
      return [{ key, level: Math.max(...found.map(r => r.level)) as Level, rows: found }]
    })
    .sort((a, b) => a.level - b.level || sum(a.rows) - sum(b.rows))
} // prettier-ignore
const sum = (rows: readonly KeyRow[]) =>
  rows.reduce((n, r) => n + r.level * 1000 + r.shifts * 20 + r.crossings, 0)
