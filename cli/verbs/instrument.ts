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
import { BadInput, instrumentOption, parseOptions } from '../input'
import { told } from '../told'

/** `tapes`: where the tapes go, from the nut. */
export function tapes(args: string[]) {
  const { values } = parseOptions(args, {
    instrument: { type: 'string' },
    length: { type: 'string' },
    unit: { type: 'string' },
  } as const)
  const instrument = instrumentOption(null, values)
  const unit = values.unit ?? 'mm'
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
}

/** `retune`: what each string must do, with the change of tension and the caution. */
export function retune(args: string[]) {
  const { values } = parseOptions(args, { instrument: { type: 'string' }, to: { type: 'string' } } as const)
  const instrument = instrumentOption(null, values)
  const result = parseTuning(instrument, values.to ?? '')
  if ('error' in result)
    throw new BadInput(`--to ${values.to ?? ''}: ${tuningProblem(instrument, result.error)}`)
  const steps = retuneSteps(instrument, result.tuning)
  return {
    instrument,
    steps,
    order: retuneOrder(steps).map(s => s.string),
    unchanged: result.tuning.join() === homeTuning(instrument, result.tuning).join(),
    findings: told(tuningFindings(instrument, result.tuning)),
  }
}
