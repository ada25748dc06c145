/** What can be asked about a part, by name. Each is a function of the memories, the part and the rest. */
import { inspect } from './inspect'
import { grade, tryKey } from './levels'
import type { Memories } from './memories'
import type { PartDocuments } from './part'
import { listen, read, speak, write } from './source'
import { decide, decideBow } from './taste'
import { bow, compareHands, hand, overlay, sheet, strokes, teach, tunings, watch } from './teaching'
import { easier, enrich, otherwise, sharedKey } from './versions'

export const QUESTIONS = {
  inspect,
  read,
  write,
  speak,
  listen,
  grade,
  tryKey,
  easier,
  otherwise,
  sharedKey,
  enrich,
  hand,
  bow,
  strokes,
  compareHands,
  tunings,
  watch,
  teach,
  overlay,
  sheet,
  decide,
  decideBow,
} as const

type Questions = typeof QUESTIONS
export type Question = keyof Questions
/** What a question asks beside the part it is about. */
export type Rest<Q extends Question> =
  Parameters<Questions[Q]> extends [Memories, PartDocuments, ...infer R] ? R : never
export type Answer<Q extends Question> = Awaited<ReturnType<Questions[Q]>>
