/** What a teacher would say of a bowing before it is played. */
import { finding, type Finding, type Mend } from '#core/findings/finding'
import type { EventId } from '#core/music/ids'
import { bearingOf, type Bowing, type Stroke } from './stroke'
import { swings } from './crossings'
import { naturalDrift, offTheHair, setAnew } from './drift'
import { POLICIES } from './schools'
import type { BowTone } from './tones'
import { inCm, wantedLength } from './travel'

type Found = Pick<Bowing, 'problem' | 'strokes' | 'written'>

export function bowFindings(found: Found): Finding[] {
  return [
    ...patternFindings(found),
    ...pinFindings(found),
    ...firstBeats(found),
    ...otherBow(found),
    ...kinOtherBow(found),
    ...endsUp(found),
    ...driftFinding(found),
    ...hairFindings(found),
    ...slurFindings(found),
    ...strokeFindings(found),
  ]
}

const where = (s: Stroke) => ({ measure: s.measure, note: s.notes[0]! })

/** A pattern nobody chose, or one longer than the tune. */
function patternFindings({ problem }: Found): Finding[] {
  const { tones, options } = problem
  const first = tones[0]
  if (!first) return []
  const grooved = tones.filter(t => options.planOf(t.id).school === 'pattern')
  const at = { measure: grooved[0]?.measure ?? first.measure, note: grooved[0]?.id ?? first.id }
  if (grooved.length === 0) return []
  const groove = options.planOf(grooved[0]!.id).groove
  if (!groove) return [finding('bow.noPattern', 'warning', at)]
  const pattern = groove.pattern.reduce((a, b) => a + b, 0)
  const units = Math.floor(grooved.reduce((sum, t) => sum + (t.pass === 1 ? t.length : 0), 0) / groove.unit)
  return pattern > units ? [finding('bow.patternLong', 'warning', at, { pattern, tune: units })] : []
}

/** Under a school that wants first beats down, each that begins a stroke and comes up. */
function firstBeats({ problem, strokes }: Found): Finding[] {
  const { planOf } = problem.options
  return strokes
    .filter(
      s => s.strength === 3 && s.direction === 'up' && POLICIES[planOf(s.notes[0]!).school].firstBeat === 1,
    )
    .map(s => finding('bow.firstBeatUp', 'warning', where(s), { pass: s.pass }))
}

/** A repeated part that starts on the other bow the second time. */
function otherBow({ problem, strokes }: Found): Finding[] {
  const { tune, options } = problem
  if (strokes.at(-1)?.pass === 1 && strokes.every(s => s.pass === 1)) return []
  const first = new Map<string, Stroke>()
  const out: Finding[] = []
  let told = -2
  for (const s of strokes) {
    const key = s.notes[0]!
    const before = first.get(key)
    if (!before) {
      first.set(key, s)
      continue
    }
    const start = repeatStartOf(tune.measures, s.measureIndex)
    if (s.pass === 1 || told === start) continue
    told = start
    if (before.direction === s.direction) continue
    const part = options.partOf(s.measureIndex) ?? null
    const values = { part, first: before.direction, second: s.direction }
    const mends: Mend[] = [{ kind: 'stroke', note: key, direction: before.direction }]
    out.push(finding('bow.otherBow', 'warning', where(s), values, mends))
  }
  return out
}

/** The index of the measure where the repeat around a measure begins. */
function repeatStartOf(measures: Found['problem']['tune']['measures'], index: number): number {
  let i = index
  while (i > 0 && !measures[i]!.repeatStart && !(measures[i - 1]!.repeatEnd && !measures[i]!.endings)) i--
  return i
}

/** A phrase heard again that starts on the other bow. */
function kinOtherBow({ problem, written }: Found): Finding[] {
  const { phrases } = problem.options
  if ([...phrases.values()].every(kin => kin === null)) return []
  const starts = new Map<EventId, Stroke>()
  for (const s of written) if (phrases.has(s.notes[0]!)) starts.set(s.notes[0]!, s)
  return [...phrases].flatMap(([id, kin]) => {
    const [s, before] = [starts.get(id), kin === null ? undefined : starts.get(kin)]
    if (!s || !before || s.direction === before.direction) return []
    const values = { like: before.measure, first: before.direction, second: s.direction }
    return [finding('bow.kinOtherBow', 'note', where(s), values)]
  })
}

