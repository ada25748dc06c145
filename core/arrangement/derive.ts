/** From a tune and a recipe to everything that is shown: the one way results come about. */
import { bowTune, type Bowing } from '#core/bowing/bowing'
import {
  blocksOf,
  crossingsOf,
  holdsOf,
  shiftFindings,
  shiftsOf,
  type Crossing,
  type Shift,
  type Span,
} from '#core/fingering/derived'
import {
  fingeringProblem,  solveFingering,  type Fingering, type FingeringOptions, type FingeringProblem,
} from '#core/fingering/fingering' // prettier-ignore
import { slurredToPrevious } from '#core/fingering/tones'
import type { Finding } from '#core/findings/finding'
import { newFingeringCache, type FingeringCache } from '#core/fingering/cache'
import { withHand, type Hand } from '#core/form/derivedKin'
import { analyseForm, type Form } from '#core/form/form'
import { HAND_MODEL, type HandModel } from '#core/fingering/handModel'
import { togetherOf } from '#core/fingering/together'
import type { HandOptions } from '#core/instruments/hands'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { homeTuning, tuningFindings } from '#core/instruments/tunings'
import { defaultTempo, type Tempo } from '#core/music/metre'
import { intervalBetweenKeys } from '#core/music/key'
import type { Interval } from '#core/music/pitch'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { Clef, InstrumentId, Tune } from '#core/music/tune'
import { withReachMends } from './reachMends'
import type { Arrangement } from './recipe'

export interface Derived {
  /** The tune as this arrangement plays it: key and octave moved, clef of the instrument. */
  readonly tune: Tune
  readonly tempo: Tempo
  /** Octaves the tune was moved. */
  readonly octave: number
  readonly joined: ReadonlySet<string>
  readonly form: Form
  readonly fingering: Fingering
  readonly shifts: readonly Shift[]
  readonly crossings: readonly Crossing[]
  readonly holds: readonly Span[]
  readonly blocks: readonly Span[]
  readonly bowing: Bowing
  readonly findings: readonly Finding[]
}

/** Keeps the last fingering problem, so that a pin re-solves without laying it out anew. */
export interface DeriveCache {
  key?: string
  tune?: Tune
  laidOut?: {
    readonly problem: FingeringProblem
    readonly found: Form
    /** As written, and as arranged. */
    readonly written: Tune
    readonly tune: Tune
    readonly octave: number
  }
  solved?: Fingering
  /** Costs that an edited tune shares with the one before. */
  costs?: FingeringCache
}

/** Clefs an instrument reads as its own: a tune in one of them stays where it is. */
const OWN_CLEFS: Readonly<Record<InstrumentId, readonly Clef[]>> = {
  violin: ['treble'], viola: ['alto'], cello: ['bass', 'tenor'], bass: ['bass', 'tenor'],
} // prettier-ignore

export const isWrittenFor = (tune: Tune, id: InstrumentId) =>
  tune.instrument ? tune.instrument === id : OWN_CLEFS[id].includes(tune.clef)

/** Vibrating string length in mm: a measured one wins. */
export const stringLength = (r: Pick<Arrangement, 'instrument' | 'size' | 'measured'>) =>
  r.measured ?? sizeOf(r.instrument, r.size).string

/** What an arrangement says of the hand. */
export const handOptions = (r: Arrangement): HandOptions => ({
  bassHand: r.schools.bassHand,
  ...(r.schools.reach !== 'cost' && { reach: r.schools.reach }),
})

function fingeringOptions(tune: Tune, recipe: Arrangement, joined: ReadonlySet<string>): FingeringOptions {
  return {
    instrument: recipe.instrument,
    length: stringLength(recipe),
    tuning: recipe.tuning ?? homeTuning(recipe.instrument),
    open: recipe.schools.open,
    tempo: recipe.tempo ?? tune.tempo ?? defaultTempo(tune.metre),
    ...(recipe.level !== null && { level: recipe.level }),
    hand: handOptions(recipe),
    ...(recipe.span !== null && { span: recipe.span }),
    rules: recipe.passages,
    joined,
  }
}

/** The events that take the same bow as the one before: the tune's slurs, changed by the recipe. */
export function joinedEvents(tune: Tune, joins: Arrangement['pins']['joins']): Set<string> {
  const joined = slurredToPrevious(tune)
  for (const [id, on] of Object.entries(joins)) {
    if (on) joined.add(id)
    else joined.delete(id)
  }
  return joined
}

/** Slurs as runs of joined events: what the page shows when the recipe changed them. */
function slursOf(tune: Tune, joined: ReadonlySet<string>): Tune['slurs'] {
  const slurs: { from: string; to: string }[] = []
  let [before, open] = ['', false]
  for (const { id } of tune.measures.flatMap(m => m.events)) {
    if (!joined.has(id) || before === '') open = false
    else if (open) slurs[slurs.length - 1]!.to = id
    else {
      slurs.push({ from: before, to: id })
      open = true
    }
    before = id
  }
  return slurs
}

/** An octave higher costs a little by itself, so that of two that lie alike the lower is taken. */
const HIGHER_OCTAVE = 0.5

