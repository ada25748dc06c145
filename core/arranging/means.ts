/**
 * By which means a skill is eased, in data: which are taken off, which go with fewer notes, which with
 * another pitch.
 */
import type { Demand } from '#core/grading/demands'

export const PLAIN = new Set([
  'grace',
  'graces',
  'cut',
  'mordent',
  'turn',
  'roll',
  'trill',
  'slideIn',
  'accent',
  'staccato',
  'dynamics',
  'retake',
])
export const SINGLE = new Set(['bothOpen', 'droneAbove', 'stoppedPair', 'fifthBlock', 'threeStrings'])
export const RHYTHMS = new Set(['dotted', 'triplet', 'sixteenths', 'compoundDotted'])
/** Rhythms with a means of their own. */
export const COUNTED = new Set(['eighths', 'syncopation', 'pickup'])
export const SLURS = new Set(['slur2', 'slur3', 'slur4', 'slurCrossing', 'slurSkip', 'hook'])
/** Skills that two notes ask together. */
export const NEIGHBOURS = new Set([
  'accidental',
  'shapeChange',
  'hop',
  'block',
  'skip',
  'shiftOpen',
  'shiftSame',
  'shiftBetween',
])
/** … those that follow each other at once. */
export const PAIRS = new Set(['hop', 'block', 'skip'])

/** Asked by two notes, each of which may be within the level by itself. */
export const hangsOnTwo = ({ asked }: Demand) =>
  asked.kind === 'limit'
    ? asked.limit === 'leap' || asked.limit === 'shiftsPerPhrase'
    : NEIGHBOURS.has(asked.skill) && asked.skill !== 'accidental'
