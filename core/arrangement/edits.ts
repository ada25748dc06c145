/**
 * Edits of a recipe: pure, one a decision, so that page, shell, interface and tests make them alike. Where
 * another choice takes the ground from a pin or a rule (a finger pinned for a violin says nothing on a
 * cello), the edit says which of them survive.
 */
import type { FingerPin } from '#core/fingering/fingerPin'
import type { PartName, StrokePin } from '#core/bowing/pins'
import type { BowSchool } from '#core/bowing/schools'
import type { BowEdit, Mend } from '#core/findings/finding'
import { sizeOf } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import { equal } from '#core/music/fraction'
import { sameKey, type Key } from '#core/music/key'
import type { Learner } from '#core/instruments/learner'
import { changeOf, type EventId, type NoteId } from '#core/music/ids'
import { MAY_NOTHING } from '#core/bowing/schools'
import { leavesPart, type Change } from './change'
import type { Tempo } from '#core/music/metre'
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import type { SheetRecipe, SheetStyle } from '#core/styles/sheetRecipe'
import type { BowPassage, BowRecipe, GrooveRecipe } from './bowRecipe'
import type { Arrangement, Pins, Played, Shown, Taught } from './recipe'

export const withPlayed = (r: Arrangement, changes: Partial<Played>): Arrangement => ({
  ...r,
  played: { ...r.played, ...changes },
})
export const withShown = (r: Arrangement, changes: Partial<Shown>): Arrangement => ({
  ...r,
  shown: { ...r.shown, ...changes },
})
export const withTaught = (r: Arrangement, changes: Partial<Taught>): Arrangement => ({
  ...r,
  taught: { ...r.taught, ...changes },
})
export const withSchools = (r: Arrangement, changes: Partial<Played['schools']>): Arrangement =>
  withPlayed(r, { schools: { ...r.played.schools, ...changes } })

/**
 * Another instrument, at its usual size and home tuning. Bow marks, slurs and the form stay; what was said of
 * strings, fingers and places does not.
 */
export function forInstrument(r: Arrangement, instrument: InstrumentId): Arrangement {
  if (instrument === r.played.instrument) return r
  return withPlayed(withShown(r, { clef: null }), {
    instrument,
    size: sizeOf(instrument).name,
    measured: null,
    span: null,
    tuning: null,
    octave: 'auto',
    pins: { ...r.played.pins, fingers: {} },
    passages: r.played.passages.filter(p => p.rule.kind !== 'string' && p.rule.kind !== 'position'),
  })
}

/**
 * Made for a learner: on what they play, within their reach and level. Null: for nobody in particular; what
 * was chosen for them stays.
 */
export function forLearner(r: Arrangement, learner: Learner | null): Arrangement {
  if (learner === null) return withPlayed(r, { learner: null })
  const own = withSize(forInstrument(r, learner.instrument), learner.size)
  return withPlayed(own, { learner: learner.id, span: learner.span, level: learner.level })
}

/** Without some of the changes of its notes, and without what was pinned to the notes they made. */
export function withoutChanges(r: Arrangement, goes: (c: Change) => boolean): Arrangement {
  const gone = new Set(r.played.changes.filter(goes).map(c => c.id))
  if (gone.size === 0) return r
  const kept = <T>(pins: Readonly<Record<string, T>>) =>
    Object.fromEntries(Object.entries(pins).filter(([note]) => !gone.has(changeOf(note) ?? '')))
  const { fingers, strokes, joins } = r.played.pins
  return withPlayed(r, {
    changes: r.played.changes.filter(c => !gone.has(c.id)),
    pins: { fingers: kept(fingers), strokes: kept(strokes), joins: kept(joins) },
  })
}

/**
 * A part, by its measures, is left out or played again. Before all other changes: what is changed of it waits
 * until it comes back.
 */
export function partLeft(r: Arrangement, measures: readonly string[], out: boolean): Arrangement {
  const own = new Set(measures)
  const others = r.played.changes.filter(c => !(leavesPart(c) && c.edit.measures.some(m => own.has(m))))
  const leave: Change = {
    id: `leave-${measures[0]!}`.slice(0, 24),
    kind: 'leave',
    accepted: true,
    edit: { do: 'leave', measures },
  }
  return withPlayed(r, { changes: out ? [leave, ...others] : others })
}

/**
 * An easier version taken back: without its changes, and without the level, the tempo, the octave and the
 * parted slurs it brought. What the teacher set stays: since then, and the parts that are left out.
 */
