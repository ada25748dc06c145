/** The ladder of the recipe. A step is never changed once documents of its version exist; each has an example in core/documents/examples. */
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

export const ARRANGEMENT_LADDER: Ladder = [inThreeParts]
