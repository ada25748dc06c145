/** The words of strokes. */
import type { Stroke, StrokeCost } from '#core/bowing/stroke'
import type { BowSchool, BowWay } from '#core/bowing/schools'
import type { Habits } from '#core/bowing/habits'
import type { PartName } from '#core/bowing/pins'
import type { BowEdit, BowEffect, Finding, FindingCode, Mend } from '#core/findings/finding'
import { groupBy } from '#core/groupBy'
import { counted, ordinal } from '#core/counts'
import { capital, measuresText, measureText } from './places'

/** One sentence for a stroke. */
export function whyStroke({ why }: Pick<Stroke, 'why'>, school: BowSchool): string {
  switch (why.is) {
    case 'start':
      return 'The line starts down and goes on from there.'
    case 'pickup':
      return 'The pickup comes up, so that the first beat comes down.'
    case 'leadIn':
      return 'The pickup leads in, and the bow goes on from there.'
    case 'turn':
      return 'In turn after the stroke before.'
    case 'pinned':
      return 'Pinned by you.'
    case 'marked':
      return 'As it is marked in the tune.'
    case 'written':
      return 'Slurred as it is written.'
    case 'parted':
      return 'The written slur is parted here: one bow does not bear all of it.'
    case 'lift':
      return {
        rest: 'Set anew: the rest gives time for it.',
        comma: 'Set anew at the comma.',
        breath: 'Set anew with a breath at the end of the phrase.',
      }[why.room]
    case 'syllable':
      return 'One bow to the syllable.'
    case 'pattern':
      return 'As the pattern goes.'
    case 'habit':
      return HABITS[why.of][why.way]
    case 'phrase':
      return 'As many notes as the bow bears before the music turns.'
    case 'hook':
    case 'slur':
      return `${JOINED[why.is][why.because]}${why.measure === null || school !== 'down' ? '' : `, so that ${measureText(why.measure)} comes down`}.`
  }
}

const HABITS = {
  dotted: {
    hook: 'Dotted pairs are hooked: both notes in one bow, stopped between.',
    slur: 'Dotted pairs share one bow.',
  },
  triplets: { hook: 'Triplets share a bow.', slur: 'Triplets share a bow.' },
}

const JOINED = {
  hook: {
    dotted: 'The dotted pair is hooked: one bow, stopped between',
    longShort: 'The long and the short share one bow, stopped between',
    triplet: 'Stopped in the same bow, so that the triplet counts as a pair',
    evens: 'Hooked: one bow, stopped between',
  },
  slur: {
    dotted: 'The dotted pair shares one bow',
    longShort: 'The long note takes its short one along',
    triplet: 'Two of the triplet share a bow, so that it counts as a pair',
    evens: 'Two notes share one bow',
  },
} as const

const COSTS: Readonly<Record<keyof StrokeCost, string>> = {
  direction: 'against the beat',
  slur: 'slurred',
  hook: 'hooked',
  lift: 'lifted',
  turn: 'turned here',
  time: 'time in one bow',
  length: 'longer or shorter than it wants',
}
export const costWords = (name: string) => COSTS[name as keyof StrokeCost] ?? name

const EDITS: Readonly<Record<BowEdit['way'], string>> = {
  slur: 'slur',
  hook: 'hook',
  lift: 'lift before',
  part: 'part the slur',
}

/** "Slur in measure 3", "Hook in measures 2 and 5", "Slur in measure 1, lift before measure 5". */
export function bowEditsWords(edits: readonly BowEdit[]): string {
  const ways = [...new Set(edits.map(e => e.way))]
  const said = ways.map(way => {
    const measures = [
      ...new Set(edits.flatMap(e => (e.way === way && e.measure !== undefined ? [e.measure] : []))),
    ]
    const where = measures.length > 0 ? ` in ${measuresText(measures)}` : ' here'
    return `${EDITS[way]}${where}`
  })
  const all = said.join(', ')
  return capital(all)
}

