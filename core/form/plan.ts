/**
 * The shortest way to learn a tune: what is new in each phrase, an order to take the phrases in, and the
 * steps that stitch them: one, two, one and two, three, four, three and four, the part, with its repeat.
 */
import { secondsPerQuarter, type Tempo } from '#core/music/metre'
import { toNumber } from '#core/music/fraction'
import { isLoose, type Kin } from './kinship'
import { differing, sameRhythm } from './likeness'
import { TICKS_PER_QUARTER } from './material'
import { barKey, barsOf } from './bars'
import type { Form, Phrase } from './form'

export const ORDERS = ['written', 'least new', 'hardest'] as const
export type Order = (typeof ORDERS)[number]

/** What the minutes assume; a studio may see them otherwise. */
export const PACE = {
  /** Slow tempo as a share of the one aimed at. */
  slow: 0.6,
  /** Times the teacher plays and the learner answers, for a phrase of new notes only; a stitched stretch. */
  times: 6,
  stitched: 3,
  /** Seconds of words and setting the hand for a step. */
  words: 30,
  /** Share of the time that notes known from kin still need. */
  known: 0.3,
}

export interface PlanPhrase {
  readonly label: string
  readonly notes: number
  readonly newNotes: number
  /** Measures in which something is new. */
  readonly newMeasures: readonly number[]
  /** Share of the tune's notes known once it is learned, 0 to 1. */
  readonly knownAfter: number
  /** Notes a second with what makes them hard; a relative number. */
  readonly hardness: number
  /** Much harder than the phrase before: who rushes that one wrecks this one. */
  readonly doNotRush: boolean
  readonly newRhythm: boolean
  /** Measures much harder than the rest: to be taken by themselves. */
  readonly awkward: readonly number[]
}

export type StepKind = 'count' | 'clap' | 'one string' | 'measures' | 'phrase' | 'together' | 'part' | 'tune'
export interface PlanStep {
  /** Stays the same as long as the phrases do. */
  readonly id: string
  readonly kind: StepKind
  readonly phrases: readonly string[]
  readonly measures: readonly number[]
  readonly repeat: boolean
  readonly minutes: number
}

export interface Plan {
  readonly order: readonly string[]
  readonly phrases: readonly PlanPhrase[]
  readonly steps: readonly PlanStep[]
}

export interface PlanOptions {
  readonly order: Order
  readonly tempo: Tempo
  /** By event id: how much harder than a plain note it is (a shift, a crossing, an extension). */
  readonly hard?: ReadonlyMap<string, number>
}

const noteIds = (p: Phrase) => p.stretch.tones.filter(t => t.midi !== null).map(t => t.id)

/** Moved to other notes, an octave too, is known by ear and not by hand. */
const knownByHand = (k: Kin) =>
  !isLoose(k.relation) && !['transposed', 'octave', 'declared'].includes(k.relation)

/** What has been learned so far. */
class Known {
  private readonly labels = new Set<string>()
  private readonly bars = new Set<string>()
  /** By label: learned phrases that are kin to it, though told of the later phrase. */
  private readonly teaches = new Map<string, Phrase[]>()

  add(p: Phrase): void {
    this.labels.add(p.label)
    for (const key of barKeys(p)) this.bars.add(key)
    for (const kin of p.kin) {
      if (!knownByHand(kin)) continue
      this.teaches.set(kin.phrase, [...(this.teaches.get(kin.phrase) ?? []), p])
    }
  }

  /**
   * Notes of a phrase that are new: against all that is known together, so that a phrase made of one's
   * beginning and another's ending is known; and bar by bar, wherever a bar was played before, in this phrase
   * too.
   */
  freshIn(p: Phrase): string[] {
    const fresh = new Set(noteIds(p))
    const keep = (differences: readonly string[]) => {
      const still = new Set(differences)
      for (const id of fresh) if (!still.has(id)) fresh.delete(id)
    }
    for (const kin of p.kin) if (this.labels.has(kin.phrase) && knownByHand(kin)) keep(kin.differences)
    for (const k of this.teaches.get(p.label) ?? [])
      keep(differing(p.stretch, k.stretch).flatMap(t => (t.midi === null ? [] : [t.id])))
    const here = new Set<string>()
    barsOf(p.stretch).forEach((bar, i) => {
      const key = barKeys(p)[i]!
      if (this.bars.has(key) || here.has(key)) for (const t of bar.tones) fresh.delete(t.id)
      here.add(key)
    })
    return noteIds(p).filter(id => fresh.has(id))
  }
}

