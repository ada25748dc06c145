/**
 * How a tune is bowed: directions, what joins or parts the notes, and where on the bow each stroke happens,
 * found together as one shortest path ({@link searchBow}). What is written stands; what the school or the
 * recipe lets Nokta add is told apart from it.
 */
import type { Tune } from '#core/music/tune'
import { strokeCost, whyStroke } from './explain'
import { bowFindings } from './findings'
import type { BowLine } from './line'
import { sameCosts } from './changed'
import type { BowSearch, Found } from './search'
import { searchLine } from './searches'
import type { AddedMark, Bowing, BowingOptions, BowProblem, Stroke } from './stroke'
import { bowTones, type BowTone } from './tones'

export const bowProblem = (tune: Tune, options: BowingOptions): BowProblem => ({
  tune,
  options,
  tones: bowTones(tune, options),
})

export function bowTune(tune: Tune, options: BowingOptions, before?: Bowing): Bowing {
  return solveBow(alikeProblem(tune, options, before) ?? bowProblem(tune, options), before)
}

/** The tones of the bowing before serve again where tune, slurs and tempo are the same. */
function alikeProblem(tune: Tune, options: BowingOptions, before?: Bowing): BowProblem | null {
  const old = before?.problem
  if (old?.tune !== tune || old.options.joined !== options.joined || old.options.rebowed !== options.rebowed)
    return null
  const [a, b] = [old.options.tempo, options.tempo]
  const same = a.perMinute === b.perMinute && a.beat.n === b.beat.n && a.beat.d === b.beat.d
  return same ? { tune, options, tones: old.tones } : null
}

export function solveBow(problem: BowProblem, before?: Bowing): Bowing {
  const searches = searchLine(problem, before?.searches)
  const search = searches.final
  const asBefore = before?.problem.tones === problem.tones ? strokesBefore(problem, search, before) : null
  const strokes = search.strokes.map(s => asBefore?.(s) ?? strokeOf(problem, search.line, s))
  const found = { problem, strokes, written: firstTimes(strokes) }
  return { ...found, search, searches, findings: bowFindings(found) }
}

/**
 * Finds a stroke of the bowing before that is the same in all that makes it: place, costs, pins, strings,
 * school.
 */
function strokesBefore({ tones, options: o }: BowProblem, { line }: BowSearch, before: Bowing) {
  const old = before.problem.options
  const places = new Map(before.search.strokes.map((s, i) => [s.first, i]))
  const sameTone = (k: number) => {
    const { id } = tones[k]!
    return (
      sameCosts(line, before.search.line, k) &&
      o.pins[id] === old.pins[id] &&
      o.joins[id] === old.joins[id] &&
      o.stringOf(id) === old.stringOf(id)
    )
  }
  return (s: Found): Stroke | undefined => {
    const place = places.get(s.first)
    const b = place === undefined ? undefined : before.search.strokes[place]!
    if (
      b?.end !== s.end ||
      b.direction !== s.direction ||
      b.way !== s.way ||
      b.from !== s.from ||
      b.to !== s.to
    )
      return undefined
    for (let k = s.first; k < s.end; k++) if (!sameTone(k)) return undefined
    const { id } = tones[s.first]!
    return o.planOf(id).school === old.planOf(id).school ? before.strokes[place!] : undefined
  }
}

function strokeOf(problem: BowProblem, line: BowLine, s: Found): Stroke {
  const { tones, options } = problem
  const own = tones.slice(s.first, s.end)
  const first = own[0]!
  const notes = own.flatMap(t => t.events)
  const strings: number[] = []
  for (const t of own) {
    const string = options.stringOf(t.id)
    if (!strings.includes(string)) strings.push(string)
  }
  return {
    notes,
    tones: own.map(t => t.id),
    seconds: own.reduce((sum, t) => sum + t.seconds, 0),
    restBefore: first.restBefore,
    loudness: first.loudness,
    accent: first.accent,
    strength: first.strength,
    measure: first.measure,
    measureIndex: first.measureIndex,
    pass: first.pass,
    direction: s.direction,
    from: s.from,
    to: s.to,
    way: s.way,
    lift: s.way === 'lift',
    hook: s.way === 'hook',
    added: addedMarks(own, s, options),
    strings,
    why: whyStroke(problem, line, s),
    cost: strokeCost(problem, line, s),
  }
}

function addedMarks(own: readonly BowTone[], s: Found, { pins, joins }: BowingOptions): AddedMark[] {
  const first = own[0]!
  const out: AddedMark[] = own
    .slice(1)
    .flatMap(t => (t.slurred ? [] : [{ note: t.id, way: 'slur' as const }]))
  if (s.way === 'hook' || s.way === 'lift') {
    const free = s.way === 'lift' && first.lifted
    if (pins[first.id]?.way !== s.way && !free && !first.hooked) out.unshift({ note: first.id, way: s.way })
  } else if (first.slurred && joins[first.id] !== false) out.unshift({ note: first.id, way: 'part' })
  return out
}

/** A slurred stroke over a repeat may differ the second time; the page shows the first. */
function firstTimes(strokes: readonly Stroke[]): readonly Stroke[] {
  if (strokes.every(s => s.pass === 1)) return strokes
  const seen = new Set<string>()
  return strokes.filter(s => {
    if (seen.has(s.notes[0]!)) return false
    s.notes.forEach(n => seen.add(n))
    return true
  })
}