export function withoutVersion(r: Arrangement): Arrangement {
  const plain = withoutChanges(r, c => !leavesPart(c))
  const { eased, ...played } = plain.played
  if (!eased) return plain
  const joins = Object.fromEntries(
    Object.entries(played.pins.joins).filter(([id, on]) =>
      on ? !eased.slurred?.includes(id) : !eased.parted.includes(id),
    ),
  )
  return {
    ...plain,
    ...(eased.clef && { shown: { ...plain.shown, clef: null } }),
    played: {
      ...played,
      level: null,
      tempo: eased.tempo && played.tempo && sameTempo(eased.tempo, played.tempo) ? null : played.tempo,
      octave: eased.octave !== null && eased.octave === played.octave ? 'auto' : played.octave,
      pins: { ...played.pins, joins },
      ...(eased.bowed && { bow: { ...played.bow, may: eased.may ?? MAY_NOTHING } }),
    },
  }
}
/**
 * Slurs a version added, by the events they are taken over to: left out, or had again. They stay in its list
 * either way.
 */
export function addedSlurs(r: Arrangement, events: readonly string[], taken: boolean): Arrangement {
  const { eased, pins } = r.played
  const own = new Set(events.filter(e => eased?.slurred?.includes(e)))
  const others = Object.fromEntries(Object.entries(pins.joins).filter(([id, on]) => !on || !own.has(id)))
  const joins = taken ? { ...others, ...Object.fromEntries([...own].map(id => [id, true])) } : others
  return withPlayed(r, { pins: { ...pins, joins } })
}

const sameTempo = (a: Tempo, b: Tempo) => a.perMinute === b.perMinute && equal(a.beat, b.beat)

/** Another size; a string measured on the old one counts no more. */
export const withSize = (r: Arrangement, size: string): Arrangement => withPlayed(r, { size, measured: null })

const stringsOf = (t: readonly number[] | null) => t?.length ?? 4

/** Another tuning (null: home). On another number of strings a string pinned is another one. */
export function withTuning(r: Arrangement, tuning: Tuning | null): Arrangement {
  const anew = stringsOf(tuning) !== stringsOf(r.played.tuning)
  return withPlayed(r, {
    tuning: tuning && [...tuning],
    ...(anew && {
      pins: { ...r.played.pins, fingers: {} },
      passages: r.played.passages.filter(p => p.rule.kind !== 'string'),
    }),
  })
}

/** Another key to play in; the tune's own is none. */
export const withKey = (r: Arrangement, key: Key, own: Key): Arrangement =>
  withPlayed(r, { key: sameKey(key, own) ? null : key })

/** Something of its paper chosen by itself: no style of that name any more. */
export const withSheet = (r: Arrangement, part: Partial<SheetRecipe>): Arrangement =>
  withShown(r, { sheet: { ...r.shown.sheet, style: '', ...part } })

/** A style taken: what hangs on this tune alone (its breaks, what stands under it) stays. */
export const styled = (r: Arrangement, { sheet, bowMarks }: SheetStyle): Arrangement => {
  const { breaks, under } = r.shown.sheet
  return withShown(r, { bowMarks, sheet: { ...sheet, breaks, under } })
}

/** A line or a page begins with a measure, none does, or whatever looks best (null). */
export function brokenAt(r: Arrangement, measure: string, how: 'line' | 'page' | 'none' | null): Arrangement {
  const { [measure]: _old, ...rest } = r.shown.sheet.breaks
  const breaks = how === null ? rest : { ...rest, [measure]: how }
  return withShown(r, { sheet: { ...r.shown.sheet, breaks } })
}

/**
 * The line (or page) that begins with one measure begins with another instead: the line before it ends there.
 * Pulled further on, no line begins where it did; pulled back, what begins there is left to what looks best.
 */
export function beginsInstead(
  r: Arrangement,
  from: string,
  to: string,
  o: { readonly how: 'line' | 'page'; readonly later: boolean },
): Arrangement {
  if (from === to) return r
  return brokenAt(brokenAt(r, from, o.later ? 'none' : null), to, o.how)
}

/** A copy under another name, free to go its own way. */
export const duplicated = (r: Arrangement, name: string): Arrangement => ({ ...r, name: name.slice(0, 120) })

/** A note that is to be fingered like another, so many semitones further up the string. */
export interface PinPlace {
  readonly id: NoteId
  readonly up: Semitones
}

/**
 * One finger pinned at several notes that are alike, or taken off all of them; the place of the hand goes
 * along with each note.
 */
export function fingersPinned(
  r: Arrangement,
  at: readonly PinPlace[],
  pin: FingerPin | undefined,
): Arrangement {
  const fingers = { ...r.played.pins.fingers }
  for (const { id, up } of at) {
    if (pin) fingers[id] = pin.anchor === undefined ? pin : { ...pin, anchor: pin.anchor + up }
    else delete fingers[id]
  }
  return withPlayed(r, { pins: { ...r.played.pins, fingers } })
}

/** The pins with one entry of one kind set or (with undefined) taken away. */
export function withPin<K extends keyof Pins>(
  pins: Pins,
  kind: K,
  id: string,
  value: Pins[K][string] | undefined,
): Pins {
  const { [id]: _old, ...rest } = pins[kind] as Record<string, unknown>
  return { ...pins, [kind]: value === undefined ? rest : { ...rest, [id]: value } }
}

