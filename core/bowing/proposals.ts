/**
 * What a good teacher would mark: the same line solved with everything allowed. Each difference to the bowing
 * as it stands is an edit; edits that only help together are one mend. Every mend is tried before it is
 * offered: it must answer a finding and bring no new first beat up.
 */
import type { BowEdit, BowEffect, Finding, Mend } from '#core/findings/finding'
import { solveBow } from './bowing'
import { waysOf } from './searches'
import type { Bowing, BowProblem } from './stroke'
import type { May } from './schools'

export type BowMend = Extract<Mend, { kind: 'bow' }>

export interface Proposal {
  /** All that differs from the bowing as it stands, in playing order. */
  readonly edits: readonly BowEdit[]
  readonly mends: readonly BowMend[]
  /** First beats that begin a stroke, and those that come up: as it stands, and with all taken. */
  readonly firstBeats: number
  readonly upNow: number
  readonly upThen: number
}

/**
 * Edits are taken together up to so many, so that a measure that turns the bow back can be mended with the
 * one that turned it.
 */
const TOGETHER = 12
/** A line with more mends than this is asked another school; the rest comes with "take all". */
const MOST_TRIALS = 60

export function proposeBowing(now: Bowing, may: May): Proposal {
  const { problem } = now
  const best = solveBow({ ...problem, options: { ...problem.options, may } }, now)
  const edits = differences(problem, now, best)
  return {
    edits,
    mends: mendsOf(now, edits),
    firstBeats: now.strokes.filter(s => s.strength === 3).length,
    upNow: upBeats(now),
    upThen: upBeats(best),
  }
}

const upBeats = (b: Bowing) => b.strokes.filter(s => s.strength === 3 && s.direction === 'up').length

/**
 * The bowing's findings, each with the mend that answers it where there is one; where nothing less does, with
 * all of them together.
 */
export function withMends(b: Bowing, { mends, edits }: Proposal): Finding[] {
  const tried = mends.map(mend => ({ mend, left: keys(tryEdits(b, mend.edits)) }))
  if (edits.length > 1 && mends.every(m => m.edits.length < edits.length)) {
    const all = tryEdits(b, edits)
    const left = keys(all)
    const answers = b.findings.filter(f => !left.has(keyOf(f))).length
    tried.push({ mend: { kind: 'bow', edits, effect: effectOf(b, all, answers) }, left })
  }
  const drifting = driftMend(
    b,
    tried.some(t => !t.left.has('bow.drifts')),
  )
  if (drifting) tried.push({ mend: drifting, left: keys(tryEdits(b, drifting.edits)) })
  return b.findings.map(f => {
    const fitting = tried.filter(t => !t.left.has(keyOf(f))).map(t => t.mend)
    const mends = [...fitting.slice(0, 1), ...(f.mends ?? [])]
    return mends.length > 0 ? ({ ...f, mends } as Finding) : f
  })
}

/**
 * Unequal pairs are what makes a bow drift: all of them hooked, or slurred, weigh down and up alike. Tried
 * where nothing else brings the bow back; it must not turn a first beat up that came down.
 */
function driftMend(b: Bowing, mended: boolean): BowMend | null {
  if (mended || !b.findings.some(f => f.code === 'bow.drifts')) return null
  const { tones, options } = b.problem
  const ways = waysOf(b.search, tones.length)
  const pairs = tones.flatMap((t, k) => {
    const before = tones[k - 1]
    const unequal =
      before && t.follows && t.pass === 1 && t.restBefore === 0 && before.length > 1.4 * t.length
    return unequal && t.strength === 0 && ways[k] === 'turn' && options.joins[t.id] === undefined ? [t] : []
  })
  const ups = (x: Bowing) => x.findings.filter(f => f.code === 'bow.firstBeatUp').length
  for (const way of ['hook', 'slur'] as const) {
    const edits = pairs.map((t): BowEdit => ({ note: t.id, way, measure: t.measure }))
    const then = edits.length > 0 ? tryEdits(b, edits) : b
    if (keys(then).has('bow.drifts') || ups(then) > ups(b)) continue
    const left = keys(then)
    const answers = b.findings.filter(f => !left.has(keyOf(f))).length
    return { kind: 'bow', edits, effect: effectOf(b, then, answers) }
  }
  return null
}

/** Differences in the marks of the first time through. */
function differences({ tones }: BowProblem, now: Bowing, best: Bowing): BowEdit[] {
  const [a, b] = [waysOf(now.search, tones.length), waysOf(best.search, tones.length)]
  const seen = new Set<string>()
  return tones.flatMap((t, k): BowEdit[] => {
    if (seen.has(t.id)) return []
    seen.add(t.id)
    const [is, then] = [a[k]!, b[k]!]
    if (is === then || k === 0) return []
    if (then === 'turn') return is === 'slur' ? [{ note: t.id, way: 'part', measure: t.measure }] : []
    return [{ note: t.id, way: then, measure: t.measure }]
  })
}

/** The drift counts as answered only when the bow drifts off nowhere. */
const keyOf = (f: Finding) =>
  f.code === 'bow.drifts'
    ? f.code
    : `${f.code}:${f.where.note ?? ''}:${f.code === 'bow.firstBeatUp' ? f.values.pass : ''}`
const keys = (b: Pick<Bowing, 'findings'>) => new Set(b.findings.map(keyOf))

/** The bowing with some marks taken. */
export function tryEdits(b: Bowing, edits: readonly BowEdit[]): Bowing {
  const { problem } = b
  const joined = new Set(problem.options.joined)
  const joins = { ...problem.options.joins }
  const pins = { ...problem.options.pins }
  for (const { note, way } of edits) {
    if (way === 'slur' || way === 'part') {
      joins[note] = way === 'slur'
      if (way === 'slur') joined.add(note)
      else joined.delete(note)
    } else pins[note] = { ...pins[note], way }
  }
  const tones = problem.tones.map(t =>
    t.slurred === joined.has(t.id) || t.hooked
      ? t
      : { ...t, slurred: t.follows && t.restBefore === 0 && joined.has(t.id) },
  )
  return solveBow({ ...problem, tones, options: { ...problem.options, joined, joins, pins } }, b)
}

/** Runs of edits that answer something and break nothing, as short as can be. */
function mendsOf(now: Bowing, edits: readonly BowEdit[]): BowMend[] {
  const before = keys(now)
  const ups = (b: Bowing) => new Set(b.findings.filter(f => f.code === 'bow.firstBeatUp').map(keyOf))
  const upNow = ups(now)
  const out: BowMend[] = []
  let trials = 0
  for (let i = 0; i < edits.length;) {
    let taken = 1
    for (let n = 1; n <= Math.min(TOGETHER, edits.length - i) && trials < MOST_TRIALS; n++) {
      trials++
      const run = edits.slice(i, i + n)
      const then = tryEdits(now, run)
      const left = keys(then)
      const answered = [...before].filter(k => !left.has(k)).length
      const worse = [...ups(then)].some(k => !upNow.has(k))
      if (answered === 0 || worse) continue
      out.push({ kind: 'bow', edits: run, effect: effectOf(now, then, answered) })
      taken = n
      break
    }
    i += taken
  }
  return out
}

function effectOf(now: Bowing, then: Bowing, answers: number): BowEffect {
  const up = (b: Bowing) =>
    new Set(b.findings.filter(f => f.code === 'bow.firstBeatUp').map(f => f.where.measure!))
  const still = up(then)
  return { measures: [...up(now)].filter(m => !still.has(m)), answers }
}
