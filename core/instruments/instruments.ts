/** The four instruments as data. Lengths are typical; a measured value always wins. */
import { midi, parsePitch, type Midi } from '#core/music/pitch'
import type { Clef, InstrumentId } from '#core/music/tune'

/** Millimetres. */
export type Mm = number

/** Cello and bass: every half step has a finger of its own, the hand moves as one. */
export const isLow = (id: InstrumentId) => id === 'cello' || id === 'bass'

export interface Size {
  readonly name: string
  /** Vibrating string length. */
  readonly string: Mm
  /** Playable hair of the bow. */
  readonly bow: Mm
  readonly usual?: boolean
}

export interface Instrument {
  readonly id: InstrumentId
  readonly name: string
  /** Sounding pitch of the home strings, highest first. */
  readonly strings: readonly Midi[]
  readonly letters: readonly string[]
  /** Strings a fifth one can be: above the others or below them. */
  readonly fifth: readonly {
    readonly sounds: Midi
    readonly letter: string
    readonly end: 'top' | 'bottom'
  }[]
  readonly clef: Clef
  /** Clefs its players read, the usual one first. */
  readonly reads: readonly Clef[]
  /** Written pitch minus sounding pitch, in semitones. */
  readonly writtenAbove: number
  /** The furthest place on a string this table reaches, in semitones. */
  readonly highest: number
  readonly sizes: readonly Size[]
}

const size = (name: string, string: Mm, bow: Mm, usual = false): Size => ({ name, string, bow, usual })
const pitches = (names: string) => names.split(' ').map(n => midi(parsePitch(n)!))

export const INSTRUMENTS: Readonly<Record<InstrumentId, Instrument>> = {
  violin: {
    id: 'violin',
    name: 'violin',
    strings: pitches('E5 A4 D4 G3'),
    letters: ['E', 'A', 'D', 'G'],
    fifth: [{ sounds: 48, letter: 'C', end: 'bottom' }],
    clef: 'treble',
    reads: ['treble'],
    writtenAbove: 0,
    highest: 24,
    sizes: [
      size('full', 328, 650, true),
      size('3/4', 308, 590),
      size('1/2', 285, 530),
      size('1/4', 255, 475),
      size('1/8', 230, 420),
      size('1/16', 203, 360),
    ],
  },
  viola: {
    id: 'viola',
    name: 'viola',
    strings: pitches('A4 D4 G3 C3'),
    letters: ['A', 'D', 'G', 'C'],
    fifth: [{ sounds: 76, letter: 'E', end: 'top' }],
    clef: 'alto',
    reads: ['alto', 'treble'],
    writtenAbove: 0,
    highest: 22,
    sizes: [
      size('16"', 370, 640, true),
      size('16.5"', 380, 640),
      size('15"', 350, 630),
      size('14"', 330, 600),
      size('13"', 306, 570),
      size('12"', 282, 530),
    ],
  },
  cello: {
    id: 'cello',
    name: 'cello',
    strings: pitches('A3 D3 G2 C2'),
    letters: ['A', 'D', 'G', 'C'],
    fifth: [{ sounds: 64, letter: 'E', end: 'top' }],
    clef: 'bass',
    reads: ['bass', 'tenor', 'treble'],
    writtenAbove: 0,
    highest: 24,
    sizes: [
      size('full', 690, 600, true),
      size('3/4', 620, 560),
      size('1/2', 560, 510),
      size('1/4', 510, 460),
      size('1/8', 440, 410),
    ],
  },
  bass: {
    id: 'bass',
    name: 'double bass',
    strings: pitches('G2 D2 A1 E1'),
    letters: ['G', 'D', 'A', 'E'],
    fifth: [
      { sounds: 23, letter: 'B', end: 'bottom' },
      { sounds: 48, letter: 'C', end: 'top' },
    ],
    clef: 'bass',
    reads: ['bass', 'tenor', 'treble'],
    writtenAbove: 12,
    highest: 24,
    sizes: [
      size('3/4', 1055, 560, true),
      size('4/4', 1100, 560),
      size('1/2', 970, 530),
      size('1/4', 900, 490),
      size('1/8', 810, 450),
    ],
  },
}

/** Strings of an instrument as they are at home, the highest first, with their letters. */
export interface StringSet {
  readonly strings: readonly Midi[]
  readonly letters: readonly string[]
}

/** The home strings a tuning belongs to: four, or five with the fifth string that lies nearest. */
export function stringsFor(id: InstrumentId, tuning: readonly Midi[] | null = null): StringSet {
  const { strings, letters, fifth } = INSTRUMENTS[id]
  if (tuning?.length !== strings.length + 1) return { strings, letters }
  const sets = fifth.map(({ sounds, letter, end }) =>
    end === 'top'
      ? { strings: [sounds, ...strings], letters: [letter, ...letters] }
      : { strings: [...strings, sounds], letters: [...letters, letter] },
  )
  const off = (s: StringSet) => s.strings.reduce((sum, m, i) => sum + Math.abs(m - tuning[i]!), 0)
  return sets.reduce((a, b) => (off(b) < off(a) ? b : a))
}

export const lettersOf = (id: InstrumentId, tuning: readonly Midi[] | null = null) =>
  stringsFor(id, tuning).letters

export function sizeOf(instrument: InstrumentId, name?: string): Size {
  const { sizes } = INSTRUMENTS[instrument]
  return sizes.find(s => s.name === name) ?? sizes.find(s => s.usual)!
}

/** The instrument a tune was written for: the stated one, else the one its clef suggests. */
export function writtenFor(tune: { instrument?: InstrumentId; clef: Clef }): InstrumentId {
  if (tune.instrument) return tune.instrument
  return { treble: 'violin', alto: 'viola', tenor: 'cello', bass: 'cello' }[tune.clef] as InstrumentId
}