const keysOf = new WeakMap<Phrase['stretch'], readonly string[]>()
function barKeys({ stretch }: Phrase): readonly string[] {
  const found = keysOf.get(stretch) ?? barsOf(stretch).map(barKey)
  keysOf.set(stretch, found)
  return found
}

/** Notes of a phrase that are new to who knows the others given. */
export function newNotes(p: Phrase, known: readonly Phrase[]): string[] {
  const all = new Known()
  known.forEach(k => all.add(k))
  return all.freshIn(p)
}

const isSame = (p: Phrase) => p.kin[0]?.relation === 'same'

/** The phrases to learn, in order; those that are the same as another are left out. */
export function learningOrder(
  form: Form,
  order: Order = 'written',
  hardness?: (p: Phrase) => number,
): string[] {
  const fresh = form.phrases.filter(p => !isSame(p))
  if (order === 'hardest' && hardness)
    return [...fresh].sort((a, b) => hardness(b) - hardness(a)).map(p => p.label)
  if (order !== 'least new') return fresh.map(p => p.label)
  const out: Phrase[] = []
  const known = new Known()
  const left = [...fresh]
  while (left.length > 0) {
    const counts = left.map(p => known.freshIn(p).length)
    const [next] = left.splice(counts.indexOf(Math.min(...counts)), 1)
    known.add(next!)
    out.push(next!)
  }
  return out.map(p => p.label)
}

/** Everything a lesson needs: order, what is new, steps with minutes. */
export function planOf(form: Form, options: PlanOptions): Plan {
  const hardness = (p: Phrase) => hardnessOf(p, options)
  const order = learningOrder(form, options.order, hardness)
  const byLabel = new Map(form.phrases.map(p => [p.label, p]))
  const total = form.phrases.reduce((n, p) => n + noteIds(p).length, 0)
  const seconds = form.phrases.reduce((n, p) => n + secondsOf(p, options.tempo), 0)
  const mean =
    form.phrases.reduce((n, p) => n + hardness(p) * secondsOf(p, options.tempo), 0) / Math.max(0.5, seconds)
  const learned: Phrase[] = []
  const known = new Known()
  let left = form.phrases
  const phrases = order.map(label => {
    const p = byLabel.get(label)!
    const fresh = known.freshIn(p)
    const before = form.phrases[form.phrases.indexOf(p) - 1]
    const newRhythm = !learned.some(k => sameRhythm(p.stretch, k.stretch)) && uneven(p)
    learned.push(p)
    known.add(p)
    // What is known stays known: only the rest is looked at again.
    left = left.filter(x => x !== p && known.freshIn(x).length > 0)
    const unknown = left.reduce((n, x) => n + known.freshIn(x).length, 0)
    return {
      label,
      notes: noteIds(p).length,
      newNotes: fresh.length,
      newMeasures: measuresOf(p, fresh),
      knownAfter: total > 0 ? 1 - unknown / total : 1,
      hardness: Math.round(hardness(p) * 10) / 10,
      doNotRush:
        before !== undefined && hardness(p) > hardness(before) * 1.35 && hardness(p) - hardness(before) > 0.8,
      newRhythm,
      awkward: awkwardMeasures(p, options, mean),
    }
  })
  return { order, phrases, steps: stepsOf(form, phrases, options) }
}

function measuresOf(p: Phrase, ids: readonly string[]): number[] {
  const set = new Set(ids)
  return [...new Set(p.notes.filter(n => set.has(n.event.id)).map(n => n.measure.number))]
}

const secondsOf = (p: Phrase, tempo: Tempo) =>
  (p.stretch.tones.reduce((sum, t) => sum + t.length, 0) / TICKS_PER_QUARTER) * secondsPerQuarter(tempo)

