import './plainSchemas'
import { expose } from 'comlink'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { toWrittenTune } from '#core/arrangement/arrange'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { Memory } from '#core/arrangement/memory'
import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt, whyAt } from '#core/fingering/explain'
import { solveFingering } from '#core/fingering/fingering'
import { tuningEffect } from '#core/arrangement/tuningEffect'
import { compareHands } from '#core/teach/compareHands'
import { alikeNotes, handReport } from '#core/teach/handReport'
import { chordSkeleton } from '#core/form/chords'
import { phraseFigures } from '#core/words/form'
import { tallyOf } from '#core/fingering/tally'
import { tradeText, tradeWords } from '#core/words/ways'
import { hardNotes } from '#core/teach/hardness'
import { overlayOf } from '#core/teach/overlay'
import { planOf } from '#core/form/plan'
import type { AbcBook } from '#core/formats/abc/book'
import type { FileTune } from '#core/formats/readFile'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { readSpoken } from '#core/formats/spoken/readSpoken'
import { writeSpoken } from '#core/formats/spoken/writeSpoken'
import { handOptions } from '#core/arrangement/handOptions'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { homeTuning } from '#core/instruments/tunings'
import { melodyPrint } from '#core/melody/print'
import { ABC_HOLDS_NOT, carryOver, SPOKEN_HOLDS_NOT } from '#core/music/carryOver'
import { keepIds } from '#core/music/keepIds'
import { eventOf, headOf, onEvent } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import { warmUps } from '#core/watch/warmUps'
import { watch } from '#core/watch/watch'
import {
  pack,
  type Asked,
  type BookPart,
  type CoreService,
  type FileResult,
  type SourceResult,
} from './contract'
import { benchResult, strokeView } from './benchResult'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { forLearner, withoutChanges, withoutVersion, withPlayed } from '#core/arrangement/edits'
import { leavesPart, type Change } from '#core/arrangement/change'
import { VersionsInKeys } from '#core/arranging/bestKey'
import { EasierVersions } from '#core/arranging/easier'
import { enriched } from '#core/arranging/enrich'
import { partChoices, partsPlayed, withLeaving } from '#core/arranging/parts'
import { bowDecisionOf } from '#core/taste/bowDecision'
import { decisionOf, ownPins } from '#core/taste/decision'
import { BOW, HAND } from '#core/taste/kinds'
import { decidedOn, relearned } from '#core/taste/learn'
import { slurId } from '#core/arranging/versionSlurs'
import { SPICES } from '#core/arranging/spices'
import { keptOf } from '#core/arranging/kept'
import { contentOf } from '#core/paper/content'
import { gradeOf } from '#core/grading/demands'
import { fitOf, isWithinReach } from '#core/grading/fit'
import { lowestLevel } from '#core/grading/lowest'
import { tryKey } from '#core/grading/keySearch'
import { bowReport } from '#core/teach/bowReport'
import type { TuneWithArrangements } from '#contract/documents'

/** The parser is large and only needed for text: fingers need not wait for it. */
const reader = () => import('#core/formats/abc/readAbc')

/** So many other ways are offered for a measure. */
const OTHERWISE = 3
const memory = new DeriveMemory()
/** The book that was listed last. */
let book: AbcBook | null = null
const printsOf = (list: readonly FileTune[]) => list.map(t => melodyPrint(t.tune))
/** What is only tried must not push out what is shown. */
const searching = new DeriveMemory()
/**
 * The page's documents arrive as copies: the same text means the same tune, so that what was worked out
 * holds.
 */
const tunes = new Map<string, Tune>()
const MOST_TUNES = 8
/**
 * The versions of the arrangement looked at, and of the one before: other levels of it share what was worked
 * out.
 */
const versions = new Memory(2)
/** What papers beside the arrangement hold: its original, another one under it. */
const onPaper = new DeriveMemory()

function sameTune(tune: Tune): Tune {
  const text = JSON.stringify(tune)
  const known = tunes.get(text) ?? tune
  tunes.delete(text)
  tunes.set(text, known)
  if (tunes.size > MOST_TUNES) tunes.delete(tunes.keys().next().value!)
  return known
}

