/** Jumps in MusicXML: by what a direction sounds like, by its signs, or by its words alone. */
import type { Measure } from '#core/music/tune'
import type { Way } from '../way'
import { child, children, type XmlNode } from './xml'

const SOUNDS: Readonly<Record<string, Way>> = {
  segno: { segno: true },
  coda: { coda: true },
  tocoda: { toCoda: true },
  fine: { fine: true },
  dacapo: { jump: 'dc' },
  dalsegno: { jump: 'ds' },
}

/** Words that are a jump when they stand alone. */
const SAID: readonly (readonly [RegExp, Way])[] = [
  [/^d\. ?c\.?( al (fine|coda))?\.?$|^da capo( al (fine|coda))?$/i, { jump: 'dc' }],
  [/^d\. ?s\.?( al (fine|coda))?\.?$|^dal segno( al (fine|coda))?$/i, { jump: 'ds' }],
  [/^fine\.?$/i, { fine: true }],
  [/^to coda$|^al coda$/i, { toCoda: true }],
]

/** What a sound says of the way; an empty one is none. */
export const soundWay = (sound: XmlNode): Way =>
  Object.assign(
    {},
    ...Object.entries(SOUNDS).map(([name, way]) =>
      sound.attributes[name] === undefined || sound.attributes[name] === 'no' ? {} : way,
    ),
  ) as Way

export interface DirectionWay {
  readonly way: Way
  /** A coda sign that does not say whether the way leaves there or comes in. */
  readonly coda: boolean
  /** Its words say the jump, and are no remark. */
  readonly saidInWords: boolean
}

export function directionWay(direction: XmlNode): DirectionWay {
  const sound = child(direction, 'sound')
  const heard: Way = sound ? soundWay(sound) : {}
  const types = children(direction, 'direction-type').flatMap(t => t.children)
  const segno = types.some(t => t.name === 'segno')
  const coda = types.some(t => t.name === 'coda')
  const words = types
    .filter(t => t.name === 'words')
    .map(t => t.text.trim())
    .join(' ')
    .trim()
  const said = SAID.find(([pattern]) => pattern.test(words))?.[1]
  const told = Object.keys(heard).length > 0
  return {
    way: { ...(segno && { segno: true }), ...said, ...heard },
    coda: coda && !heard.toCoda && !said?.toCoda,
    saidInWords: said !== undefined || (told && words !== ''),
  }
}

export type WayElement = readonly [tag: string, attributes: Readonly<Record<string, string>>, words?: string]

/** What of a measure's way is written at its beginning, and at its end: the sign or words, and the sound. */
export function writtenWay(m: Measure): {
  readonly opening: readonly WayElement[]
  readonly closing: readonly WayElement[]
} {
  return {
    opening: [
      ...(m.segno ? [['segno', { segno: 'segno' }] as const] : []),
      ...(m.coda ? [['coda', { coda: 'coda' }] as const] : []),
    ],
    closing: [
      ...(m.fine ? [['words', { fine: 'yes' }, 'Fine'] as const] : []),
      ...(m.toCoda ? [['words', { tocoda: 'coda' }, 'To Coda'] as const] : []),
      ...(m.jump
        ? [
            [
              'words',
              m.jump === 'dc' ? { dacapo: 'yes' } : { dalsegno: 'segno' },
              m.jump === 'dc' ? 'D.C.' : 'D.S.',
            ] as const,
          ]
        : []),
    ],
  }
}
