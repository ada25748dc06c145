/** Tablature as plain text: bow marks, one line per string, rhythm letters under them. */
import { frac, mul, toNumber, type Fraction } from '#core/music/fraction'
import type { TabEvent, TabMeasure, TabModel } from './tabModel'

/** Note-value letters: whole, half, quarter, eighth, sixteenth, thirty-second; a dot lengthens by half. */
const VALUES: readonly (readonly [string, number])[] = [
  ['w', 4],
  ['h', 2],
  ['q', 1],
  ['e', 0.5],
  ['s', 0.25],
  ['t', 0.125],
]

export function valueText(e: Pick<TabEvent, 'duration' | 'tuplet'>): string {
  const written: Fraction = e.tuplet ? mul(e.duration, frac(e.tuplet.actual, e.tuplet.normal)) : e.duration
  const quarters = toNumber(written)
  for (const [letter, length] of VALUES) {
    if (quarters === length) return letter
    if (quarters === length * 1.5) return `${letter}.`
    if (quarters === length * 1.75) return `${letter}..`
  }
  return '~'
}

interface Column {
  readonly bow: string
  readonly lines: readonly string[]
  readonly value: string
}

function column(e: TabEvent, strings: number): Column {
  const digit = (line: number) =>
    e.digits
      .filter(d => d.line === line)
      .map(d => d.text)
      .join('')
  return {
    bow: e.bow ? (e.bow === 'down' ? 'n' : 'v') : e.joined ? '~' : '',
    lines: Array.from({ length: strings }, (_, i) => digit(i)),
    value: (e.rest ? 'r' : '') + valueText(e),
  }
}

/** Bars drawn as text; `n` is a down bow, `v` an up bow, `~` a note slurred to the one before. */
export function tabText(title: string, model: TabModel, widest = WIDEST): string {
  const systems: TabMeasure[][] = []
  for (const m of model.measures) {
    const last = systems.at(-1)
    const fits = last && widthOf([...last, m], model.lineLabels) <= widest && countOf(last) < MOST_MEASURES
    if (fits || (last && countOf(last) === 0)) last.push(m)
    else systems.push([m])
  }
  return [title, ...systems.map(s => systemText(s, model.lineLabels))].join('\n\n') + '\n'
}

/** Letters a line holds, as in a mail; and measures, as a reader of tunes expects. */
const WIDEST = 96
const MOST_MEASURES = 4
const widthOf = (measures: readonly TabMeasure[], labels: readonly string[]) =>
  Math.max(
    ...systemText(measures, labels)
      .split('\n')
      .map(l => [...l].length),
  )
/** A pickup does not count as a measure. */
const countOf = (measures: readonly TabMeasure[]) => measures.filter(m => m.number > 0).length

function systemText(measures: readonly TabMeasure[], labels: readonly string[]): string {
  const width = Math.max(...labels.map(l => l.length))
  const pad = ' '.repeat(width)
  let [bow, value] = [`${pad}  `, `${pad}  `]
  const lines = labels.map(l => `${l.padEnd(width)} ${measures[0]!.repeatStart ? '‖:' : '|'}`)
  if (measures[0]!.repeatStart) [bow, value] = [bow + ' ', value + ' ']
  measures.forEach((m, i) => {
    if (m.endings) bow = bow.replace(/ $/, '') + `${m.endings.join(',')}.`
    const grow = Math.max(0, bow.length - value.length)
    value += ' '.repeat(grow)
    lines.forEach((_, k) => (lines[k] += '-'.repeat(grow)))
    for (const e of m.events) {
      const c = column(e, labels.length)
      const w = Math.max(c.bow.length, c.value.length, ...c.lines.map(x => x.length)) + 1
      bow += c.bow.padEnd(w)
      value += c.value.padEnd(w)
      lines.forEach((_, k) => (lines[k] += c.lines[k]!.padEnd(w, '-')))
    }
    const bar = barText(m, measures[i + 1])
    bow += ' '.repeat(bar.length)
    value += ' '.repeat(bar.length)
    lines.forEach((_, k) => (lines[k] += bar))
  })
  return [bow.trimEnd(), ...lines, value.trimEnd()].join('\n')
}

function barText(m: TabMeasure, next: TabMeasure | undefined): string {
  const end = m.repeatEnd ? ':‖' : m.barline === 'final' ? '‖' : m.barline === 'double' ? '||' : '|'
  return end + (next?.repeatStart ? (end === '|' ? '‖:' : ':') : '')
}
