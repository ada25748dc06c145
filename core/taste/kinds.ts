/** What tastes are learned of: the traits of each, and how far from our own weights each may go. */
import { BOW_TASTE_RANGE } from '#core/bowing/taste'
import { TASTE_RANGE } from '#core/fingering/taste'
import { BOW_TRAITS, TRAITS, type BowTrait, type Trait } from '#core/instruments/taste'

export interface TasteKind<T extends string> {
  readonly traits: readonly T[]
  readonly range: Readonly<Record<T, readonly [least: number, most: number]>>
}

export const HAND: TasteKind<Trait> = { traits: TRAITS, range: TASTE_RANGE }
export const BOW: TasteKind<BowTrait> = { traits: BOW_TRAITS, range: BOW_TASTE_RANGE }
