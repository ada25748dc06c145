/**
 * From a tune and a recipe to everything that is shown: the one way results come about. Stages one after another (the
 * line, its form, its place on the instrument, lay out, finger, bow), then all of it put together; each is
 * kept by the inputs it names.
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
import { withFactsOf, withoutFacts, type Tune } from '#core/music/tune'
import { ossiaOf } from '#core/fingering/ossia'
import type { HeadPlace } from '#core/fingering/candidates'
import { formIn } from '#core/form/formIn'
import { arrange, rebowedFindings, refusedFindings, type Arranged } from './arrange'
import { ownLine, type PartLine } from './line'
import { isOctaveOpen, octaveOf } from './octave'
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
  /** How the notes that differ are played in the other line that is asked for beside this one, by event. */
  readonly ossia: ReadonlyMap<string, readonly HeadPlace[]>
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

/** What the part plays, remembered by the music alone: a tune under another title is the same line. */
function lineOf(tune: Tune, recipe: Arrangement, memory: Memory): PartLine {
  const music = memory.same('music', tune, () => withoutFacts(tune))
  const values = { changes: playedChanges(recipe.played), joins: recipe.played.pins.joins }
  return memory.stage('line', [music], values, () => ownLine(music, recipe))
}

/** The line where a recipe plays it, remembered like everything else. */
export function arrangedOf(
  tune: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  memory = new DeriveMemory(),
): Arranged {
  return arrangedLine(lineOf(tune, recipe, memory), recipe, context, memory)
}

function arrangedLine(
  line: PartLine,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): Arranged {
  const { key, instrument } = recipe.played
  const find = () => octaveOf(line, recipe, context, memory.costs)
  // Only where the octave is to be found does it hang on the hand.
  const octave = isOctaveOpen(line, recipe)
    ? memory.stage('octave', [line], { key, hand: heldBy(recipe, context) }, find)
    : find()
  const values = { key, octave, instrument, clef: recipe.shown.clef }
  return memory.stage('arrange', [line], values, () => arrange(line, recipe, octave))
}

/** The form is heard once in a line, in whatever key and octave it is played. */
function formOf(line: PartLine, arranged: Arranged, recipe: Arrangement, memory: Memory): Form {
  const { boundaries, kin } = taughtAsPlayed(recipe.taught, standsOf(line))
  const tempo = tempoOf(line.tune, recipe)
  const heard = memory.stage('form', [line], { boundaries, kin, tempo }, () =>
    analyseForm(line.tune, { boundaries, kin, tempo }),
  )
  return memory.stage('place', [heard, arranged], null, () => formIn(heard, arranged.tune))
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
  const music = deriveMusic(tune, asked, context, memory)
  return memory.stage('facts', [music, tune], null, () => ({ ...music, tune: withFactsOf(music.tune, tune) }))
}

/** The same without the facts of the tune: it is the very same for the same music under another title. */
export function deriveMusic(
  tune: Tune,
  asked: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): Derived {
  const line = lineOf(tune, asked, memory)
  const arranged = arrangedLine(line, asked, context, memory)
  const recipe = stretchesAsPlayed(asked, arranged)
  const found = formOf(line, arranged, recipe, memory)
  const problem = problemOf(arranged, found, recipe, context, memory)
  const fingering = fingeringOf(problem, recipe, memory)
  const bowing = bowingOf(arranged, found, fingering, recipe, context.bowTaste, memory)
  const { ossia } = recipe.shown
  const other: OtherLine =
    ossia === 'none'
      ? NO_OTHER_LINE
      : memory.stage('ossia', [fingering], ossia, () => ossiaOf(fingering, ossia))
  return memory.stage('assemble', [arranged, found, fingering, bowing, other], context.model, () => ({
    ...assemble(arranged, found, fingering, bowing, recipe, context),
    ossia: other,
  }))
}

/** The other way to play the line, by event. */
type OtherLine = ReturnType<typeof ossiaOf>
const NO_OTHER_LINE: OtherLine = new Map()

function assemble(
  arranged: Arranged,
  found: Form,
  fingering: Fingering,
  bowing: Bowing,
  recipe: Arrangement,
  { model }: DeriveContext,
): Omit<Derived, 'ossia'> {
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
