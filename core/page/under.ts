/** Lines of small text under the staff, a piece for each event: names of the notes, what is counted. */
import type { EventId } from '#core/music/ids'
import { stepIndex, type Pitch } from '#core/music/pitch'
import { countAt, inFull, type Counting } from '#core/music/counting'
import { heldOver } from '#core/music/timeline'
import type { Notated, NotatedEvent } from './notation'

export interface UnderOptions {
  readonly names: 'none' | 'letters' | 'syllables'
  readonly counting: 'none' | Counting
  readonly countWords?: readonly string[]
}

/** By event, a text for each line; empty where nothing stands. */
export type UnderLines = ReadonlyMap<EventId, readonly string[]>

const SIGN: Readonly<Record<number, string>> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' }
const SYLLABLES = ['do', 're', 'mi', 'fa', 'sol', 'la', 'si']

/** "F#", or "fa#" with do for every C: signs that every face has. */
export const noteName = (p: Pitch, how: 'letters' | 'syllables') =>
  (how === 'letters' ? p.step : SYLLABLES[stepIndex(p.step)]!) + SIGN[p.alter]!

export function underLines({ measures, tune }: Notated, o: UnderOptions): UnderLines {
  const lines = [
    ...(o.names !== 'none' ? [nameOf(o.names)] : []),
    ...(o.counting !== 'none' ? [countOf(o.counting, o.countWords)] : []),
  ]
  if (lines.length === 0) return new Map()
  const tied = new Set(
    tune.measures
      .flatMap(m => m.events)
      .flatMap((e, i, all) => {
        // Where a voice begins over one that is held there is something to say.
        return heldOver(all[i - 1], e) === 'all' ? [e.id] : []
      }),
  )
  return new Map(
    measures.flatMap(m =>
      m.events.map(
        e =>
          [
            e.placed.event.id,
            tied.has(e.placed.event.id) ? lines.map(() => '') : lines.map(l => l(e)),
          ] as const,
      ),
    ),
  )
}

const nameOf =
  (how: 'letters' | 'syllables') =>
  ({ placed: { event } }: NotatedEvent) =>
    event.kind === 'rest' ? '' : event.heads.map(h => noteName(h.pitch, how)).join(' ')

const countOf =
  (how: Counting, words?: readonly string[]) =>
  ({ placed }: NotatedEvent) => {
    const { felt: metre } = placed.measure
    const count = countAt(metre, inFull(metre, placed.inMeasure), how, words)
    return placed.event.kind === 'rest' && count !== '' ? `(${count})` : count
  }
