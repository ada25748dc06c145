/** The schools a fingering goes by and those of naming, in words: what is chosen, and each choice. */
import type { Schools, Shown } from '#core/arrangement/recipe'
import type { Manner } from '#core/fingering/places'

type Played = Required<Pick<Schools, 'open' | 'reach' | 'bassHand' | 'long' | 'harmonics' | 'position'>>
type Named = Pick<Shown, 'places' | 'positions' | 'tabLines' | 'crossNames' | 'crossNotes'>
export type HandSchool = keyof Played | keyof Named
type ValueOf<S extends HandSchool> = (Played & Named)[S]

interface SchoolWords<Value extends string> {
  readonly label: string
  readonly items: Readonly<Record<Value, string>>
}

export const SCHOOL_WORDS: { readonly [S in HandSchool]: SchoolWords<ValueOf<S>> } = {
  open: {
    label: 'Open string or fourth finger',
    items: {
      cost: 'fourth finger where it saves a crossing',
      first: 'open strings first',
      fourth: 'fourth finger always',
    },
  },
  reach: {
    label: 'Shift or extend',
    items: { cost: 'as it lies', shift: 'rather shift', extend: 'rather open the hand' },
  },
  bassHand: { label: 'Hand', items: { '1-2-4': '1-2-4', '1-2-3-4': '1-2-3-4' } },
  long: {
    label: 'Long notes',
    items: { open: 'as they lie, open strings too', stopped: 'stopped, to be warmed' },
  },
  harmonics: {
    label: 'Natural harmonics',
    items: { no: 'only where the hand is anyway', yes: 'wherever they help' },
  },
  position: {
    label: 'First position or one position',
    items: {
      auto: 'by the kind of tune',
      home: 'rather first position, crossing strings',
      position: 'rather one position, slurred phrases on their strings',
    },
  },
  places: {
    label: 'Places of fingers',
    items: {
      home: 'low and high marked; higher up, half steps',
      both: '2 is always high or low',
      key: 'by the key: what it does not give',
      none: 'not marked',
    },
  },
  positions: {
    label: 'Names of positions',
    items: {
      usual: 'usual for the instrument',
      numbers: 'numbers, lower and upper',
      note: 'the note of the first finger',
    },
  },
  tabLines: {
    label: 'Tab lines',
    items: { highest: 'highest string on top', lowest: 'as the player looks down' },
  },
  crossNames: {
    label: 'Strings in a cross-tuning',
    items: { home: 'keep their home names', sounding: 'are named as they sound' },
  },
  crossNotes: {
    label: 'Notes in a cross-tuning',
    items: { sounding: 'are written as they sound', fingered: 'are written as the fingers fall at home' },
  },
}

/** Why a phrase is fingered as it is: the school of its places. */
export const mannerWords = (m: Manner): string =>
  m === 'position'
    ? 'kept in one position: the phrase is slurred and unhurried, and stays on its strings'
    : m === 'stays'
      ? 'kept in first position as asked: the hand goes up only for what lies out of reach, and comes back'
      : m === 'home'
        ? 'kept in first position: the notes are quick or separate, and the next string is near'
        : ''
