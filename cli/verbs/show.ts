import type { Verb } from '../verb'
import { analyseForm } from '#core/form/form'
import { formatFraction } from '#core/music/fraction'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { formatPitch, midi } from '#core/music/pitch'
import { playOrder } from '#core/music/playOrder'
import { isNote, placeEvents, tieOrigins } from '#core/music/timeline'
import { told } from '../told'
import { noteId } from '#core/music/ids'

export const show: Verb = {
  name: 'show',
  what: 'What was read, note by note.',
  takes: 'FILE…',
  options: {},
  run: (_values, paths, open) => {
    const { tune, findings } = open(paths[0])
    const placed = placeEvents(tune)
    const ties = tieOrigins(placed)
    return {
      title: tune.title,
      key: keyName(tune.key),
      meter: metreName(tune.metre),
      parts: analyseForm(tune).parts.map(p => ({
        label: p.label,
        measures: p.measures,
        repeated: p.repeated,
      })),
      measures: tune.measures.length,
      playOrder: playOrder(tune).map(p => p.index + 1),
      notes: placed.filter(isNote).flatMap(p =>
        p.event.heads.map((h, i) => ({
          id: noteId(p.event.id, i),
          measure: p.measure.number,
          pitch: formatPitch(h.pitch),
          midi: midi(h.pitch),
          start: formatFraction(p.start),
          duration: formatFraction(p.event.duration),
          ...(ties.has(p.event.id) && { tiedFrom: ties.get(p.event.id) }),
          ...(p.event.grace && i === 0 && { grace: p.event.grace.map(formatPitch) }),
        })),
      ),
      problems: told(findings),
    }
  },
}
