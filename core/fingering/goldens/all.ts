/** All passages, by what they are for. */
import { BASS_TUNES } from './bassTunes'
import { CHOICES } from './choices'
import { HELD } from './held'
import { HELD_BASS_TUNES } from './heldBassTunes'
import { HELD_FRESH } from './heldFresh'
import { HELD_TUNES } from './heldTunes'
import { HELD_UPPER_TUNES } from './heldUpperTunes'
import { PASSAGES, type Passage } from './passages'
import { TUNES } from './tunes'
import { UPPER_TUNES } from './upperTunes'

/** Each set with its name; the weights may be tuned on those that are not held back. */
export const SETS: readonly {
  readonly name: string
  readonly held: boolean
  readonly passages: readonly Passage[]
}[] = [
  { name: 'frames and scales', held: false, passages: PASSAGES },
  { name: 'real choices', held: false, passages: CHOICES },
  { name: 'longer passages', held: false, passages: [...TUNES, ...BASS_TUNES, ...UPPER_TUNES] },
  { name: 'held back', held: true, passages: HELD },
  {
    name: 'longer, held back',
    held: true,
    passages: [...HELD_TUNES, ...HELD_BASS_TUNES, ...HELD_UPPER_TUNES],
  },
  { name: 'written last, held back', held: true, passages: HELD_FRESH },
]
export const ALL_PASSAGES = SETS.flatMap(s => s.passages)
export const HELD_BACK = SETS.filter(s => s.held).flatMap(s => s.passages)
