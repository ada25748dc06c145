/** Skills, demands and levels in words. */
import type { Demand, Grade } from '#core/grading/demands'
import { skillById } from '#core/grading/catalogue'
import { MOST_NEW, type Fit } from '#core/grading/fit'
import { measuresText } from './places'
import { counted, timesText } from '#core/counts'

const LIMITS = {
  fastest: (n: number) => `${n.toFixed(1)} notes a second`,
  notesPerBow: (n: number) => `${n} notes in a bow`,
  shiftsPerPhrase: (n: number) => `${counted(n, 'shift')} in a phrase`,
  leap: (n: number) => `a leap of ${n} half steps`,
} as const

export const demandTitle = ({ asked }: Pick<Demand, 'asked'>): string =>
  asked.kind === 'limit'
    ? LIMITS[asked.limit](asked.amount)
    : (skillById.get(asked.skill)?.title ?? asked.skill)

/** "low 1 in measure 7, once". */
export function demandWords(d: Demand): string {
  const where = measuresText(d.notes.map(n => n.measure))
  return `${demandTitle(d)} in ${where}, ${timesText(d.notes.length)}`
}

/** "Level 4: low 1 in measure 7, once." or "Level 3 but for low 1 in measure 7, once." */
export function gradeWords(g: Grade): string {
  const list = (demands: readonly Demand[]) => demands.slice(0, 3).map(demandWords).join('; ')
  const more = g.demands.filter(d => d.level === g.level)
  if (g.level === 1) return 'Level 1: nothing asks for more.'
  if (g.butFor) return `Level ${g.butFor.level} but for ${list(g.butFor.demands)}.`
  return `Level ${g.level}: ${list(more)}.`
}

/** "New for M.: low 2 (measures 5 and 13). More than two new things at once: …" Sentences, the most needed first. */
export function fitWords(f: Fit, name: string): string[] {
  const out: string[] = []
  if (f.news.length > 0) out.push(`New for ${name}: ${f.news.map(demandWords).join('; ')}.`)
  if (f.news.length > MOST_NEW) out.push(`${f.news.length} new things are more than one tune can teach.`)
  for (const n of f.notYet) out.push(`Not yet ${skillTitle(n.skill)}: first ${n.first.map(skillTitle).join(', ')}.`) // prettier-ignore
  if (f.beyond.length > 0) out.push(`Beyond ${name}: ${f.beyond.map(demandWords).join('; ')}.`)
  if (f.learning.length > 0) out.push(`Practised here: ${f.learning.map(demandWords).join('; ')}.`)
  return out.length > 0 ? out : [`${name} knows all it asks for.`]
}
export const skillTitle = (id: string) => skillById.get(id)?.title ?? id