/** A last note shorter than this is no ending. */
const ENDING_SECONDS = 0.8

function endsUp({ problem, strokes }: Found): Finding[] {
  const s = strokes.at(-1)
  if (!s || s.direction === 'down' || s.seconds < ENDING_SECONDS || s.strength === 3) return []
  if (POLICIES[problem.options.planOf(s.notes[0]!).school].lastStroke < 0.5) return []
  return [finding('bow.endsUp', 'note', where(s))]
}

/**
 * A stroke is short of hair when it gets less than this share of what it wants; one is fast with more than so
 * much.
 */
const SHORT_OF_HAIR = 0.55
const FAST = 1.7
const LONG_SECONDS = 0.8

function hairFindings({ problem, strokes }: Found): Finding[] {
  const { hair } = problem.options
  const out: Finding[] = []
  strokes.forEach((s, i) => {
    if (s.pass > 1) return
    const given = Math.abs(s.to - s.from)
    const wanted = wantedLength(s.seconds, s.loudness, s.accent)
    if (given < SHORT_OF_HAIR * wanted) {
      const end = s.direction === 'down' ? ('tip' as const) : ('frog' as const)
      const values = { end, given: Math.round(inCm(given, hair)), wanted: Math.round(inCm(wanted, hair)) }
      const starts = s.direction === 'down' ? s.from : 1 - s.from
      const code =
        s.seconds >= LONG_SECONDS && starts > 0.5 ? ('bow.wrongEnd' as const) : ('bow.hairRunsOut' as const)
      return void out.push(finding(code, 'warning', where(s), values))
    }
    const before = strokes[i - 1]
    if (!before || given < FAST * wanted || before.seconds < 1.9 * s.seconds || given < 0.2) return
    const times = Math.round((given / wanted) * 10) / 10
    out.push(finding('bow.fastReturn', 'note', where(s), { times }))
  })
  return out
}

/** Once: where the hair would end if every stroke took what it wants, wherever the bow began. */
function driftFinding({ problem, strokes }: Found): Finding[] {
  const drift = naturalDrift(strokes)
  const i = drift.findIndex(offTheHair)
  if (i < 0 || strokes[i]!.pass > 1) return []
  const s = strokes[i]!
  const start = strokes.slice(0, i + 1).findLastIndex((x, k) => k === 0 || setAnew(x))
  const by = inCm(Math.abs(drift[i]!.to - drift[start]!.from), problem.options.hair)
  const end = s.direction === 'down' ? ('tip' as const) : ('frog' as const)
  return [finding('bow.drifts', 'note', where(s), { end, cm: Math.round(by), from: strokes[start]!.measure })]
}

/** Notes a second inside one bow that are still heard apart, and the most in one bow. */
const MOST_NOTES = 16

function slurFindings({ problem, written }: Found): Finding[] {
  const { stringOf } = problem.options
  const bears = bearingOf(problem.options)
  const out: Finding[] = []
  for (const s of written) {
    if (s.tones.length < 2) {
      if (s.seconds <= bears * LONGEST) continue
      const bows = Math.ceil(s.seconds / bears)
      out.push(finding('bow.tooLong', 'warning', where(s), { seconds: Math.round(s.seconds), bows }))
      continue
    }
    const skip = s.tones.findIndex((t, i) => i > 0 && Math.abs(stringOf(t) - stringOf(s.tones[i - 1]!)) > 1)
    if (skip > 0) {
      const mends: Mend[] = [{ kind: 'bow', edits: [{ note: s.tones[skip]!, way: 'part' }] }]
      out.push(finding('bow.slurSkips', 'warning', { measure: s.measure, note: s.tones[skip]! }, {}, mends))
    }
    if (s.seconds > bears * OVERLONG || s.tones.length > MOST_NOTES) {
      const at = partingOf(s, problem.tones)
      const mends: Mend[] = [{ kind: 'bow', edits: [{ note: at, way: 'part' }] }]
      out.push(
        finding(
          'bow.crowded',
          'warning',
          where(s),
          { notes: s.tones.length, seconds: Math.round(s.seconds * 10) / 10 },
          mends,
        ),
      )
    }
  }
  return out
}

