/** Single elements of MusicXML: pitches, keys, chords, values. */
import { equal, frac, mul, type Fraction } from '#core/music/fraction'
import { signature, type Key } from '#core/music/key'
import type { Metre } from '#core/music/metre'
import { pitchOfMidi, type Midi, type Pitch } from '#core/music/pitch'
import type { PlacedMeasure } from '#core/music/timeline'
import { CHORD_KINDS, TYPES } from './words'
import type { WayElement } from './wayXml'
import { el, type Element } from './xml'

/** The number as it is printed; a pickup, and one that shares its neighbour's, is not counted. */
export const numbered = ({ number }: PlacedMeasure, before: PlacedMeasure | undefined) =>
  number === 0 || number === before?.number
    ? { number: before ? `X${number}` : number, implicit: 'yes' }
    : { number }

export const dots = (count: number, name: string) => Array.from({ length: count }, () => el(name))

/** The note value of a written length; none when it needs more than two dots. */
export function valueOf(length: Fraction): { type: string; dots: number } | null {
  for (const [type, quarters] of TYPES) {
    const plain = frac(quarters * 16, 16)
    if (equal(length, plain)) return { type, dots: 0 }
    if (equal(length, mul(plain, frac(3, 2)))) return { type, dots: 1 }
    if (equal(length, mul(plain, frac(7, 4)))) return { type, dots: 2 }
  }
  return null
}

export const pitchElement = (p: Pitch) =>
  el('pitch', [el('step', p.step), p.alter !== 0 && el('alter', p.alter), el('octave', p.octave)])
/** A sign or words of the way through, with what they mean to a player. */
export const wayElement = ([tag, sound, words]: WayElement) =>
  el('direction', [el('direction-type', [el(tag, words ?? [])]), el('sound', [], sound)], {
    placement: 'above',
  })

export const keyElement = (k: Key) => el('key', [el('fifths', signature(k)), el('mode', k.mode)])
export const timeElement = (m: Metre) =>
  el('time', [el('beats', m.groups?.join('+') ?? m.beats), el('beat-type', m.unit)])

export const tuningElements = (tuning: readonly Midi[]): Element[] => [
  el('staff-lines', 5),
  ...[...tuning].reverse().map((m, i) => {
    const p = pitchOfMidi(m)
    return el(
      'staff-tuning',
      [
        el('tuning-step', p.step),
        p.alter !== 0 && el('tuning-alter', p.alter),
        el('tuning-octave', p.octave),
      ],
      { line: i + 1 },
    )
  }),
]

/** "Am7/G" as harmony; text that is no chord name as words in its place. */
export function chordElement(name: string): Element {
  const m = /^([A-G])(#|b)?([^/]*)(?:\/([A-G])(#|b)?)?$/.exec(name)
  const kind = m && CHORD_KINDS.find(([suffix]) => suffix === m[3])
  const alter = (sign: string | undefined, at: string) => sign && el(at, sign === '#' ? 1 : -1)
  if (!m || !kind) return el('harmony', [el('function', name), el('kind', 'other', { text: name })])
  return el('harmony', [
    el('root', [el('root-step', m[1]!), alter(m[2], 'root-alter')]),
    el('kind', kind[1], { text: m[3] }),
    m[4] !== undefined && el('bass', [el('bass-step', m[4]), alter(m[5], 'bass-alter')]),
  ])
}
