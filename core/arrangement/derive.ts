/**
 * From a tune and a recipe to everything that is shown: the one way results come about. Five stages one after
 * another (arrange, form, lay out, finger, bow), then all of it put together; each is kept by the inputs it
 * names.
 */
import type { BowTaste } from '#core/instruments/taste'
import { bowTune } from '#core/bowing/bowing'
import type { Bowing } from '#core/bowing/stroke'
import { newFingeringCache, type FingeringCache } from '#core/fingering/cache'
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
import { fingeringProblem, playableTones, solveFingering, type Fingering } from '#core/fingering/fingering'
import type { FingeringProblem } from '#core/fingering/problem'
import type { Finding } from '#core/findings/finding'
import { withHand, type Hand } from '#core/form/derivedKin'
import { analyseForm, type Form } from '#core/form/form'
import { togetherOf } from '#core/form/together'
import { tuningFindings } from '#core/instruments/tunings'
import { eventOf, type EventId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import { arrange, isWrittenFor, rebowedFindings, refusedFindings, type Arranged } from './arrange'
import { playedChanges } from './changes'
import type { DeriveContext } from './context'
import { bowingOptions } from './bowOptions'
import { fingeringOptions, tempoOf } from './handOptions'
import { Memory } from './memory'
import { loneNoteFindings } from '#core/fingering/loneNote'
import { withReachMends } from './reachMends'
import type { Arrangement } from './recipe'
import { standsOf, stretchesAsPlayed, taughtAsPlayed } from './taughtPlayed'

export interface Derived {
  /** What the recipe made of the notes. */
  readonly arranged: Arranged
  /** The tune as this arrangement plays it. */
  readonly tune: Tune
  readonly tempo: Tempo
  readonly joined: ReadonlySet<EventId>
  readonly form: Form
  readonly fingering: Fingering
  readonly shifts: readonly Shift[]
  readonly crossings: readonly Crossing[]
  readonly holds: readonly Span[]
  readonly blocks: readonly Span[]
  readonly bowing: Bowing
  readonly findings: readonly Finding[]
}

/**
 * What derivations remember from one to the next. It only saves time: the result is the same with a fresh
 * one.
 */
export class DeriveMemory extends Memory {
  /** Costs that edited tunes, and arrangements alike, share. */
  readonly costs: FingeringCache = newFingeringCache()
}

/** What the hand depends on in a recipe, but for the fingers pinned. */
function heldBy({ played }: Arrangement, { learner, model, taste }: DeriveContext) {
  const { instrument, size, measured, tuning, level, tempo, schools, passages } = played
  const { bow: _, ...hand } = schools
  const span = played.span ?? learner?.span
  return { instrument, size, measured, tuning, level, tempo, hand, span, passages, model, taste }
}

/** What a recipe makes of the notes, remembered like everything else. */
export function arrangedOf(
  tune: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): Arranged {
  const { key, octave, pins, instrument } = recipe.played
  // Only where the octave is to be found does it hang on the hand.
  const found = octave === 'auto' && !isWrittenFor(tune, instrument) && heldBy(recipe, context)
  const changes = playedChanges(recipe.played)
  const values = { key, octave, changes, joins: pins.joins, instrument, found, clef: recipe.shown.clef }
  return memory.stage('arrange', [tune], values, () => arrange(tune, recipe, context, memory.costs))
}

function formOf(arranged: Arranged, recipe: Arrangement, memory: Memory): Form {
  const { tune } = arranged
  const { boundaries, kin } = taughtAsPlayed(recipe.taught, standsOf(arranged))
  const tempo = tempoOf(tune, recipe)
  return memory.stage('form', [tune], { boundaries, kin, tempo }, () =>
    analyseForm(tune, { boundaries, kin, tempo }),
  )
}

function problemOf(
  { tune, joined }: Arranged,
  form: Form,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): FingeringProblem {
  return memory.stage('layOut', [tune, form, joined], heldBy(recipe, context), () =>
    fingeringProblem(
      tune,
      { ...fingeringOptions(tune, recipe, joined, context), together: togetherOf(form) },
      memory.costs,
    ),
  )
}

function fingeringOf(problem: FingeringProblem, recipe: Arrangement, memory: Memory): Fingering {
  const { fingers } = recipe.played.pins
  return memory.stage('finger', [problem], fingers, () =>
    solveFingering(problem, fingers, memory.newest<Fingering>('finger')),
  )
}

function bowingOf(
  { tune, joined, rebowed }: Arranged,
  form: Form,
  fingering: Fingering,
  recipe: Arrangement,
  taste: BowTaste | undefined,
  memory: Memory,
): Bowing {
  const { instrument, size, schools, bow, pins } = recipe.played
  const tempo = tempoOf(tune, recipe)
  // Of the hand the bow knows only the strings.
  const strings = fingering.notes.map(n => n.string).join('')
  const { strokes, joins } = pins
  const values = { tempo, instrument, size, school: schools.bow, bow, strokes, joins, strings, taste }
  return memory.stage('bow', [tune, joined, form], values, () =>
    bowTune(
      tune,
      bowingOptions(tune, recipe, joined, form, fingering, rebowed, taste),
      memory.newest<Bowing>('bow'),
    ),
  )
}

/**
 * The places a hand has for every note, before any is chosen; and what lies off the instrument. A small part
 * of what {@link derive} does.
 */
export function placesOf(
  tune: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): { readonly states: FingeringProblem['states']; readonly findings: readonly Finding[] } {
  const { tune: played, joined } = arrangedOf(tune, recipe, context, memory)
  const options = fingeringOptions(played, recipe, joined, context)
  const { sets, findings } = playableTones(played, options, memory.costs)
  return { states: sets.map(s => s.states), findings }
}

/** Pure but for `memory`: the result is the same with a fresh one. */
export function derive(
  tune: Tune,
  asked: Arrangement,
  context: DeriveContext,
  memory = new DeriveMemory(),
): Derived {
  const arranged = arrangedOf(tune, asked, context, memory)
  const recipe = stretchesAsPlayed(asked, arranged)
  const found = formOf(arranged, recipe, memory)
  const problem = problemOf(arranged, found, recipe, context, memory)
  const fingering = fingeringOf(problem, recipe, memory)
  const bowing = bowingOf(arranged, found, fingering, recipe, context.bowTaste, memory)
  return memory.stage('assemble', [arranged, found, fingering, bowing], context.model, () =>
    assemble(arranged, found, fingering, bowing, recipe, context),
  )
}

function assemble(
  arranged: Arranged,
  found: Form,
  fingering: Fingering,
  bowing: Bowing,
  recipe: Arrangement,
  { model }: DeriveContext,
): Derived {
  const { options } = fingering.problem
  const { tuning, instrument } = recipe.played
  const shifts = shiftsOf(fingering, model)
  return {
    arranged,
    tune: arranged.tune,
    tempo: options.tempo,
    joined: arranged.joined,
    form: withHand(found, handOf(fingering, bowing)),
    fingering,
    shifts,
    crossings: crossingsOf(fingering),
    holds: holdsOf(fingering),
    blocks: blocksOf(fingering),
    bowing,
    findings: [
      ...refusedFindings(arranged.refused),
      ...rebowedFindings(arranged),
      ...(tuning ? tuningFindings(instrument, tuning) : []),
      ...withReachMends(fingering.findings, arranged, recipe, options),
      ...loneNoteFindings(fingering),
      ...shiftFindings(shifts, options.tempo),
      ...bowing.findings,
    ],
  }
}

/**
 * What kinship asks of hand and bow: the top finger of every note, and the direction of the stroke it begins,
 * the first time through.
 */
function handOf(fingering: Fingering, bowing: Bowing): Hand {
  const fingers = new Map(
    fingering.notes.map(n => [eventOf(n.id), { finger: n.finger, string: n.string, offset: n.offset }]),
  )
  const bows = new Map(bowing.written.map(s => [s.notes[0]!, s.direction]))
  return { fingers, bows }
}