/** A single note may last so many singing bows; a slur less, because it should still sing. */
const LONGEST = 2.2
const OVERLONG = 1.45

/** Where a slur is best parted: at its strongest beat, the nearer the middle the better. */
export function partingOf(s: Stroke, tones: Found['problem']['tones']): EventId {
  const own = s.tones.slice(1)
  const strength = new Map(tones.map(t => [t.id, t.strength]))
  const middle = (own.length - 1) / 2
  const worth = (id: EventId, i: number) => (strength.get(id) ?? 0) - Math.abs(i - middle) / (own.length + 1)
  return own.reduce((best, id, i) => (worth(id, i) > worth(best, own.indexOf(best)) ? id : best), own[0]!)
}

/** Seconds a stroke may last and still be quick to and fro; and without which a lift is none. */
const SWING_SECONDS = 0.2
const LIFT_SECONDS = 0.15

function strokeFindings({ problem, strokes, written }: Found): Finding[] {
  const out: Finding[] = []
  for (const w of swings(strokes, SWING_SECONDS))
    out.push(finding('bow.swings', 'note', { measure: w.measure, note: w.note }, { strokes: w.strokes }))
  const first = new Set(written === strokes ? [] : written)
  strokes.forEach((s, i) => {
    if (written !== strokes && !first.has(s)) return
    const last = strokes[i - 1]
    if (s.lift && last && s.restBefore < LIFT_SECONDS && last.seconds < LONG_SECONDS) {
      const pinned = problem.options.pins[s.notes[0]!]
      const mends: Mend[] = pinned ? [{ kind: 'unpin', note: s.notes[0]!, what: 'stroke' }] : []
      out.push(finding('bow.liftNoTime', 'warning', where(s), {}, mends))
    }
    if (s.accent && s.direction === 'up' && s.from > 0.8)
      out.push(finding('bow.accentUpTip', 'note', where(s)))
  })
  return out
}

/** Pins that can't be met, or contradict one another. */
function pinFindings({ problem, strokes }: Found): Finding[] {
  const { pins, joins } = problem.options
  const asked = new Set([...Object.keys(pins), ...Object.keys(joins)])
  if (asked.size === 0) return []
  const begins = new Map<EventId, Stroke>()
  for (const s of strokes) if (s.pass === 1 && asked.has(s.notes[0]!)) begins.set(s.notes[0]!, s)
  const tones = new Map<EventId, BowTone>()
  for (const t of problem.tones) if (t.pass === 1 && asked.has(t.id)) tones.set(t.id, t)
  const out: Finding[] = []
  for (const [note, pin] of Object.entries(pins)) {
    const t = tones.get(note)
    if (!t) continue
    const s = begins.get(note)
    const at = { measure: t.measure, note }
    const mends: Mend[] = [{ kind: 'unpin', note, what: 'stroke' }]
    if (t.slurred) mends.unshift({ kind: 'join', note, slurred: false })
    if (pin.direction && (!s || s.direction !== pin.direction)) {
      if (s || strokeAt(strokes, note)?.direction !== pin.direction || t.slurred)
        out.push(finding('bow.pinUnmet', 'warning', at, { direction: pin.direction }, mends))
    } else if (pin.way && (!s || (s.way !== pin.way && strokes[0] !== s)))
      out.push(finding('bow.wayUnmet', 'warning', at, { way: pin.way }, mends))
  }
  for (const [note, on] of Object.entries(joins)) {
    const t = tones.get(note)
    if (!on || !t || t.restBefore === 0) continue
    const mends: Mend[] = [{ kind: 'join', note, slurred: false }]
    out.push(finding('bow.slurOverRest', 'warning', { measure: t.measure, note }, {}, mends))
  }
  return out
}

const strokeAt = (strokes: readonly Stroke[], note: EventId) => strokes.find(s => s.notes.includes(note))