/** What versions are made of, the same for the same parts. */
function partsOf(tune: Tune, recipe: Arrangement) {
  const parts = partsPlayed(tune, recipe)
  return { ...parts, tune: sameTune(parts.tune) }
}

const derived = ({ tune, recipe, context }: Asked) => derive(sameTune(tune), recipe, context, memory)

/** What the page is told of a derivation, remembered like the stages before it. */
function shown(asked: Asked) {
  const d = derived(asked)
  return memory.stage('shown', [d], asked.recipe, () => pack(benchResult(d, asked.recipe)))
}

/** The new reading with the old ids, and with what the text cannot hold. */
function keep(previous: Tune, read: Tune) {
  const { tune, renamed } = keepIds(previous, read)
  return { tune: carryOver(previous, tune, ABC_HOLDS_NOT), renamed }
}

const service: CoreService = {
  derive: shown,

  inspect(asked, id) {
    const d = derived(asked)
    const note = d.fingering.notes.find(n => n.id === id)
    if (!note) return null
    const { [id]: pin, ...others } = asked.recipe.played.pins.fingers
    // A pinned note shows what it could be without its own pin.
    const free = pin ? solveFingering(d.fingering.problem, others) : d.fingering
    const chosen = { string: note.string, finger: note.finger }
    const alternatives = alternativesAt(free, note.tone, 6)
    const best = free.notes.find(n => n.id === id)!
    const freeChoice = { string: best.string, finger: best.finger, extra: 0, changes: 0, difference: {} }
    const { model } = asked.context
    const tally = (path: readonly number[]) => tallyOf(free.problem, path, model)
    const own = tally(free.tables.path)
    const list = pin ? [{ ...freeChoice, path: free.tables.path }, ...alternatives] : alternatives
    return {
      id,
      why: whyAt(d.fingering, note.tone, pin !== undefined, headOf(note.id)),
      cost: costRecord(costsAt(d.fingering, note.tone)),
      alike: alikeNotes(d, id),
      alternatives: list
        .filter(a => a.string !== chosen.string || a.finger !== chosen.finger)
        .map(({ string, finger, extra, changes, difference, path }) => ({
          trade: tradeText(tradeWords(own, tally(path))),
          string,
          finger,
          extra,
          changes,
          differences: Object.entries(difference).map(([name, amount]) => ({ name, amount })),
        })),
    }
  },

  async read(text, previous, made) {
    const { tunes, findings } = (await reader()).readAbc(text)
    const first = tunes[0]
    if (!first) return pack<SourceResult>({ tune: null, findings, spans: [], tunesInText: 0, derived: null })
    const { tune, renamed } = previous
      ? keep(previous, first.tune)
      : { tune: first.tune, renamed: new Map<string, string>() }
    return pack<SourceResult>({
      tune,
      findings: first.findings,
      spans: [...first.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
      tunesInText: tunes.length,
      // Typed and shown in one go: the page need not send the tune back.
      derived: made && benchResult(derived({ tune, ...made }), made.recipe),
    })
  },

  write: writeAbc,

  speak(asked) {
    const d = derived(asked)
    return writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), spokenOptions(asked.recipe))
  },

  listen(text, asked) {
    const d = derived(asked)
    const heard = readSpoken(text, { ...spokenOptions(asked.recipe), key: d.tune.key, metre: d.tune.metre })
    if ('finding' in heard) return { tune: null, pins: {}, findings: [heard.finding], spans: [] }
    const { tune: kept, renamed } = keepIds(d.tune, heard.tune)
    const written = toWrittenTune(d.arranged, carryOver(d.tune, kept, SPOKEN_HOLDS_NOT))
    const said = Object.entries(heard.pins).map(([id, pin]) => {
      const event = eventOf(id)
      return [onEvent(id, renamed.get(event) ?? event), pin] as const
    })
    // Only what differs from the fingering that stands becomes a pin.
    const now = new Map(d.fingering.notes.map(n => [n.id, n]))
    const pins = said.filter(
      ([id, p]) => now.get(id)?.string !== p.string || now.get(id)?.finger !== p.finger,
    )
    return {
      tune: heard.tune.measures.length > 0 ? written : null,
      pins: Object.fromEntries(pins),
      findings: heard.findings,
      spans: [...heard.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
    }
  },

  hand(asked, question) {
    const { pins } = asked.recipe.played
    return pack(handReport(derived(asked), { ...question, model: asked.context.model, pins: pins.fingers }))
  },

  bow(asked) {
    const report = bowReport(derived(asked), asked.recipe, asked.context.model)
    return pack({ ...report, later: report.later.map(strokeView) })
  },

  decide(asked, id, taste) {
    const { recipe, context } = asked
    const d = derived({ ...asked, context: { model: context.model, learner: context.learner } })
    const pins = ownPins(asked.tune, recipe.played.pins.fingers)
    const { options } = d.fingering.problem
    const decision = Object.keys(pins).length > 0 ? decisionOf(d.tune, options, id, pins) : null
    return decidedOn(HAND, taste, id, decision)
  },

  decideBow({ tune, recipe, context }, id, taste) {
    return decidedOn(BOW, taste, id, bowDecisionOf(sameTune(tune), recipe, context, id, new DeriveMemory()))
  },

  relearn: taste => relearned(HAND, taste),
  relearnBow: taste => relearned(BOW, taste),

  grade(asked, table) {
    const d = derived(asked)
    const changes = playedChanges(asked.recipe.played)
    const kept = changes.some(c => c.accepted)
      ? keptOf(partsPlayed(asked.tune, asked.recipe).tune, applyChanges(asked.tune, changes).tune, d.tempo)
      : null
    return pack({
      grade: gradeOf(d, asked.recipe, table),
      kept,
      parts: partChoices(asked.tune, asked.recipe),
    })
  },

  easier({ tune, recipe, context }, level, key, table, fastest, another = 0) {
    const refused = refusalsOf(recipe, c => !leavesPart(c))
    const whole = withPlayed(withoutVersion(recipe), { level: null })
    const { tune: own, base, leaving } = partsOf(sameTune(tune), whole)
    const wanted = recipe.played.eased?.wanted ?? {}
    const o = { context, table, fastest, refused: refused.ids, another, wanted }
    const asked = { base, context, table, fastest, refused: [...refused.ids], another, wanted }
    const made =
      key === 'best'
        ? versions.stage('best', [own], asked, () => new VersionsInKeys(own, base, o)).best(level).eased
        : versions.stage('easier', [own], asked, () => new EasierVersions(own, base, o)).at(level)
    return pack(withRefusals(withLeaving(made.recipe, leaving), refused.changes))
  },

  otherwise({ tune, recipe, context }, event, table, fastest) {
    const { level, eased } = recipe.played
    if (level === null || !eased) return pack([])
    const refused = refusalsOf(recipe, c => !leavesPart(c))
    const whole = withPlayed(withoutVersion(recipe), { octave: recipe.played.octave })
    const { tune: own, base, leaving } = partsOf(sameTune(tune), whole)
    const o = {
      context,
      table,
      fastest,
      refused: refused.ids,
      wanted: eased.wanted ?? {},
      another: eased.another ?? 0,
    }
    const choices = new EasierVersions(own, base, o).otherwise(level, event, OTHERWISE)
    return pack(
      choices.map(c => ({ ...c, recipe: withRefusals(withLeaving(c.recipe, leaving), refused.changes) })),
    )
  },

  enrich({ tune, recipe, context }, spices, level, table) {
    const isSpice = (c: Change) => (SPICES as readonly string[]).includes(c.kind)
    const refused = refusalsOf(recipe, isSpice)
    const whole = withoutChanges(recipe, isSpice)
    if (spices.length === 0) return pack(withRefusals(whole, refused.changes))
    const { tune: own, base, leaving } = partsOf(sameTune(tune), whole)
    const made = enriched(own, base, { spices, level, context, table, refused: refused.ids })
    return pack(withRefusals(withLeaving(made.recipe, leaving), refused.changes))
  },

  reach(tune, learner, context, table) {
    const base = forLearner(newArrangement(learner.instrument, learner.size), learner)
    const graded = lowestLevel(tune, withPlayed(base, { level: null }), context, new DeriveMemory(), table)
    const fit = fitOf(graded.grade.demands, learner)
    const news = fit.news.flatMap(d => (d.asked.kind === 'skill' ? [d.asked.skill] : []))
    return pack({ within: graded.unplayable === 0 && isWithinReach(fit), level: graded.level, news })
  },

  tryKey: (tune, question, context, table) => {
    const search = {
      instruments: [question.instrument],
      keys: [question.key],
      tunings: 'all' as const,
      table,
    }
    return pack(tryKey(sameTune(tune), question, search, context, searching))
  },

  sheet: asked => pack(contentOf(derived(asked), asked.recipe, asked.context, onPaper)),

  strokes: asked => pack(derived(asked).bowing.written.map(strokeView)),

  compareHands: (asked, other) =>
    pack(compareHands(derived(asked), derived({ ...asked, recipe: other }), asked.context.model)),

  tunings: ({ tune, recipe, context }, list) =>
    [null, ...list].map(t => tuningEffect(sameTune(tune), recipe, t, context, memory)),

  async readFile(name, bytes, options) {
    const { openFile, readFile } = await import('#core/formats/readFile')
    const opened = openFile(name, bytes)
    book = opened?.book ?? null
    if (opened) {
      const { entries, findings } = opened
      return pack<FileResult>({
        kind: 'abc',
        tunes: [],
        findings,
        choices: [],
        taken: 0,
        prints: [],
        listed: entries,
      })
    }
    const result = readFile(name, bytes, options)
    return pack<FileResult>({ ...result, prints: printsOf(result.tunes), listed: null })
  },

  async tunesOfBook(which) {
    const { tuneOfBook } = await import('#core/formats/readFile')
    const open = book
    if (!open) throw new Error('The book is not open any more: choose the file again.')
    const tunes = which.map(i => tuneOfBook(open, i))
    return pack<BookPart>({ tunes, prints: printsOf(tunes) })
  },

  async writeFile(format, tune, recipe, context) {
    const { writeFile } = await import('#core/formats/writeFile')
    return writeFile(format, tune, recipe, context)
  },

  watch(asked) {
    const d = derived(asked)
    const { instrument } = asked.recipe.played
    const { known } = asked.recipe.taught
    return {
      ...watch(d, { instrument, ...(known.length > 0 && { known: new Set(known) }) }),
      warmUps: warmUps(d, instrument),
    }
  },

  teach(asked) {
    const d = derived(asked)
    return {
      plan: planOf(d.form, { order: asked.recipe.taught.order, tempo: d.tempo, hard: hardNotes(d) }),
      figures: Object.fromEntries(d.form.phrases.map(p => [p.events[0]!, phraseFigures(p)])),
      chords: chordSkeleton(asked.tune),
    }
  },

  overlay: (asked, first, second) => overlayOf(derived(asked), first, second),
}

