/** Whole fingerings a teacher would call different, named by what they do. */
import { HOME_ANCHOR } from '#core/instruments/hands'
import type { HandState } from './candidates'
import type { Fingering } from './fingering'
import { solveLattice } from './lattice'

export interface WholeAlternative {
  readonly name: string
  readonly extra: number
  /** String (0 the highest) and finger of each tone's leading note, by tone. */
  readonly path: readonly number[]
  /** Indices of the tones that change. */
  readonly changed: readonly number[]
}

const KINDS: readonly { name: string; allows: (s: HandState) => boolean }[] = [
  { name: 'all in first position', allows: s => s.anchor === HOME_ANCHOR && s.shape === 'plain' },
  { name: 'no open strings', allows: s => s.places.every(p => p.finger !== 0) },
  { name: 'no fourth finger', allows: s => s.places.every(p => p.finger !== 4) },
  { name: 'open strings wherever they are', allows: s => s.places.some(p => p.finger === 0) },
]

/** Up to `count` other solutions. Pins stay; a rule that a tone cannot keep is waived for that tone alone. */
export function wholeAlternatives(f: Fingering, count = 3): WholeAlternative[] {
  const { problem, tables } = f
  const lead = (path: readonly number[]) =>
    path.map((s, i) => problem.states[i]![s]!.places.map(p => `${p.string}:${p.finger}`).join())
  const seen = new Set([lead(tables.path).join(' ')])
  const out: WholeAlternative[] = []
  for (const { name, allows } of KINDS) {
    const filter = problem.states.map((list, i) => {
      const pinned = f.filter[i]
      const mask = Uint8Array.from(list, (s, k) => (allows(s) && (!pinned || pinned[k]) ? 1 : 0))
      return mask.includes(1) ? mask : pinned
    })
    const { path, total } = solveLattice(problem.lattice, filter)
    const key = lead(path)
    if (seen.has(key.join(' '))) continue
    seen.add(key.join(' '))
    const own = lead(tables.path)
    out.push({
      name,
      extra: total - tables.total,
      path,
      changed: key.flatMap((k, i) => (k === own[i] ? [] : [i])),
    })
  }
  return out.sort((a, b) => a.extra - b.extra).slice(0, count)
}
