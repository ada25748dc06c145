import { text, type Verb } from '../verb'
import { BadInput } from '../badInput'
import { sizeOf } from '#core/instruments/instruments'
import {
  homeTuning,
  parseTuning,
  retuneOrder,
  retuneSteps,
  tuningFindings,
  tuningProblem,
} from '#core/instruments/tunings'
import { tapes as tapesOf } from '#core/instruments/tapes'
import { instrumentOption } from '../input'
import { told } from '../told'

export const tapes: Verb = {
  name: 'tapes',
  what: 'Where the tapes go, from the nut.',
  takes: '',
  options: {
    instrument: { type: 'string', value: 'violin|viola|cello|bass', what: 'the instrument' },
    length: { type: 'string', value: '328', what: 'its string length; the usual one when left out' },
    unit: { type: 'string', value: 'mm|in', what: 'of the length, and of what is told' },
  },
  run: values => {
    const instrument = instrumentOption(null, values)
    const unit = text(values.unit) ?? 'mm'
    if (unit !== 'mm' && unit !== 'in') throw new BadInput(`--unit ${unit}: mm or in`)
    const given =
      values.length === undefined
        ? sizeOf(instrument).string
        : Number(values.length) * (unit === 'in' ? 25.4 : 1)
    if (!(given >= 100 && given <= 1500))
      throw new BadInput(`--length ${values.length}: a string length from 100 to 1500 mm`)
    const scale = (mm: number) => (unit === 'in' ? Math.round((mm / 25.4) * 1000) / 1000 : mm)
    return {
      instrument,
      unit,
      length: scale(given),
      tapes: tapesOf(instrument, given).map(t => ({ ...t, fromNut: scale(t.fromNut) })),
    }
  },
}

export const retune: Verb = {
  name: 'retune',
  what: 'What each string must do, with the change of tension and the caution.',
  takes: '',
  options: {
    instrument: { type: 'string', value: 'violin|viola|cello|bass', what: 'the instrument' },
    to: { type: 'string', value: '"A3 E4 A4 E5"', what: 'strings from the lowest up' },
  },
  run: values => {
    const instrument = instrumentOption(null, values)
    const result = parseTuning(instrument, text(values.to) ?? '')
    if ('error' in result)
      throw new BadInput(`--to ${text(values.to) ?? ''}: ${tuningProblem(instrument, result.error)}`)
    const steps = retuneSteps(instrument, result.tuning)
    return {
      instrument,
      steps,
      order: retuneOrder(steps).map(s => s.string),
      unchanged: result.tuning.join() === homeTuning(instrument, result.tuning).join(),
      findings: told(tuningFindings(instrument, result.tuning)),
    }
  },
}
