/** The tune as text, in notes and in strings and fingers, and back. */
import { toWrittenTune } from '#core/arrangement/arrange'
import { handOptions } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { readSpoken } from '#core/formats/spoken/readSpoken'
import { writeSpoken } from '#core/formats/spoken/writeSpoken'
import { homeTuning } from '#core/instruments/tunings'
import { ABC_HOLDS_NOT, carryOver, SPOKEN_HOLDS_NOT } from '#core/music/carryOver'
import { eventOf, onEvent } from '#core/music/ids'
import { keepIds } from '#core/music/keepIds'
import type { Tune } from '#core/music/tune'
import type { Memories } from './memories'
import { unpack } from './packed'
import type { PartDocuments } from './part'
import { toldOf } from './told'
import type { SourceResult, SpokenResult } from './views'

/** The parser is large and only needed for text: fingers need not wait for it. */
const reader = () => import('#core/formats/abc/readAbc')

/** The new reading with the old ids, and with what the text cannot hold. */
function keep(previous: Tune, read: Tune) {
  const { tune, renamed } = keepIds(previous, read)
  return { tune: carryOver(previous, tune, ABC_HOLDS_NOT), renamed }
}

/**
 * Reads typed text; ids of the part's tune are kept where the music stayed. Inverse: {@link write}.
 * @param toldToo what the part comes to is told as well: typed and shown in one go
 */
export async function read(
  memories: Memories,
  part: PartDocuments,
  text: string,
  toldToo: boolean,
): Promise<SourceResult> {
  const { tunes, findings } = (await reader()).readAbc(text)
  const first = tunes[0]
  if (!first) return { tune: null, findings, spans: [], tunesInText: 0, derived: null }
  const { tune, renamed } = keep(part.tune, first.tune)
  return {
    tune,
    findings: first.findings,
    spans: [...first.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
    tunesInText: tunes.length,
    derived: toldToo ? toldOf(unpack(memories.view({ ...part, tune }).view), tune) : null,
  }
}

export const write = (_: Memories, { tune }: PartDocuments) => writeAbc(tune)

/** The part as string-and-finger text. Inverse: {@link listen}. */
export function speak(memories: Memories, part: PartDocuments) {
  const d = memories.derived(part)
  return writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), spokenOptions(part.recipe))
}

/** What is said is what is played: it comes back as an edit of what is written. */
export function listen(memories: Memories, part: PartDocuments, text: string): SpokenResult {
  const d = memories.derived(part)
  const heard = readSpoken(text, { ...spokenOptions(part.recipe), key: d.tune.key, metre: d.tune.metre })
  if ('finding' in heard) return { tune: null, pins: {}, findings: [heard.finding], spans: [] }
  const { tune: kept, renamed } = keepIds(d.tune, heard.tune)
  const written = toWrittenTune(d.arranged, carryOver(d.tune, kept, SPOKEN_HOLDS_NOT))
  const said = Object.entries(heard.pins).map(([id, pin]) => {
    const event = eventOf(id)
    return [onEvent(id, renamed.get(event) ?? event), pin] as const
  })
  // Only what differs from the fingering that stands becomes a pin.
  const now = new Map(d.fingering.notes.map(n => [n.id, n]))
  const pins = said.filter(([id, p]) => now.get(id)?.string !== p.string || now.get(id)?.finger !== p.finger)
  return {
    tune: heard.tune.measures.length > 0 ? written : null,
    pins: Object.fromEntries(pins),
    findings: heard.findings,
    spans: [...heard.spans].map(([id, s]) => [renamed.get(id) ?? id, s.from, s.to] as const),
  }
}

const spokenOptions = ({ played }: Arrangement) => ({
  instrument: played.instrument,
  tuning: played.tuning ?? homeTuning(played.instrument),
  hand: handOptions(played),
})
