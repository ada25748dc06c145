/** An arrangement said in one line that can be read aloud, word by word; and the choices behind each word. */
import type { Arrangement, Played } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import {
  CROSS_TUNINGS,
  fiveStrings,
  formatTuning,
  homeTuning,
  parseTuning,
  type Tuning,
} from '#core/instruments/tunings'
import { keyName, keyOfSignature, sameKey, type Key } from '#core/music/key'
import type { Tempo } from '#core/music/metre'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import { INSTRUMENT_IDS, type InstrumentId, type Tune } from '#core/music/tune'
import { measuresText } from './places'
import { valueName } from '#core/music/valueName'
import { LEVELS, newInHand } from '#core/levels/levels'

/** What the line is made of, in the order it is said. */
export const ARRANGEMENT_WORDS = ['instrument', 'size', 'key', 'octave', 'tuning', 'level', 'tempo'] as const
export type ArrangementWord = (typeof ARRANGEMENT_WORDS)[number]

export interface SaidOf {
  readonly recipe: Arrangement
  /** The tune's own key. */
  readonly key: Key
  /** As it came out: octaves moved, and the tempo. Null until it is worked out. */
  readonly octave: number | null
  readonly tempo: Tempo | null
}

function sizeText({ size, measured, instrument }: Pick<Played, 'size' | 'measured' | 'instrument'>): string {
  if (measured !== null) return `string of ${measured} mm`
  return instrument === 'viola' ? `${size} body` : `${size} size`
}

export const octavesText = (n: number) =>
  n === 0
    ? 'at written pitch'
    : `${Math.abs(n) === 1 ? 'an octave' : `${Math.abs(n)} octaves`} ${n > 0 ? 'up' : 'down'}`

const withoutOctave = (m: number) => formatPitch(pitchOfMidi(m)).replace(/-?\d+$/, '')
/** From the lowest string, as tunings are said. */
const tuningText = (t: Tuning | null) =>
  t === null
    ? 'standard tuning'
    : t.length > 4
      ? 'five strings'
      : `tuned ${[...t].reverse().map(withoutOctave).join(' ')}`

const tempoText = (t: Tempo) => `${valueName(t.beat)} = ${t.perMinute}`

/** "without measures 9 to 16"; null where all of the tune is played. */
export function leftOutText(tune: Tune, { changes }: Pick<Played, 'changes'>): string | null {
  const left = new Set(
    changes.flatMap(c => (c.accepted && c.edit.do === 'leave' && c.kind !== 'pickup' ? c.edit.measures : [])),
  )
  if (left.size === 0) return null
  const own = placeMeasures(tune).filter(p => left.has(p.measure.id))
  return own.length === 0 ? null : `without ${measuresText(own.map(p => p.number))}`
}

/** "violin", "full size", "in A major", "at written pitch", "standard tuning", "no level limit", "half = 72". */
export function arrangementWord(word: ArrangementWord, { recipe, key, octave, tempo }: SaidOf): string {
  const { played } = recipe
  switch (word) {
    case 'instrument':
      return INSTRUMENTS[played.instrument].name
    case 'size':
      return sizeText(played)
    case 'key':
      return `in ${keyName(played.key ?? key)}`
    case 'octave':
      return octavesText(played.octave === 'auto' ? (octave ?? 0) : played.octave)
    case 'tuning':
      return tuningText(played.tuning)
    case 'level':
      return played.level === null ? 'no level limit' : `level ${played.level}`
    case 'tempo':
      return tempo ? tempoText(tempo) : '…'
  }
}

/** The line as one sentence. */
export const arrangementLine = (of: SaidOf): string =>
  ARRANGEMENT_WORDS.map(w => arrangementWord(w, of)).join(', ')

export interface Choice<T> {
  readonly value: T
  readonly title: string
  readonly chosen: boolean
  /** What is meant by it. */
  readonly note?: string
}

export const instrumentChoices = ({ played }: Arrangement): Choice<InstrumentId>[] =>
  INSTRUMENT_IDS.map(id => ({ value: id, title: INSTRUMENTS[id].name, chosen: id === played.instrument }))

export const sizeChoices = ({ played }: Arrangement): Choice<string>[] =>
  INSTRUMENTS[played.instrument].sizes.map(({ name }) => ({
    value: name,
    title: sizeText({ ...played, size: name, measured: null }),
    chosen: name === played.size && played.measured === null,
  }))

/** Keys of the tune's mode with at most six sharps or flats, from flats to sharps. */
export const keyChoices = ({ played }: Arrangement, own: Key): Choice<Key>[] =>
  Array.from({ length: 13 }, (_, i) => keyOfSignature(i - 6, own.mode))
    .filter(k => Math.abs(k.alter) <= 1)
    .map(k => ({
      value: k,
      title: sameKey(k, own) ? `${keyName(k)}, as written` : keyName(k),
      chosen: sameKey(k, { ...(played.key ?? own), mode: own.mode }),
    }))

export const octaveChoices = ({ played }: Arrangement): Choice<Played['octave']>[] =>
  (['auto', 2, 1, 0, -1, -2] as const).map(n => ({
    value: n,
    title: n === 'auto' ? 'where it lies best' : octavesText(n),
    chosen: n === played.octave,
  }))

export function tuningChoices({ played }: Arrangement): Choice<Tuning | null>[] {
  const { instrument, tuning } = played
  const read = (text: string): Tuning[] => {
    const r = parseTuning(instrument, text)
    return 'tuning' in r ? [r.tuning] : []
  }
  const same = (t: Tuning) => tuning !== null && t.join() === tuning.join()
  const crossed = CROSS_TUNINGS[instrument].flatMap(read)
  const five = fiveStrings(instrument).flatMap(read)
  const own = tuning !== null && ![...crossed, ...five].some(same) ? [tuning] : []
  const item = (t: Tuning, lead = '') => ({ value: t, title: lead + formatTuning(t), chosen: same(t) })
  return [
    { value: null, title: `home: ${formatTuning(homeTuning(instrument))}`, chosen: tuning === null },
    ...[...crossed, ...own].map(t => item(t)),
    ...five.map(t => item(t, 'five strings: ')),
  ]
}

export const levelChoices = ({ played }: Arrangement): Choice<Played['level']>[] =>
  [null, ...LEVELS].map(n => ({
    value: n,
    title: n === null ? 'no level limit' : `level ${n}`,
    chosen: n === played.level,
    note: n === null ? 'whatever the notes ask for' : newInHand(played.instrument, n),
  }))