export const pinned = <K extends keyof Pins>(
  r: Arrangement,
  kind: K,
  id: string,
  value: Pins[K][string] | undefined,
): Arrangement => withPlayed(r, { pins: withPin(r.played.pins, kind, id, value) })

/** A change of the notes taken or refused; it stays in the list either way. */
export const decided = (r: Arrangement, change: string, accepted: boolean): Arrangement =>
  withPlayed(r, {
    changes: r.played.changes.map(c => (c.id === change ? { ...c, accepted } : c)),
  })

/** More said of one stroke; `undefined` takes a word back, and nothing left takes the pin off. */
export function strokePinned(
  r: Arrangement,
  note: EventId,
  change: Partial<Record<keyof StrokePin, unknown>>,
): Arrangement {
  const merged = { ...r.played.pins.strokes[note], ...change } as StrokePin
  const kept = Object.fromEntries(Object.entries(merged).filter(([, v]) => v !== undefined)) as StrokePin
  return pinned(r, 'strokes', note, Object.keys(kept).length > 0 ? kept : undefined)
}

/** Marks of the bow set, each at its note: what was slurred is no hook any more, and the other way round. */
export function bowEdited(r: Arrangement, edits: readonly BowEdit[]): Arrangement {
  return edits.reduce((recipe, { note, way }) => {
    if (way === 'slur' || way === 'part') {
      const free = strokePinned(recipe, note, {
        way: undefined,
        ...(way === 'slur' && { direction: undefined }),
      })
      return pinned(free, 'joins', note, way === 'slur')
    }
    const parted = recipe.played.pins.joins[note] ? pinned(recipe, 'joins', note, undefined) : recipe
    return strokePinned(parted, note, { way })
  }, r)
}

/** Marks that are not to be added, each at its note; others may come in their place. */
export const bowRefused = (r: Arrangement, edits: readonly BowEdit[]): Arrangement =>
  edits.reduce(
    (recipe, { note, way }) =>
      way === 'slur' || way === 'part'
        ? pinned(recipe, 'joins', note, way === 'part')
        : strokePinned(recipe, note, { way: 'turn' }),
    r,
  )

/** Another school, groove or leave to add marks. */
export const withBow = (r: Arrangement, changes: Partial<BowRecipe>): Arrangement =>
  withPlayed(r, { bow: { ...r.played.bow, ...changes } })

/** From one event to another; null is all of the tune. */
export type Stretch = { readonly from: EventId; readonly to: EventId } | null

const sameStretch = (a: BowPassage, b: NonNullable<Stretch>) => a.from === b.from && a.to === b.to

/**
 * A school (and its groove) for all of it, or for a stretch. For all of it the stretches with another school
 * give way.
 */
export function bowedBy(
  r: Arrangement,
  at: Stretch,
  school: BowSchool,
  groove: GrooveRecipe | null,
): Arrangement {
  const { passages } = r.played.bow
  if (at === null) {
    const parts = passages.flatMap(p => (p.part ? [{ from: p.from, to: p.to, part: p.part }] : []))
    return withBow(withSchools(r, { bow: school }), {
      groove: groove ?? r.played.bow.groove,
      passages: parts,
    })
  }
  const others = passages.filter(p => !(p.school && sameStretch(p, at)))
  const own = { ...at, school, ...(groove && { groove }) }
  return withBow(r, { passages: [...others, own] })
}

/** A part of the bow for a stretch; `null` takes it off. */
export function partOfBow(r: Arrangement, at: NonNullable<Stretch>, part: PartName | null): Arrangement {
  const others = r.played.bow.passages.filter(p => !(p.part && sameStretch(p, at)))
  return withBow(r, { passages: part ? [...others, { ...at, part }] : others })
}

/** A mend that is an edit of the recipe; one of the tune itself is not. */
export type RecipeMend = Exclude<Mend, { readonly kind: 'moveNote' }>

export function mended(r: Arrangement, m: RecipeMend): Arrangement {
  switch (m.kind) {
    case 'stroke':
      return strokePinned(r, m.note, { direction: m.direction })
    case 'join':
      return pinned(r, 'joins', m.note, m.slurred)
    case 'bow':
      return bowEdited(r, m.edits)
    case 'finger':
      return pinned(r, 'fingers', m.note, { string: m.string, finger: m.finger })
    case 'octave':
      return withPlayed(r, { octave: m.octave })
    case 'key':
      return withPlayed(r, { key: m.key })
    case 'dropRule':
      return withPlayed(r, { passages: r.played.passages.filter((_, i) => i !== m.index) })
    case 'dropChange':
      return withPlayed(r, { changes: r.played.changes.filter(c => c.id !== m.change) })
    case 'unpin':
      return pinned(r, m.what === 'finger' ? 'fingers' : 'strokes', m.note, undefined)
  }
}
