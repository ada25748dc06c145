/** Skills, demands and levels in words. */
import type { Demand, Grade } from '#core/grading/demands'
import { skillById } from '#core/grading/catalogue'
import { measuresText } from './bow'

const LIMITS = {
  fastest: (n: number) => `${n.toFixed(1)} notes a second`,
  notesPerBow: (n: number) => `${n} notes in a bow`,
  shiftsPerPhrase: (n: number) => `${n} ${n === 1 ? 'shift' : 'shifts'} in a phrase`,
  leap: (n: number) => `a leap of ${n} half steps`,
} as const

export const demandTitle = ({ asked }: Pick<Demand, 'asked'>): string =>
  asked.kind === 'limit'
    ? LIMITS[asked.limit](asked.amount)
    : (skillById.get(asked.skill)?.title ?? asked.skill)

const times = (n: number) => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`)

/** "low 1 in measure 7, once". */
export function demandWords(d: Demand): string {
  const where = measuresText(d.notes.map(n => n.measure))
  return `${demandTitle(d)} in ${where}, ${times(d.notes.length)}`
}

/** "Level 4: low 1 in measure 7, once." or "Level 3 but for low 1 in measure 7, once." */
export function gradeWords(g: Grade): string {
  const list = (demands: readonly Demand[]) => demands.slice(0, 3).map(demandWords).join('; ')
  const more = g.demands.filter(d => d.level === g.level)
  if (g.level === 1) return 'Level 1: nothing asks for more.'
  if (g.butFor) return `Level ${g.butFor.level} but for ${list(g.butFor.demands)}.`
  return `Level ${g.level}: ${list(more)}.`
}
