/** Options: everything that can be wrong with what the caller said. */
import { PLACE_SCHOOLS } from '#core/fingering/places'
import { withPlayed, withSchools } from '#core/arrangement/edits'
import { newArrangement, type Arrangement, type Pins, type Played } from '#core/arrangement/recipe'
import { INSTRUMENTS, sizeOf, writtenFor, lettersOf } from '#core/instruments/instruments'
import { parseTuning, tuningProblem } from '#core/instruments/tunings'
import { parseKey } from '#core/music/key'
import { parseTempo } from '#core/music/metre'
import { INSTRUMENT_IDS, type InstrumentId, type Tune } from '#core/music/tune'
import { eventOf } from '#core/music/ids'
import type { FingerPin } from '#core/fingering/fingerPin'
import { PART_NAMES, type StrokePin } from '#core/bowing/pins'
import { DOTTED_HABITS, TRIPLET_HABITS } from '#core/bowing/habits'
import { LONGEST_PATTERN, parsePattern } from '#core/bowing/pattern'
import { BOW_SCHOOLS, BOW_WAYS, MAY_ALL, MAY_NOTHING, type BowSchool, type May } from '#core/bowing/schools'
import type { BowRecipe } from '#core/arrangement/bowRecipe'
import { frac, mul, parseFraction, type Fraction } from '#core/music/fraction'
import { BadInput } from './badInput'
import type { TuneFile } from './files'
import { text, type Options, type Values } from './verb'
import { LEVELS } from '#core/levels/levels'

/** What says how a tune is arranged. */
export const ARRANGEMENT_OPTIONS = {
  instrument: {
    type: 'string',
    value: 'violin|viola|cello|bass',
    what: 'whose hands; the tune’s own when left out',
  },
  size: { type: 'string', value: '3/4', what: 'a size of that instrument' },
  tuning: { type: 'string', value: '"A3 E4 A4 E5"', what: 'strings from the lowest up' },
  level: { type: 'string', value: '1..8', what: 'what the left hand has' },
  open: { type: 'string', value: 'first|cost|fourth', what: 'open string or fourth finger' },
  school: { type: 'string', value: BOW_SCHOOLS.join('|'), what: 'how bows are directed' },
  'bass-hand': { type: 'string', value: '1-2-4|1-2-3-4', what: 'the hand on the double bass' },
  reach: { type: 'string', value: 'cost|shift|extend', what: 'on the cello: rather shift, or open the hand' },
  long: { type: 'string', value: 'open|stopped', what: 'long notes as they lie, or rather stopped' },
  places: {
    type: 'string',
    value: PLACE_SCHOOLS.join('|'),
    what: 'violin and viola: rather at home, or slurred phrases in one position',
  },
  harmonics: { type: 'string', value: 'no|yes', what: 'natural harmonics wherever they help' },
  span: { type: 'string', value: 'MM', what: 'the reach from 1 to 4' },
  tempo: { type: 'string', value: '"1/4=96"', what: 'the tempo it is played in' },
  key: { type: 'string', value: 'D|Bb|Em|Edor', what: 'the key to play in' },
  octave: { type: 'string', value: 'auto|-1|0|1', what: 'octaves up or down' },
  pin: {
    type: 'string',
    multiple: true,
    value: 'ID=D:4',
    what: 'a string, a finger; for bow ID=down, up, hook, lift, at:0.4, part:upper',
  },
} as const satisfies Options

/** What the bow takes beside. */
export const BOW_OPTIONS = {
  ...ARRANGEMENT_OPTIONS,
  pattern: {
    type: 'string',
    value: '"2 1 1"',
    what: 'school pattern: how many units share each bow, over and over',
  },
  unit: { type: 'string', value: '1/8', what: 'the note value a pattern counts' },
  offset: { type: 'string', value: 'N', what: 'units after the barline at which the pattern begins' },
  may: {
    type: 'string',
    value: 'slur,hook,lift,part|all|none',
    what: 'what may be added to the written marks',
  },
  dotted: {
    type: 'string',
    value: DOTTED_HABITS.join('|'),
    what: 'dotted pairs: two bows, one stopped, one slurred',
  },
  triplets: {
    type: 'string',
    value: TRIPLET_HABITS.join('|'),
    what: 'triplets: as written, one group to a bow, two',
  },
} as const satisfies Options

function oneOf<const T extends string>(
  name: string,
  value: string | undefined,
  allowed: readonly T[],
  fallback: NoInfer<T>,
): T {
  if (value === undefined) return fallback
  const found = allowed.find(a => a === value)
  if (!found) throw new BadInput(`--${name} ${String(value)}: choose ${allowed.join(', ')}`)
  return found
}

