/** The fields above spoken music: "key: G", "unit: 1/8", "tuning: A4 E4 A3 D3". */
import { parseTuning, homeTuning, type Tuning } from '#core/instruments/tunings'
import { frac, mul, parseFraction, type Fraction } from '#core/music/fraction'
import { parseKey, type Key } from '#core/music/key'
import { parseMetre, type Metre } from '#core/music/metre'
import { INSTRUMENT_IDS, MOST, type InstrumentId } from '#core/music/tune'

export interface Head {
  readonly title: string
  readonly metre: Metre
  readonly key: Key
  /** What a note without a number lasts, in quarters. */
  readonly unit: Fraction
  readonly instrument: InstrumentId
  readonly tuning: Tuning
}

/** With what a field says; null when its value can't be read. */
export function withField(head: Head, name: string, value: string): Head | null {
  switch (name) {
    case 'title':
      return { ...head, title: value.slice(0, MOST.line) }
    case 'key': {
      const key = parseKey(value)
      return key && { ...head, key }
    }
    case 'metre': {
      const metre = parseMetre(value)
      return metre && { ...head, metre }
    }
    case 'unit': {
      const unit = parseFraction(value)
      const usable = unit && unit.n >= 1 && unit.d <= 64 && unit.n <= unit.d
      return usable ? { ...head, unit: mul(unit, frac(4)) } : null
    }
    case 'instrument': {
      const instrument = INSTRUMENT_IDS.find(i => i === value.toLowerCase())
      return instrument ? { ...head, instrument, tuning: homeTuning(instrument) } : null
    }
    default: {
      const read = parseTuning(head.instrument, value)
      return 'error' in read ? null : { ...head, tuning: read.tuning }
    }
  }
}
