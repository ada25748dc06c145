/**
 * Figures with a name: scales, broken chords, and short cells that come again and again, perhaps moved by a
 * step each time.
 */
import type { Tone } from './material'

export interface Figure {
  readonly kind: 'scale' | 'arpeggio' | 'sequence' | 'cell'
  readonly direction?: 'up' | 'down'
  /** Ids of its first and last note. */
  readonly from: string
  readonly to: string
  /** Note names of where it starts and ends; for a broken chord the root, when it is a triad's. */
  readonly names: readonly string[]
  /** Tones in one cell, how often it comes, and by how many steps it is moved each time. */
  readonly cell?: { readonly tones: number; readonly times: number; readonly steps: number }
}

/** Least tones of a run, a broken chord, and least returns of a cell, for it to be worth naming. */
const RUN = 5
const BROKEN = 4
const RETURNS = 3

const name = (t: Tone) => {
  const p = t.placed.event.kind === 'note' ? t.placed.event.heads.at(-1)!.pitch : null
  return p ? p.step + (p.alter > 0 ? '♯' : p.alter < 0 ? '♭' : '') : ''
}

/** The figures of a stretch, the longest first; they do not overlap. */
export function figuresOf(tones: readonly Tone[]): Figure[] {
  const line = tones.filter(t => t.midi !== null)
  const found = [...cells(line), ...runs(line, 'scale'), ...runs(line, 'arpeggio')]
  const taken = new Set<number>()
  return found
    .sort((a, b) => b.to - b.from - (a.to - a.from))
    .filter(({ from, to }) => {
      const free = Array.from({ length: to - from + 1 }, (_, i) => from + i).every(i => !taken.has(i))
      if (free) for (let i = from; i <= to; i++) taken.add(i)
      return free
    })
    .sort((a, b) => a.from - b.from)
    .map(({ from, to, ...figure }) => ({ ...figure, from: line[from]!.id, to: line[to]!.id }))
}

type Found = Omit<Figure, 'from' | 'to'> & { readonly from: number; readonly to: number }

/**
 * Stretches that go on in one direction, by steps (a scale) or by skips that make a triad (a broken chord).
 */
function runs(line: readonly Tone[], kind: 'scale' | 'arpeggio'): Found[] {
  const out: Found[] = []
  const fits = (a: Tone, b: Tone) => {
    const steps = Math.abs(b.step - a.step)
    return kind === 'scale' ? steps === 1 : steps >= 2 && steps <= 3
  }
  for (let from = 0; from + 1 < line.length;) {
    const sign = Math.sign(line[from + 1]!.step - line[from]!.step)
    let to = from
    while (
      to + 1 < line.length &&
      fits(line[to]!, line[to + 1]!) &&
      Math.sign(line[to + 1]!.step - line[to]!.step) === sign
    )
      to++
    const long = to - from + 1 >= (kind === 'scale' ? RUN : BROKEN)
    const root = kind === 'arpeggio' && long ? triadRoot(line.slice(from, to + 1)) : null
    if (long && (kind === 'scale' || root)) {
      const names = root ? [root] : [name(line[from]!), name(line[to]!)]
      out.push({ kind, direction: sign > 0 ? 'up' : 'down', names, from, to })
    }
    from = Math.max(to, from + 1)
  }
  return out
}

/** The root when the tones are those of one major, minor or diminished triad. */
function triadRoot(tones: readonly Tone[]): string | null {
  const classes = new Set(tones.map(t => t.midi! % 12))
  if (classes.size !== 3) return null
  const root = tones.find(t => {
    const above = [...classes].map(c => (c - (t.midi! % 12) + 12) % 12).sort((a, b) => a - b)
    return (above[1] === 3 || above[1] === 4) && (above[2] === 7 || (above[2] === 6 && above[1] === 3))
  })
  return root ? name(root) : null
}

/**
 * Cells of two to six tones that return at once, in the same rhythm, moved by the same number of steps each
 * time (or not at all).
 */
function cells(line: readonly Tone[]): Found[] {
  const out: Found[] = []
  for (const size of [3, 4, 2, 5, 6]) {
    for (let from = 0; from + size * RETURNS <= line.length; from++) {
      const steps = line[from + size]!.step - line[from]!.step
      let times = 1
      while (
        from + size * (times + 1) <= line.length &&
        follows(line, from + size * (times - 1), size, steps)
      )
        times++
      const shape = new Set(line.slice(from, from + size).map(t => t.step)).size
      if (times < RETURNS || shape < 2 || (steps !== 0 && size < 3)) continue
      const to = from + size * times - 1
      const direction = steps === 0 ? {} : { direction: steps > 0 ? ('up' as const) : ('down' as const) }
      out.push({
        kind: steps === 0 ? 'cell' : 'sequence',
        ...direction,
        names: [name(line[from]!), name(line[to]!)],
        cell: { tones: size, times, steps },
        from,
        to,
      })
      from = to
    }
  }
  return out
}

function follows(line: readonly Tone[], at: number, size: number, steps: number): boolean {
  for (let i = at; i < at + size; i++) {
    const [a, b] = [line[i]!, line[i + size]!]
    if (b.step - a.step !== steps || a.length !== b.length) return false
  }
  return true
}
