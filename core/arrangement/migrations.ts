/**
 * The ladder of the recipe. A step is never changed once documents of its version exist; each has an example
 * in core/documents/examples.
 */
import { isObject, type Ladder, type Step } from '#core/documents/versioned'

/** Version 2 parts what is played from what is shown and from how it is taught. */
const inThreeParts: Step = old => {
  const schools = isObject(old.schools) ? old.schools : {}
  const pins = isObject(old.pins) ? old.pins : {}
  const plan = isObject(old.plan) ? old.plan : {}
  const { open, bow, bassHand, reach, ...names } = schools
  const { fingers, strokes, joins, boundaries, kin, ...otherPins } = pins
  const { version: _v, name, schools: _s, pins: _p, plan: _l, ossia, phraseNames, known, ...rest } = old
  return {
    version: 2,
    name,
    // What is not known here stays with the notes, where the schema names it.
    played: {
      measured: null,
      span: null,
      passages: [],
      ...rest,
      schools: { open, bow, bassHand, reach: reach ?? 'cost', long: 'open', harmonics: 'no' },
      pins: { fingers, strokes, joins, ...otherPins },
      changes: [],
    },
    shown: { ...SHOWN, ...names, ossia: ossia ?? 'none' },
    taught: {
      boundaries,
      kin: kin ?? {},
      names: phraseNames,
      order: 'written',
      left: [],
      lines: {},
      ...plan,
      known: known ?? [],
    },
  }
}

/** What version 1 took where nothing was said. */
const SHOWN = {
  crossNames: 'home',
  crossNotes: 'sounding',
  places: 'home',
  positions: 'usual',
  tabLines: 'highest',
}

/**
 * Version 3: a stroke is pinned in more than its direction; what the bow may add, its groove, and its
 * stretches have their place.
 */
const strokesWithMore: Step = old => {
  const played = isObject(old.played) ? old.played : {}
  const pins = isObject(played.pins) ? played.pins : {}
  const strokes = isObject(pins.strokes) ? pins.strokes : {}
  return {
    ...old,
    version: 3,
    shown: { ...(isObject(old.shown) ? old.shown : {}), bowMarks: 'all' },
    played: {
      ...played,
      bow: { may: { slur: false, hook: false, lift: false, part: false }, groove: null, passages: [] },
      pins: {
        ...pins,
        strokes: Object.fromEntries(Object.entries(strokes).map(([id, direction]) => [id, { direction }])),
      },
    },
  }
}

/** What a sheet showed before it was part of the recipe. */
const SHEET = {
  style: '',
  kinds: ['music'],
  music: 'both',
  size: 'fit',
  contrast: false,
  fingers: 'all',
  names: 'none',
  counting: 'none',
  show: {
    positions: true,
    hand: false,
    phrases: true,
    chords: true,
    signs: true,
    numbers: false,
    legend: true,
  },
  paper: 'A4',
  under: null,
  breaks: {},
}

/**
 * Version 4: changes come in by the time through, an arrangement may be somebody's, and its paper is part of
 * it.
 */
const inLayers: Step = old => ({
  ...old,
  version: 4,
  shown: { ...(isObject(old.shown) ? old.shown : {}), sheet: SHEET },
  played: { ...(isObject(old.played) ? old.played : {}), learner: null, through: 3 },
})

/** Version 5: rhythms have habits of the bow. Until somebody says so they are bowed as they are written. */
const withHabits: Step = old => {
  const played = isObject(old.played) ? old.played : {}
  const bow = isObject(played.bow) ? played.bow : {}
  return {
    ...old,
    version: 5,
    played: { ...played, bow: { ...bow, habits: { dotted: 'written', triplets: 'written' } } },
  }
}

/** Version 6: phrases and measures may have a remark, and an arrangement a clef of its own. */
const withRemarks: Step = old => ({
  ...old,
  version: 6,
  shown: { ...(isObject(old.shown) ? old.shown : {}), clef: null },
  taught: { ...(isObject(old.taught) ? old.taught : {}), remarks: {} },
})

export const ARRANGEMENT_LADDER: Ladder = [inThreeParts, strokesWithMore, inLayers, withHabits, withRemarks]