export const instrumentOption = (tune: Tune | null, v: Values): InstrumentId =>
  oneOf('instrument', text(v.instrument), INSTRUMENT_IDS, tune ? writtenFor(tune) : 'violin')

/**
 * The arrangement the file itself holds, for the instrument that is asked for; else a plain one. What an
 * option says counts more.
 */
function baseOf({ tune, arrangements }: TuneFile, v: Values): Arrangement {
  const asked = text(v.instrument)
  const own = arrangements
    .map(a => a.arrangement)
    .find(r => asked === undefined || r.played.instrument === asked)
  if (own) return own
  const instrument = instrumentOption(tune, v)
  return newArrangement(instrument, sizeOf(instrument).name)
}

/** The recipe the options describe; pins of fingers are read for `finger`, of strokes for `bow`. */
export function recipeFrom(file: TuneFile, v: Values, pins: 'fingers' | 'strokes' | null): Arrangement {
  const { tune } = file
  const base = baseOf(file, v)
  const { instrument, schools, tuning: own } = base.played
  const sizes = INSTRUMENTS[instrument].sizes.map(s => s.name)
  const given = <T>(name: string, read: (value: string | undefined) => T, otherwise: T) =>
    v[name] === undefined ? otherwise : read(text(v[name]))
  const tuning = given('tuning', t => tuningOption(instrument, t), own)
  const schooled = withSchools(base, {
    open: oneOf('open', text(v.open), ['first', 'cost', 'fourth'], schools.open),
    bow: oneOf('school', text(v.school), BOW_SCHOOLS, schools.bow),
    reach: oneOf('reach', text(v.reach), ['cost', 'shift', 'extend'], schools.reach),
    long: oneOf('long', text(v.long), ['open', 'stopped'], schools.long),
    ...(v.places !== undefined && { position: oneOf('places', text(v.places), PLACE_SCHOOLS, 'auto') }),
    harmonics: oneOf('harmonics', text(v.harmonics), ['no', 'yes'], schools.harmonics),
    bassHand: oneOf('bass-hand', text(v['bass-hand']), ['1-2-4', '1-2-3-4'], schools.bassHand),
  })
  return withPlayed(schooled, {
    size: oneOf('size', text(v.size), sizes, base.played.size),
    tuning,
    bow: bowOption(base.played.bow, schooled.played.schools.bow, v),
    key: given('key', t => parsed('key', t, parseKey, 'write it as D, Bb, Em or Edor'), base.played.key),
    octave: given('octave', octaveOption, base.played.octave),
    level: given('level', levelOption, base.played.level),
    span: given('span', spanOption, base.played.span),
    tempo: given('tempo', t => parsed('tempo', t, parseTempo, 'write it as "1/4=96"'), base.played.tempo),
    pins: pinsOption(tune, lettersOf(instrument, tuning), v.pin, pins, base.played.pins),
  })
}

function parsed<T>(
  name: string,
  value: string | undefined,
  read: (t: string) => T | null,
  help: string,
): T | null {
  if (value === undefined) return null
  const result = read(value)
  if (result === null) throw new BadInput(`--${name} ${value}: not understood; ${help}`)
  return result
}

function tuningOption(id: InstrumentId, value: string | undefined): readonly number[] | null {
  if (value === undefined) return null
  const result = parseTuning(id, value)
  if ('tuning' in result) return result.tuning
  throw new BadInput(`--tuning ${value}: ${tuningProblem(id, result.error)}`)
}

function spanOption(value: string | undefined): number | null {
  if (value === undefined) return null
  const mm = Number(value)
  if (!(mm >= 20 && mm <= 260)) throw new BadInput(`--span ${value}: from 1 to 4 in mm, 20 to 260`)
  return mm
}

function octaveOption(value: string | undefined): Played['octave'] {
  if (value === undefined || value === 'auto') return 'auto'
  const n = Number(value)
  if (!Number.isInteger(n) || Math.abs(n) > 4)
    throw new BadInput(`--octave ${value}: auto or a whole number from -4 to 4`)
  return n
}

export function levelOption(value: string | undefined): Played['level'] {
  if (value === undefined) return null
  const level = LEVELS.find(n => String(n) === value)
  if (!level) throw new BadInput(`--level ${value}: a whole number from 1 to 8`)
  return level
}

