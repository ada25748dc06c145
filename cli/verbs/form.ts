import { analyseForm, learningOrder, newMaterial, type Phrase } from '#core/form/form'
import { formatFraction } from '#core/music/fraction'
import { parseOptions, readTuneFile } from '../input'

const place = (p: Phrase['from']) => ({ measure: p.measure, start: formatFraction(p.start) })

/** `form FILE`: parts, phrases and their kin. */
export function form(args: string[]) {
  const { positionals } = parseOptions(args, {})
  const f = analyseForm(readTuneFile(positionals[0]).tune)
  return {
    parts: f.parts.map(p => ({
      label: p.label,
      measures: p.measures,
      repeated: p.repeated,
      phrases: p.phrases.map(x => ({
        label: x.label,
        from: place(x.from),
        to: place(x.to),
        bars: x.bars,
        kin: x.kin ? [x.kin] : [],
      })),
    })),
    learningOrder: learningOrder(f),
    newMaterial: newMaterial(f),
  }
}
