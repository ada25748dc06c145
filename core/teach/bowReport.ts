/**
 * What a teacher says of a bowing: findings with mends that were tried, the way along the bow, the arm's
 * plan, how fast it goes and how it reads slowly.
 */
import type { Derived } from '#core/arrangement/derive'
import type { Stroke } from '#core/bowing/stroke'
import { bowCrossings, type BowCrossing } from '#core/bowing/crossings'
import {
  driftByMeasure,
  driftByPart,
  naturalDrift,
  type DriftPoint,
  type MeasureDrift,
} from '#core/bowing/drift'
import { proposeBowing, withMends, type BowMend } from '#core/bowing/proposals'
import { readAt, type SlowReading } from '#core/bowing/slowly'
import { finding, type BowEdit, type Finding } from '#core/findings/finding'
import type { HandModel } from '#core/instruments/handModel'
import { lettersOf } from '#core/instruments/instruments'
import { bowSkills } from '#core/levels/bowSkills'
import type { Arrangement } from '#core/arrangement/recipe'
import type { EventId } from '#core/music/ids'
import { bowCeilings, ceilingsOf, ceilingText, firstToGive } from './ceilings'

export interface BowReport {
  readonly findings: readonly Finding[]
  /** What everything together would change, and what it does to the first beats. */
  readonly edits: readonly BowEdit[]
  readonly mends: readonly BowMend[]
  readonly firstBeats: number
  readonly upNow: number
  readonly upThen: number
  /** Strokes of later times through, beside those of the first. */
  readonly later: readonly Stroke[]
  /** By written stroke: where it would be, were nobody minding the hair. */
  readonly natural: readonly DriftPoint[]
  readonly drift: readonly MeasureDrift[]
  readonly parts: readonly Omit<MeasureDrift, 'measure' | 'measureIndex'>[]
  readonly crossings: readonly BowCrossing[]
  readonly ceilings: readonly PhraseCeiling[]
  readonly slow: SlowReading
}

export interface PhraseCeiling {
  readonly id: EventId
  readonly label: string
  /**
   * "playable up to quarter note = 112; above that the bow in measure 3 is too fast"; null when nothing limits it
   * near this tempo.
   */
  readonly text: string | null
  readonly perMinute: number | null
}

/** A ceiling at more than so many times the tempo limits nobody. */
const FAR_OFF = 2.5

export function bowReport(d: Derived, recipe: Arrangement, model: HandModel): BowReport {
  const { bowing } = d
  const { options } = bowing.problem
  const proposal = proposeBowing(bowing, bowSkills(recipe.played.level))
  const drift = driftByMeasure(bowing.strokes, options.hair, options.partOf)
  const natural = naturalDrift(bowing.strokes)
  const written = new Set<Stroke>(bowing.written)
  return {
    ...proposal,
    findings: [...withMends(bowing, proposal), ...sparedCrossings(d, recipe)],
    later: bowing.strokes.filter(s => s.pass > 1 && !written.has(s)),
    natural: natural.filter((_, i) => written.has(bowing.strokes[i]!)),
    drift,
    parts: driftByPart(drift),
    crossings: bowCrossings(bowing.strokes, options.stringOf),
    ceilings: ceilings(d, model),
    slow: readAt(bowing, 0.5),
  }
}

/** The lower of what hand and bow bear, by phrase. */
function ceilings(d: Derived, model: HandModel): PhraseCeiling[] {
  const all = [...ceilingsOf(d.fingering, model), ...bowCeilings(d.bowing, d.tempo)]
  return d.form.phrases.map(p => {
    const first = firstToGive(all, new Set(p.events))
    const near = first && first.tempo.perMinute <= FAR_OFF * d.tempo.perMinute ? first : null
    return {
      id: p.events[0]!,
      label: p.label,
      text: near && ceilingText(near),
      perMinute: near?.tempo.perMinute ?? null,
    }
  })
}

/** An open string between two notes of the string below, where the fourth finger would keep the bow there. */
function sparedCrossings({ fingering, bowing }: Derived, recipe: Arrangement): Finding[] {
  const { tones, states, before, gaps } = fingering.problem
  const letters = lettersOf(recipe.played.instrument, recipe.played.tuning)
  const lead = (i: number) => states[i]?.[fingering.tables.path[i]!]?.lead
  const slurred = new Set(bowing.written.flatMap(s => s.tones.slice(1)))
  return tones.flatMap((t, i) => {
    const [a, here, b] = [lead(before[i]!), lead(i), before[i + 1] === i ? lead(i + 1) : undefined]
    if (!a || !here || !b || here.finger !== 0) return []
    const below = here.string + 1
    if (a.string !== below || b.string !== below) return []
    const quick = gaps[i - 1]!.seconds < QUICK || slurred.has(t.id)
    if (!quick || !states[i]!.some(s => s.lead.string === below && s.lead.finger === 4)) return []
    const note = t.heads.at(-1)!.id
    const mend = { kind: 'finger' as const, note, string: below, finger: 4 as const }
    return [
      finding('bow.sparedCrossing', 'note', { measure: t.measure, note }, { string: letters[below]! }, [
        mend,
      ]),
    ]
  })
}

/** Seconds within which two crossings are felt. */
const QUICK = 0.3
