import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt } from '#core/fingering/explain'
import { whySentence } from '#core/words/why'
import { solveFingering } from '#core/fingering/fingering'
import { tallyOf } from '#core/fingering/tally'
import { headOf, type NoteId } from '#core/music/ids'
import { alikeNotes } from '#core/teach/handReport'
import { tradeText, tradeWords } from '#core/words/ways'
import type { Memories } from './memories'
import type { PartDocuments } from './part'
import type { NoteReport } from './views'

/** So many other ways are told of a note. */
const ALTERNATIVES = 6

/** Why a note has its finger, and what else it could have; null where there is no such note. */
export function inspect(memories: Memories, part: PartDocuments, id: NoteId): NoteReport | null {
  const d = memories.derived(part)
  const note = d.fingering.notes.find(n => n.id === id)
  if (!note) return null
  const { [id]: pin, ...others } = part.recipe.played.pins.fingers
  // A pinned note shows what it could be without its own pin.
  const free = pin ? solveFingering(d.fingering.problem, others) : d.fingering
  const chosen = { string: note.string, finger: note.finger }
  const alternatives = alternativesAt(free, note.tone, ALTERNATIVES)
  const best = free.notes.find(n => n.id === id)!
  const freeChoice = { string: best.string, finger: best.finger, extra: 0, changes: 0, difference: {} }
  const tally = (path: readonly number[]) => tallyOf(free.problem, path, part.context.model)
  const own = tally(free.tables.path)
  const list = pin ? [{ ...freeChoice, path: free.tables.path }, ...alternatives] : alternatives
  return {
    id,
    why: whySentence(d.fingering, note.tone, pin !== undefined, headOf(note.id)),
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
}
