/** The sentences of the form: one place for them. */
import { barsAfter, type BarAfter } from '#core/form/bars'
import { figuresOf, type Figure } from '#core/form/figures'
import type { Phrase } from '#core/form/form'
import { secondHalf } from '#core/form/halves'
import type { Kin } from '#core/form/kinship'
import type { PlanStep } from '#core/form/plan'
import type { Role } from '#core/form/roles'
import { measuresText, measureText } from './places'
import { counted } from '#core/counts'

const ORDINAL = ['', 'a second', 'a third', 'a fourth', 'a fifth', 'a sixth', 'a seventh', 'an octave']
const stepsWord = (steps: number) => {
  const n = Math.abs(steps)
  return n <= 7 ? ORDINAL[n]! : n % 7 === 0 ? `${n / 7} octaves` : `${n} steps`
}

/** How a phrase is kin, in a sentence: "As A1, but for the last 3 notes." */
export function kinSentence(k: Kin): string {
  const n = k.differences.length
  const tail = [k.otherDynamics && 'with other dynamics', k.otherBow && 'but it begins on the other bow']
  const more = tail.filter(Boolean).join(', ')
  switch (k.relation) {
    case 'same':
      return `The same as ${k.phrase}${more ? `, ${more}` : ''}.`
    case 'ending differs':
      return `As ${k.phrase} with another ending: ${counted(n, 'note')} to learn.`
    case 'start differs':
      return `Ends as ${k.phrase} does; the start is another: ${counted(n, 'note')} to learn.`
    case 'notes differ':
      return `As ${k.phrase} but for ${counted(n, 'note')}.`
    case 'transposed':
      return `${k.phrase} moved ${k.moved!.steps > 0 ? 'up' : 'down'} by ${stepsWord(k.moved!.steps)}${k.moved!.exact ? ', exactly' : ' of the scale'}${n ? `, but for ${counted(n, 'note')}` : ''}.`
    case 'octave':
      return `${k.phrase} ${stepsWord(k.moved!.steps)} ${k.moved!.steps > 0 ? 'higher' : 'lower'}${n ? `, but for ${counted(n, 'note')}` : ''}.`
    case 'declared':
      return `Related to ${k.phrase}: set by you.`
    case 'same fingers':
      return `The fingers of ${k.phrase}, ${counted(Math.abs(k.strings!), 'string')} ${k.strings! > 0 ? 'lower' : 'higher'}.`
    case 'same rhythm':
      return `Claps like ${k.phrase}; the notes are others.`
    case 'same contour':
      return `Goes up and down as ${k.phrase} does, on other notes.`
  }
}

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  question: 'asks',
  answer: 'answers',
  'second answer': 'answers again',
  statement: 'stands by itself',
  link: 'links',
  tag: 'closes as a tag',
}

/** "falling broken chord on A". */
export function figureName(f: Figure): string {
  const way = f.direction === 'up' ? 'rising' : 'falling'
  if (f.kind === 'scale') return `scale ${f.direction} from ${f.names[0]} to ${f.names[1]}`
  if (f.kind === 'arpeggio') return `${way} broken chord on ${f.names[0]}`
  const { tones, times, steps } = f.cell!
  return f.kind === 'cell'
    ? `a cell of ${tones} notes, ${times} times`
    : `a figure of ${tones} notes moved ${steps > 0 ? 'up' : 'down'} by ${stepsWord(steps)}, ${times} times`
}

/** What a step of the plan says. */
export function stepSentence(s: PlanStep): string {
  const names = s.phrases.join(' + ')
  const bars = s.measures.length > 0 ? measuresText(s.measures) : ''
  switch (s.kind) {
    case 'count':
      return `Count ${names} aloud.`
    case 'clap':
      return `Clap the rhythm of ${names}.`
    case 'one string':
      return `Play the rhythm of ${names} on one open string.`
    case 'measures':
      return `Take ${bars} of ${names} by ${s.measures.length === 1 ? 'itself' : 'themselves'}, slowly.`
    case 'phrase':
      return bars
        ? `${names}: only ${bars} new. Teacher plays, learner answers.`
        : `${names}: teacher plays, learner answers, twice or more.`
    case 'together':
      return `${names} joined.`
    case 'part':
      return `${names}: the whole part${s.repeat ? ', with the repeat' : ''}.`
    case 'tune':
      return 'The whole tune, at the tempo of its hardest phrase.'
  }
}

/** What a phrase is made of: its halves when they are kin, and its figures. */
export function phraseFigures(p: Phrase): string[] {
  const half = secondHalf(p)
  const halves = half
    ? [`Its second half: ${kinSentence({ ...half, phrase: 'the first' }).toLowerCase()}`]
    : []
  return [...halves, ...barsAfter(p.stretch).map(barSentence), ...figuresOf(p.stretch.tones).map(figureName)]
}

/** "measure 3: the bar before, a step lower"; the same bar said twice. */
export function barSentence({ measure, steps }: BarAfter): string {
  const how =
    steps === 0
      ? 'again'
      : `${Math.abs(steps) === 1 ? 'a step' : stepsWord(steps)} ${steps > 0 ? 'higher' : 'lower'}`
  return `${measureText(measure)}: the bar before${steps === 0 ? ' ' : ', '}${how}`
}
