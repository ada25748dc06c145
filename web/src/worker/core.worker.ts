import { expose } from 'comlink'
import { derive, type DeriveCache } from '#core/arrangement/derive'
import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt, whyAt } from '#core/fingering/explain'
import { solveFingering } from '#core/fingering/fingering'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { keepIds } from '#core/music/keepIds'
import type { CoreService } from './contract'
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

const service: CoreService = {
  derive: (tune, recipe) => benchResult(derive(sameTune(tune), recipe, cache), recipe),

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

  async read(text, previous) {
    const { tunes, findings } = (await reader()).readAbc(text)
    const first = tunes[0]
    if (!first) return { tune: null, findings, spans: [], tunesInText: 0 }
    const { tune, renamed } = previous
      ? keepIds(previous, first.tune)
      : { tune: first.tune, renamed: new Map<string, string>() }
    return {
      tune,
      findings: first.findings,
      spans: [...first.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
      tunesInText: tunes.length,
    }
  },

  write: writeAbc,

  async readBook(text) {
    const { tunes, findings } = (await reader()).readAbc(text)
    const single = tunes.length === 1
    return {
      tunes: tunes.map(t => ({
        tune: t.tune,
        source: single ? text : writeAbc(t.tune).text,
        findings: t.findings,
      })),
      findings,
    }
  },
}

expose(service)
