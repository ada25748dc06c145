/**
 * What a phrase does: it asks, answers, answers again, links or closes. By the tone it ends on (home or
 * away), its place in the part and its kin: the common sense of every book on musical form (period of
 * antecedent and consequent).
 */
import type { Key } from '#core/music/key'
import { STEPS } from '#core/music/pitch'
import type { Stretch } from './likeness'

export type Role = 'question' | 'answer' | 'second answer' | 'statement' | 'link' | 'tag'

export interface RoleInput {
  readonly stretch: Stretch
  readonly bars: number
  readonly key: Key
}

/** Degree of the scale a phrase ends on, 0 the tonic; null when nothing sounds. */
export function endingDegree(s: Stretch, key: Key): number | null {
  const last = s.tones.findLast(t => t.midi !== null)
  return last ? (((last.step - STEPS.indexOf(key.step)) % 7) + 7) % 7 : null
}

/** Roles of the phrases of one part. */
export function rolesOf(part: readonly RoleInput[]): Role[] {
  const usual = Math.max(...part.map(p => p.bars), 0)
  let answers = 0
  return part.map((p, i): Role => {
    const home = endingDegree(p.stretch, p.key) === 0
    if (part.length > 1 && p.bars <= 1) return i === part.length - 1 ? 'tag' : 'link'
    if (part.length > 2 && i === part.length - 1 && p.bars * 2 <= usual) return 'tag'
    if (part.length === 1) return 'statement'
    const last = i === part.length - 1
    if (i === 0 || (!home && !last)) return 'question'
    if (!home) return 'answer'
    return answers++ === 0 ? 'answer' : 'second answer'
  })
}