function pinsOption(
  tune: Tune,
  letters: readonly string[],
  values: Values[string],
  kind: 'fingers' | 'strokes' | null,
  none: Pins,
): Pins {
  if (kind === null || values === undefined || typeof values === 'boolean') return none
  const ids = new Set(tune.measures.flatMap(m => m.events.map(e => e.id)))
  const entries = [values].flat().map(pin => {
    const [id, what] = [pin.slice(0, pin.indexOf('=')), pin.slice(pin.indexOf('=') + 1)]
    if (!pin.includes('=') || !ids.has(eventOf(id)))
      throw new BadInput(`--pin ${pin}: there is no note “${id}” in this tune`)
    return { id, pin, what }
  })
  return kind === 'fingers'
    ? { ...none, fingers: Object.fromEntries(entries.map(e => [e.id, fingerPin(letters, e.pin, e.what)])) }
    : { ...none, strokes: strokePins(entries.map(e => [e.id, strokePin(e.pin, e.what)])) }
}

function strokePin(pin: string, what: string): StrokePin {
  if (what === 'down' || what === 'up') return { direction: what }
  if (what === 'lift' || what === 'hook' || what === 'turn') return { way: what }
  const at = /^at:(\d*\.?\d+)$/.exec(what)
  if (at && Number(at[1]) <= 1) return { at: Number(at[1]) }
  const part = PART_NAMES.find(p => what === `part:${p}`)
  if (part) return { part }
  throw new BadInput(
    `--pin ${pin}: write ID=down, up, hook, lift, at:0.4 (0 the frog, 1 the tip) or part:${PART_NAMES.join('|')}`,
  )
}

/** Several pins on one note say several things of one stroke. */
function strokePins(entries: readonly (readonly [string, StrokePin])[]): Record<string, StrokePin> {
  const out: Record<string, StrokePin> = {}
  for (const [id, pin] of entries) out[id] = { ...out[id], ...pin }
  return out
}

function bowOption(base: BowRecipe, school: BowSchool, v: Values): BowRecipe {
  const pattern = text(v.pattern)
  if (school === 'pattern' && pattern === undefined && !base.groove)
    throw new BadInput('--school pattern: say the pattern too, as --pattern "2 1 1"')
  if (school !== 'pattern' && pattern !== undefined)
    throw new BadInput(`--pattern ${pattern}: only with --school pattern`)
  const numbers = parsed(
    'pattern',
    pattern,
    parsePattern,
    `numbers from 1 to 16 such as "2 1 1", ${LONGEST_PATTERN} units in all at most`,
  )
  const unit = parsed('unit', text(v.unit), unitOf, 'write a note value as 1/8')
  const offset = parsed(
    'offset',
    text(v.offset),
    t => (/^\d{1,2}$/.test(t) && Number(t) <= LONGEST_PATTERN ? { units: Number(t) } : null),
    'a whole number of units',
  )
  return {
    ...base,
    ...(v.may !== undefined && { may: mayOption(text(v.may)) }),
    habits: {
      dotted: oneOf('dotted', text(v.dotted), DOTTED_HABITS, base.habits.dotted),
      triplets: oneOf('triplets', text(v.triplets), TRIPLET_HABITS, base.habits.triplets),
    },
    groove: numbers
      ? { pattern: numbers, unit: unit ?? frac(1, 2), offset: offset?.units ?? 0 }
      : base.groove,
  }
}

/** "1/8" as a length in quarters. */
function unitOf(t: string): Fraction | null {
  const f = parseFraction(t)
  return f && f.n > 0 && f.n <= f.d ? mul(f, frac(4)) : null
}

function mayOption(value: string | undefined): May {
  if (value === undefined || value === 'none') return MAY_NOTHING
  if (value === 'all') return MAY_ALL
  const ways = value.split(',').map(w => w.trim())
  const unknown = ways.find(w => !BOW_WAYS.some(b => b === w))
  if (unknown !== undefined)
    throw new BadInput(`--may ${value}: ${BOW_WAYS.join(', ')}, all or none; not “${unknown}”`)
  return Object.fromEntries(BOW_WAYS.map(w => [w, ways.includes(w)])) as unknown as May
}

/** "D:4", "D" or "4". */
function fingerPin(letters: readonly string[], pin: string, what: string): FingerPin {
  const m = /^([A-G])?(?::?([0-4T]))?$/.exec(what)
  const string = m?.[1] ? letters.indexOf(m[1]) : undefined
  if (!m || what === '' || string === -1) {
    throw new BadInput(
      `--pin ${pin}: write ID=D:4 with a string of ${letters.join(' ')} and a finger 0-4 or T`,
    )
  }
  const finger = m[2] === undefined ? undefined : m[2] === 'T' ? 'T' : (Number(m[2]) as 0)
  return { ...(string !== undefined && { string }), ...(finger !== undefined && { finger }) }
}
