/** Skills, demands and levels in words. */
import type { Level } from '#core/levels/levels'
import { isOfTune, type Demand, type Grade } from '#core/grading/demands'
import { skillById, skillOf } from '#core/grading/catalogue'
import { MOST_NEW, type Fit } from '#core/grading/fit'
import type { KeyRow, Measure } from '#core/grading/keyRows'
import { measuresText } from './places'
import { counted, timesText } from '#core/counts'

const LIMITS = {
  fastest: (n: number) => `${n.toFixed(1)} notes a second`,
  notesPerBow: (n: number) => `${n} notes in a bow`,
  shiftsPerPhrase: (n: number) => `${counted(n, 'shift')} in a phrase`,
  leap: (n: number) => `a leap of ${n} half steps`,
} as const

export const demandTitle = ({ asked }: Pick<Demand, 'asked'>): string =>
  asked.kind === 'limit' ? LIMITS[asked.limit](asked.amount) : skillOf(asked.skill).title

/** "low 1 in measure 7, once"; "four sharps and more", which is no one place's. */
export function demandWords(d: Demand): string {
  if (isOfTune(d)) return demandTitle(d)
  const where = measuresText(d.notes.map(n => n.measure))
  return `${demandTitle(d)} in ${where}, ${timesText(d.notes.length)}`
}

/**
 * What a version still asks: "Above level 2: a change of metre. No change of notes mends that: this is the
 * nearest that can be had; from level 5 it holds."
 */
export function aboveWords(blocked: readonly Demand[], level: Level): string {
  const above = `Above level ${level}: ${blocked.map(demandWords).join('; ')}.`
  if (!blocked.every(isOfTune)) return above
  const holds = Math.max(...blocked.map(d => d.level))
  return `${above} No change of notes mends that: this is the nearest that can be had; from level ${holds} on it holds.`
}

/** "Level 4: low 1 in measure 7, once." or "Level 3 but for low 1 in measure 7, once." */
export function gradeWords(g: Grade): string {
  const list = (demands: readonly Demand[]) => demands.slice(0, 3).map(demandWords).join('; ')
  const more = g.demands.filter(d => d.level === g.level)
  if (g.level === 1) return 'Level 1: nothing asks for more.'
  if (g.butFor) return `Level ${g.butFor.level} but for ${list(g.butFor.demands)}.`
  return `Level ${g.level}: ${list(more)}.`
}

/**
 * "New for M.: low 2 (measures 5 and 13). More than two new things at once: …" Sentences, the most needed
 * first.
 */
export function fitWords(f: Fit, name: string): string[] {
  const out: string[] = []
  if (f.news.length > 0) out.push(`New for ${name}: ${f.news.map(demandWords).join('; ')}.`)
  if (f.news.length > MOST_NEW) out.push(`${f.news.length} new things are more than one tune can teach.`)
  for (const n of f.notYet)
    out.push(`Not yet ${skillTitle(n.skill)}: first ${n.first.map(skillTitle).join(', ')}.`)
  if (f.beyond.length > 0) out.push(`Beyond ${name}: ${f.beyond.map(demandWords).join('; ')}.`)
  if (f.learning.length > 0) out.push(`Practised here: ${f.learning.map(demandWords).join('; ')}.`)
  return out.length > 0 ? out : [`${name} knows all it asks for.`]
}
export const skillTitle = (id: string) => skillById(id)?.title ?? id

const STRENGTHS: Readonly<Record<Measure, (r: KeyRow) => string>> = {
  shifts: r => (r.shifts === 0 ? 'no shift' : `fewest shifts (${r.shifts})`),
  crossings: r => (r.crossings === 0 ? 'no crossing' : `fewest crossings (${r.crossings})`),
  openShare: r => `most open strings (${Math.round(r.openShare * 100)}%)`,
  shapes: r => (r.shapes === 0 ? 'one hand shape' : `fewest changes of hand shape (${r.shapes})`),
}

/**
 * Why a key is among the best: "level 3, no shift, most open strings (31%)"; of those best in nothing alone,
 * what they have of each.
 */
export function strengthWords(row: KeyRow, strengths: readonly Measure[]): string {
  const { level, shifts, crossings, openShare } = row
  const each = [
    shifts === 0 ? 'no shift' : counted(shifts, 'shift'),
    counted(crossings, 'crossing'),
    `${Math.round(openShare * 100)}% open strings`,
  ]
  const why = strengths.length > 0 ? strengths.map(m => STRENGTHS[m](row)) : each
  return [`level ${level}`, ...why].join(', ')
}