function hardnessOf(p: Phrase, { tempo, hard }: PlanOptions): number {
  const weight = noteIds(p).reduce((sum, id) => sum + 1 + (hard?.get(id) ?? 0), 0)
  return weight / Math.max(0.5, secondsOf(p, tempo))
}

/** So much harder than the mean is awkward. */
const AWKWARD = 1.7

/** Measures much harder than the tune is on the whole, when the phrase has others. */
function awkwardMeasures(p: Phrase, { tempo, hard }: PlanOptions, mean: number): number[] {
  const weights = new Map<number, number>()
  const lengths = new Map<number, number>()
  for (const { event, measure } of p.notes) {
    const weight = event.kind === 'note' ? 1 + (hard?.get(event.id) ?? 0) : 0
    weights.set(measure.number, (weights.get(measure.number) ?? 0) + weight)
    lengths.set(measure.number, (lengths.get(measure.number) ?? 0) + toNumber(event.duration))
  }
  const rate = (m: number) => weights.get(m)! / Math.max(0.5, lengths.get(m)! * secondsPerQuarter(tempo))
  return weights.size < 3 ? [] : [...weights.keys()].filter(m => rate(m) > mean * AWKWARD)
}

/** Dotted, tied, tupleted or off the beat: worth clapping first. */
function uneven(p: Phrase): boolean {
  const notes = p.notes.filter(n => n.event.kind === 'note')
  return notes.some(
    n => n.event.tuplet !== undefined || n.event.duration.n % 3 === 0 || n.event.duration.d >= 4,
  )
}

/**
 * The steps, part by part: each phrase, pairs, halves, the part with its repeat, and at the end all of it.
 */
function stepsOf(form: Form, phrases: readonly PlanPhrase[], options: PlanOptions): PlanStep[] {
  const steps: PlanStep[] = []
  const facts = new Map(phrases.map(p => [p.label, p]))
  const seconds = new Map(form.phrases.map(p => [p.label, secondsOf(p, options.tempo)]))
  const minutes = (labels: readonly string[], times: number) => {
    const once = labels.reduce((sum, l) => sum + seconds.get(l)!, 0) / PACE.slow
    return Math.max(0.5, Math.round(((once * 2 * times + PACE.words) / 60) * 2) / 2)
  }
  const add = (kind: StepKind, labels: readonly string[], times: number, more: Partial<PlanStep> = {}) =>
    steps.push({
      id: `${kind} ${labels.join('+')}`,
      kind,
      phrases: labels,
      measures: [],
      repeat: false,
      minutes: minutes(labels, times),
      ...more,
    })
  const single = (label: string) => {
    const fact = facts.get(label)
    if (!fact) return
    if (fact.newRhythm) for (const kind of ['count', 'clap', 'one string'] as const) add(kind, [label], 1)
    if (fact.awkward.length > 0) add('measures', [label], 1, { measures: fact.awkward })
    const share = fact.notes > 0 ? fact.newNotes / fact.notes : 1
    add('phrase', [label], Math.max(2, Math.round(PACE.times * (PACE.known + (1 - PACE.known) * share))), {
      measures: fact.newNotes < fact.notes ? fact.newMeasures : [],
    })
  }
  const parts = form.parts.filter(p => !p.again)
  if (options.order !== 'written') {
    // Out of the order of the tune each phrase comes by itself first; what they make together comes after.
    for (const p of phrases) single(p.label)
  }
  for (const part of parts) {
    const labels = part.phrases.map(p => p.label)
    for (let i = 0; i < labels.length; i += 2) {
      for (const label of labels.slice(i, i + 2)) if (options.order === 'written') single(label)
      if (i + 1 < labels.length && labels.length > 2) add('together', labels.slice(i, i + 2), PACE.stitched)
      if (i >= 2 && i + 2 < labels.length) add('together', labels.slice(0, i + 2), 2)
    }
    if (labels.length > 1) add('part', labels, PACE.stitched, { repeat: part.repeated })
  }
  if (form.parts.length > 1)
    add(
      'tune',
      form.phrases.map(p => p.label),
      1,
    )
  return steps
}