/** "then measures 3 to 6 come down". */
export const effectWords = (e: BowEffect): string =>
  e.measures.length > 0
    ? `then ${measuresText(e.measures)} ${e.measures.length === 1 ? 'comes' : 'come'} down`
    : `then ${e.answers} of these ${e.answers === 1 ? 'is' : 'are'} gone`

/** "at the frog", "in the lower half", "in the middle": where on the bow. */
export function placeWords(place: number): string {
  if (place < 0.12) return 'at the frog'
  if (place > 0.88) return 'at the tip'
  if (place < 0.4) return 'in the lower half'
  return place > 0.6 ? 'in the upper half' : 'in the middle'
}

export const PART_WORDS = {
  whole: 'whole bow',
  lower: 'lower half',
  middle: 'middle',
  upper: 'upper half',
  frog: 'frog',
  tip: 'tip',
} as const satisfies Record<PartName, string>

export const HABIT_CHOICES: {
  readonly [K in keyof Habits]: {
    readonly label: string
    readonly items: Readonly<Record<Habits[K], string>>
  }
} = {
  dotted: {
    label: 'Dotted pairs',
    items: { written: 'as written', hooked: 'hooked: one bow, stopped between', slurred: 'slurred' },
  },
  triplets: { label: 'Triplets', items: { written: 'as written', one: 'one to a bow', two: 'two to a bow' } },
}

export const WAY_WORDS = {
  slur: 'slur two notes',
  hook: 'a hooked bow',
  lift: 'retake',
  part: 'part a written slur',
} as const satisfies Record<BowWay, string>

/** "Part A, second time: 22 cm towards the tip". */
export function driftWords(d: {
  readonly part: string | null
  readonly pass: number
  readonly cm: number
}): string {
  const times = d.pass > 1 ? `, ${ordinal(d.pass)} time` : ''
  const by =
    Math.abs(d.cm) < 1
      ? 'comes back to where it began'
      : `${Math.round(Math.abs(d.cm))} cm towards the ${d.cm > 0 ? 'tip' : 'frog'}`
  return `${d.part === null ? 'All of it' : `Part ${d.part}`}${times}: ${by}`
}

/** What all offered marks together do. */
export function offerWords(now: number, then: number, beats: number, marks: number): string {
  if (now === 0) return beats === 1 ? 'The first beat comes down.' : `All ${beats} first beats come down.`
  const said = `${now} of ${counted(beats, 'first beat')} ${now === 1 ? 'comes' : 'come'} up.`
  if (marks === 0) return said
  return `${said} With ${counted(marks, 'mark')} ${then === 0 ? 'all come down' : `${then} still ${then === 1 ? 'does' : 'do'}`}.`
}

export interface FindingGroup {
  readonly findings: readonly Finding[]
  readonly sentence: string
  readonly mends: readonly Mend[]
}

/** What is said once where several places have one cause and one mend. */
const MANY: Partial<Record<FindingCode, (where: string) => string>> = {
  'bow.firstBeatUp': where => `The first beats of ${where} come up.`,
  'bow.fastReturn': where =>
    `In ${where} a short note has to bring the bow back much faster than it sounds by itself; it will stick out.`,
  'bow.sparedCrossing': where => `In ${where} the fourth finger would spare the bow two crossings.`,
}

/** First beats that one mend brings down are said in one line, and the like; everything else by itself. */
export function groupedFindings(findings: readonly Finding[]): FindingGroup[] {
  const groups = groupBy(
    findings.map((f, i) => ({ f, i })),
    ({ f, i }) => (MANY[f.code] ? `${f.code} ${JSON.stringify(f.mends?.[0] ?? null)}` : `${i}`),
  )
  return [...groups.values()].map(list => {
    const own = list.map(x => x.f)
    const first = own[0]!
    const measures = own.flatMap(f => f.where.measure ?? [])
    const many = new Set(measures).size > 1
    return {
      findings: own,
      mends: first.mends ?? [],
      sentence: many ? MANY[first.code]!(measuresText(measures)) : '',
    }
  })
}