/** What the teacher refused stays refused, and in the list, when a version is made anew. */
function refusalsOf({ played }: Arrangement, of: (c: Change) => boolean) {
  const changes = played.changes.filter(c => !c.accepted && of(c))
  const slurs = (played.eased?.slurred ?? []).filter(id => !played.pins.joins[id])
  return { changes, ids: new Set([...changes.map(c => c.id), ...slurs.map(id => slurId('slur', id))]) }
}
const withRefusals = (r: Arrangement, changes: readonly Change[]) =>
  withPlayed(r, { changes: [...r.played.changes, ...changes] })

const spokenOptions = ({ played }: Arrangement) => ({
  instrument: played.instrument,
  tuning: played.tuning ?? homeTuning(played.instrument),
  hand: handOptions(played),
})

/**
 * Works out a tune on its way to the page before the page asks: what it comes to is remembered. The worker is
 * named after its address (start.ts).
 */
async function warm(url: string) {
  const answer = await fetch(url)
  if (!answer.ok) return
  const { tune, arrangements } = (await answer.json()) as TuneWithArrangements
  const recipe = arrangements[0]?.arrangement
  if (recipe) shown({ tune, recipe, context: ASSUMED_HANDS })
}
// What fails here is met by whoever asks in earnest.
if (self.name) void warm(self.name).catch(() => {})

expose(service)
