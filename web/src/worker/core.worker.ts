import { expose } from 'comlink'
import { derive, type DeriveCache } from '#core/arrangement/derive'
import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt, whyAt } from '#core/fingering/explain'
import { solveFingering } from '#core/fingering/fingering'
import { tuningEffect } from '#core/arrangement/tuningEffect'
import { compareHands } from '#core/fingering/teach/compareHands'
import { alikeNotes, handReport } from '#core/fingering/teach/handReport'
import { chordSkeleton } from '#core/form/chords'
import { phraseFigures } from '#core/form/english'
import { hardNotes } from '#core/form/hardness'
import { overlayOf } from '#core/form/overlay'
import { planOf } from '#core/form/plan'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { readSpoken } from '#core/formats/spoken/readSpoken'
import { writeSpoken } from '#core/formats/spoken/writeSpoken'
import { handOptions, shiftOf } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import { homeTuning } from '#core/instruments/tunings'
import { melodyPrint } from '#core/melody/print'
import { ABC_HOLDS_NOT, carryOver, SPOKEN_HOLDS_NOT } from '#core/music/carryOver'
import { keepIds } from '#core/music/keepIds'
import { inverse } from '#core/music/pitch'
import { transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { warmUps } from '#core/watch/warmUps'
import { watch } from '#core/watch/watch'
import { pack, type CoreService, type FileResult, type SourceResult } from './contract'
import { benchResult } from './benchResult'

/** The parser is large and only needed for text: fingers need not wait for it. */
const reader = () => import('#core/formats/abc/readAbc')

const cache: DeriveCache = {}
/** The page's documents arrive as copies: the same text means the same tune, so that the cache holds. */
let lastTune: { text: string; tune: Parameters<CoreService['derive']>[0] } | null = null

function sameTune(tune: Parameters<CoreService['derive']>[0]) {
  const text = JSON.stringify(tune)
  if (lastTune?.text !== text) lastTune = { text, tune }
  return lastTune.tune
}

/** The new reading with the old ids, and with what the text cannot hold. */
function keep(previous: Tune, read: Tune) {
  const { tune, renamed } = keepIds(previous, read)
  return { tune: carryOver(previous, tune, ABC_HOLDS_NOT), renamed }
}

const service: CoreService = {
  derive: (tune, recipe, model) => pack(benchResult(derive(sameTune(tune), recipe, cache, model), recipe)),

  inspect(tune, recipe, noteId) {
    const d = derive(sameTune(tune), recipe, cache)
    const note = d.fingering.notes.find(n => n.id === noteId)
    if (!note) return null
    const { [noteId]: pin, ...others } = recipe.pins.fingers
    // A pinned note shows what it could be without its own pin.
    const free = pin ? solveFingering(d.fingering.problem, others) : d.fingering
    const chosen = { string: note.string, finger: note.finger }
    const alternatives = alternativesAt(free, note.tone, 6)
    const best = free.notes.find(n => n.id === noteId)!
    const freeChoice = { string: best.string, finger: best.finger, extra: 0, changes: 0, difference: {} }
    const list = pin ? [freeChoice, ...alternatives] : alternatives
    return {
      id: noteId,
      why: whyAt(d.fingering, note.tone, pin !== undefined),
      cost: costRecord(costsAt(d.fingering, note.tone)),
      alike: alikeNotes(d, noteId),
      alternatives: list
        .filter(a => a.string !== chosen.string || a.finger !== chosen.finger)
        .map(({ string, finger, extra, changes, difference }) => ({
          string,
          finger,
          extra,
          changes,
          differences: Object.entries(difference).map(([name, amount]) => ({ name, amount })),
        })),
    }
  },

  async read(text, previous, recipe, model) {
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
      derived: recipe && benchResult(derive(sameTune(tune), recipe, cache, model), recipe),
    })
  },

  write: writeAbc,

  speak(tune, recipe) {
    const d = derive(sameTune(tune), recipe, cache)
    return writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), spokenOptions(recipe))
  },

  listen(text, tune, recipe) {
    const d = derive(sameTune(tune), recipe, cache)
    const heard = readSpoken(text, { ...spokenOptions(recipe), key: d.tune.key, metre: d.tune.metre })
    if ('finding' in heard) return { tune: null, pins: {}, findings: [heard.finding], spans: [] }
    // What is said is the arrangement as it sounds: the tune itself lies a key and some octaves away.
    const { tune: kept, renamed } = keepIds(d.tune, heard.tune)
    const carried = carryOver(d.tune, kept, SPOKEN_HOLDS_NOT)
    const back = transposeTune(carried, inverse(shiftOf(tune, recipe, d.octave)))
    const said = Object.entries(heard.pins).map(([id, pin]) => {
      const [event, head] = id.split('.')
      return [[renamed.get(event!) ?? event, head].filter(x => x !== undefined).join('.'), pin] as const
    })
    // Only what differs from the fingering that stands becomes a pin.
    const now = new Map(d.fingering.notes.map(n => [n.id, n]))
    const pins = said.filter(
      ([id, p]) => now.get(id)?.string !== p.string || now.get(id)?.finger !== p.finger,
    )
    return {
      tune:
        heard.tune.measures.length > 0
          ? {
              ...back,
              key:
                d.tune.key.step === carried.key.step && d.tune.key.alter === carried.key.alter
                  ? tune.key
                  : back.key,
            }
          : null,
      pins: Object.fromEntries(pins),
      findings: heard.findings,
      spans: [...heard.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
    }
  },

  hand: (tune, recipe, ask) =>
    pack(handReport(derive(sameTune(tune), recipe, cache), { ...ask, pins: recipe.pins.fingers })),

  compareHands: (tune, recipe, other, model) =>
    pack(
      compareHands(
        derive(sameTune(tune), recipe, cache, model),
        derive(sameTune(tune), other, {}, model),
        model,
      ),
    ),

  tunings: (tune, recipe, list) => [null, ...list].map(t => tuningEffect(tune, recipe, t)),

  async readFile(name, bytes, options) {
    const { readFile } = await import('#core/formats/readFile')
    const result = readFile(name, bytes, options)
    return pack<FileResult>({ ...result, prints: result.tunes.map(t => melodyPrint(t.tune)) })
  },

  async writeFile(format, tune, recipe) {
    const { writeFile } = await import('#core/formats/writeFile')
    return writeFile(format, tune, recipe)
  },

  watch(tune, recipe) {
    const d = derive(sameTune(tune), recipe, cache)
    const known = recipe.known.length > 0 ? { known: new Set(recipe.known) } : {}
    return {
      ...watch(d, { instrument: recipe.instrument, ...known }),
      warmUps: warmUps(d, recipe.instrument),
    }
  },

  teach(tune, recipe) {
    const d = derive(sameTune(tune), recipe, cache)
    return {
      plan: planOf(d.form, { order: recipe.plan.order, tempo: d.tempo, hard: hardNotes(d) }),
      figures: Object.fromEntries(d.form.phrases.map(p => [p.events[0]!, phraseFigures(p)])),
      chords: chordSkeleton(tune),
    }
  },

  overlay: (tune, recipe, first, second) => overlayOf(derive(sameTune(tune), recipe, cache), first, second),
}

const spokenOptions = (r: Arrangement) => ({
  instrument: r.instrument,
  tuning: r.tuning ?? homeTuning(r.instrument),
  hand: handOptions(r),
})

expose(service)