/**
 * Where a tune lies lowest and easiest on an instrument it was not written for: the octave with the fewest notes off the instrument, then
 * the cheapest fingering.
 */
export function chooseOctave(tune: Tune, recipe: Arrangement, joined: ReadonlySet<string>): number {
  if (isWrittenFor(tune, recipe.instrument)) return 0
  let best = { octave: 0, missing: Infinity, cost: Infinity }
  for (const octave of [-3, -2, -1, 0, 1]) {
    const problem = fingeringProblem(
      transposeTune(tune, octaveShift(octave)),
      fingeringOptions(tune, recipe, joined),
    )
    const missing = problem.findings.filter(f => f.severity === 'error').length
    if (missing > best.missing) continue
    const cost = solveFingering(problem).total + octave * HIGHER_OCTAVE
    if (missing < best.missing || cost < best.cost) best = { octave, missing, cost }
  }
  return best.octave
}

/** How far an arrangement lies from the tune as written: its key by the shorter way, and its octave. */
export const shiftOf = (tune: Tune, recipe: Arrangement, octave: number): Interval =>
  intervalBetweenKeys(tune.key, recipe.key ? { ...recipe.key, mode: tune.key.mode } : tune.key, octave)

/** The tune in the recipe's key, in the octave asked for, with the instrument's clef. */
function arrangedTune(
  tune: Tune,
  recipe: Arrangement,
  joined: ReadonlySet<string>,
): { tune: Tune; octave: number } {
  const keyed = recipe.key ? transposeToKey(tune, recipe.key) : tune
  const octave = recipe.octave === 'auto' ? chooseOctave(keyed, recipe, joined) : recipe.octave
  const clef = isWrittenFor(tune, recipe.instrument) ? tune.clef : INSTRUMENTS[recipe.instrument].clef
  const slurs = Object.keys(recipe.pins.joins).length > 0 ? slursOf(tune, joined) : tune.slurs
  return { tune: { ...transposeTune(keyed, octaveShift(octave)), clef, slurs }, octave }
}

/** Pure but for `cache`, which only saves time: the result is the same with a fresh one. */
export function derive(
  tune: Tune,
  recipe: Arrangement,
  cache: DeriveCache = {},
  model: HandModel = HAND_MODEL,
): Derived {
  const joined = joinedEvents(tune, recipe.pins.joins)
  // Names and the other pins change nothing in how the problem is laid out.
  const key = JSON.stringify({
    ...recipe,
    name: '',
    phraseNames: {},
    ossia: 'none',
    plan: null,
    known: [],
    pins: { ...recipe.pins, fingers: {}, strokes: {} },
  })
  if (cache.key !== key || cache.tune !== tune || !cache.laidOut) {
    const arranged = arrangedTune(tune, recipe, joined)
    cache.costs ??= newFingeringCache()
    const options = fingeringOptions(arranged.tune, recipe, joined)
    const { boundaries, kin } = recipe.pins
    const found = analyseForm(arranged.tune, { boundaries, kin, tempo: options.tempo })
    const problem = fingeringProblem(arranged.tune, { ...options, together: togetherOf(found) }, cache.costs)
    Object.assign(cache, { key, tune, laidOut: { problem, found, written: tune, ...arranged } })
  }
  cache.solved = solveFingering(cache.laidOut!.problem, recipe.pins.fingers, cache.solved)
  return assemble(cache.laidOut!, recipe, joined, cache.solved, model)
}

function assemble(
  { problem, found, written, tune, octave }: NonNullable<DeriveCache['laidOut']>,
  recipe: Arrangement,
  joined: ReadonlySet<string>,
  fingering: Fingering,
  model: HandModel,
): Derived {
  const { tempo } = problem.options
  const shifts = shiftsOf(fingering, model)
  const bowing = bowTune(tune, {
    partOf: index => found.parts.find(p => index >= p.indices[0] && index <= p.indices[1])?.label,
    tempo,
    joined,
    school: recipe.schools.bow,
    hair: sizeOf(recipe.instrument, recipe.size).bow,
    pins: recipe.pins.strokes,
  })
  const form = withHand(found, handOf(fingering, bowing))
  return {
    tune,
    tempo,
    octave,
    joined,
    form,
    fingering,
    shifts,
    crossings: crossingsOf(fingering),
    holds: holdsOf(fingering),
    blocks: blocksOf(fingering),
    bowing,
    findings: [
      ...(recipe.tuning ? tuningFindings(recipe.instrument, recipe.tuning) : []),
      ...withReachMends(
        fingering.findings,
        { written, own: isWrittenFor(written, recipe.instrument), octave },
        recipe,
        problem.options,
      ),
      ...shiftFindings(shifts, tempo),
      ...bowing.findings,
    ],
  }
}

/** What kinship asks of hand and bow: the top finger of every note, and the direction of the stroke it begins, the first time through. */
function handOf(fingering: Fingering, bowing: Bowing): Hand {
  const fingers = new Map(
    fingering.notes.map(n => [n.id.split('.')[0]!, { finger: n.finger, string: n.string, offset: n.offset }]),
  )
  const bows = new Map(bowing.written.map(s => [s.notes[0]!, s.direction]))
  return { fingers, bows }
}
