/** The choices of a sheet in words. */
import type { SheetKind, SheetRecipe, SheetStyle, SHOWN_MARKS } from '#core/styles/sheetRecipe'

type Words<K extends string> = Readonly<Record<K, string>>

export const KIND_WORDS: Words<SheetKind> = {
  music: 'the music',
  board: 'its notes on a fingerboard',
  cards: 'phrase cards to cut out',
  words: 'words with their beats',
  warmUps: 'warm-ups',
  text: 'strings and fingers as text',
  outline: 'the lesson, step by step',
  grid: 'a practice grid',
}
export const MUSIC_WORDS: Words<SheetRecipe['music']> = {
  both: 'staff over tab',
  staff: 'staff alone',
  tab: 'tab alone',
}
export const SIZE_WORDS: Words<SheetRecipe['size']> = {
  fit: 'as large as the page has room',
  stand: 'as on a stand',
  large: 'large print',
  larger: 'larger',
  largest: 'largest',
}
export const FINGER_WORDS: Words<SheetRecipe['fingers']> = {
  all: 'all',
  changes: 'where something changes',
  needed: 'where they are not obvious',
  none: 'none',
}
export const NAME_WORDS: Words<SheetRecipe['names']> = {
  none: 'none',
  letters: 'letters',
  syllables: 'do re mi',
}
export const COUNTING_WORDS: Words<SheetRecipe['counting']> = {
  none: 'none',
  numbers: '1 and 2 and',
  syllables: '1 e and a',
}
export const MARK_WORDS: Words<(typeof SHOWN_MARKS)[number]> = {
  positions: 'positions',
  hand: 'fingers that stay down or are put ready',
  phrases: 'phrase letters',
  chords: 'chords',
  signs: 'ornaments, dynamics, remarks',
  numbers: 'measure numbers',
  legend: 'what the signs mean',
}
export const BOW_MARK_WORDS: Words<SheetStyle['bowMarks']> = {
  all: 'every one',
  needed: 'where it does not follow from the one before',
  phrases: 'the first of each phrase',
  none: 'none',
}

/** What can't stand under a line has another count of measures; by name where there are names. */
export function apartWords(names: readonly (string | undefined)[]): string {
  const said = names.flatMap(n => (n === undefined ? [] : [`“${n}”`]))
  if (said.length === 0) return TWO_APART
  const one = said.length === 1
  return `${AND.format(said)} ${one ? 'has' : 'have'} another count of measures than the first part, and can’t stand under it.`
}
const AND = new Intl.ListFormat('en-GB')
const TWO_APART =
  'One of the two leaves a part or a pickup out: they have another count of measures, and can’t stand line under line.'
