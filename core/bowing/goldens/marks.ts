/** Bow marks of a golden as data, and how far a bowing agrees with them. */
import { readAbc } from '#core/formats/abc/readAbc'
import type { Tune } from '#core/music/tune'
import type { BowGolden } from './own'

/** What is done at one note: direction, and whether it begins a bow, how. */
export interface Mark {
  readonly direction: 'down' | 'up'
  readonly way: 'turn' | 'slur' | 'hook' | 'lift'
}

const HEAD = /\^?[DUduh-]/g

/** Reads "U|DU|D-U": bars are for the reader. */
export function marksOf(text: string): Mark[] {
  let direction: Mark['direction'] = 'down'
  return [...text.replaceAll('|', '').matchAll(HEAD)].map(([m]): Mark => {
    const sign = m.at(-1)!
    if (sign === '-' || sign === 'h') return { direction, way: sign === '-' ? 'slur' : 'hook' }
    direction = sign === 'D' ? 'down' : 'up'
    return { direction, way: m[0] === '^' ? 'lift' : 'turn' }
  })
}

/** Reads "d:1 u:2,3 d~:4 u^:5". */
export function strokesNamed(text: string): Mark[] {
  return text.trim().split(/\s+/).flatMap(stroke => {
    const m = /^([du])([~^]?):([\d,]+)$/.exec(stroke)
    if (!m) throw new Error(`not a stroke: ${stroke}`)
    const direction = m[1] === 'd' ? ('down' as const) : ('up' as const)
    const way = m[2] === '~' ? ('hook' as const) : m[2] === '^' ? ('lift' as const) : ('turn' as const)
    return m[3]!.split(',').map((_, i): Mark => ({ direction, way: i === 0 ? way : 'slur' }))
  }) // prettier-ignore
}

export function tuneOf(g: Pick<BowGolden, 'metre' | 'tempo' | 'key' | 'music'>): Tune {
  return readAbc(`X:1\nT:t\nM:${g.metre}\nL:1/8\nQ:${g.tempo}\nK:${g.key}\n${g.music}\n`).tunes[0]!.tune
}

export interface Agreement {
  readonly notes: number
  /** Notes with the same direction, and with a bow change where there is one and none where there is none. */
  readonly directions: number
  readonly changes: number
}

const changes = (m: Mark) => m.way !== 'slur'

/** Against the nearest of several answers. */
export function agreement(got: readonly Mark[], answers: readonly (readonly Mark[])[]): Agreement {
  const each = answers.map(want => ({
    notes: want.length,
    directions: want.filter((w, i) => got[i]?.direction === w.direction).length,
    changes: want.filter((w, i) => got[i] !== undefined && changes(got[i]) === changes(w)).length,
  }))
  return each.reduce((a, b) => (b.directions + b.changes > a.directions + a.changes ? b : a))
}

/** In per cent, directions and changes together. */
export const percent = (all: readonly Agreement[]) => {
  const notes = all.reduce((sum, a) => sum + a.notes, 0)
  return (100 * all.reduce((sum, a) => sum + a.directions + a.changes, 0)) / (2 * notes)
}
