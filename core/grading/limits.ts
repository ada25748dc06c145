/** What a level sets bounds to, beside its skills. */
import type { Level } from '#core/levels/levels'
import type { Facts, NoteRef } from './facts'

export interface Limit {
  readonly id: 'fastest' | 'notesPerBow' | 'shiftsPerPhrase' | 'leap'
  /** The most at each level, 1 to 8. */
  readonly most: readonly number[]
  /** Each place with how much it asks. */
  readonly asks: (f: Facts) => readonly (NoteRef & { readonly amount: number })[]
}

const semitones = (f: Facts, i: number) => {
  const { heads } = f.d.fingering.problem.tones[i]!
  return heads.at(-1)!.sounding
}

export const LIMITS: readonly Limit[] = [
  {
    id: 'fastest',
    // Notes a second, where several follow one another: one alone is no speed.
    most: [2.3, 4, 5, 6, 7.5, 9, 11, 14],
    asks: f =>
      f.rhythm.flatMap((r, i) => {
        const before = f.rhythm[i - 1]
        const seconds = before ? Math.max(r.seconds, before.seconds) : Infinity
        return seconds > 0 && seconds < 1 ? [{ note: r.note, measure: r.measure, amount: 1 / seconds }] : []
      }),
  },
  {
    id: 'notesPerBow',
    most: [1, 2, 3, 4, 6, 8, 12, 16],
    asks: f => f.strokes.map(s => ({ note: s.notes[0]!, measure: s.measure, amount: s.tones.length })),
  },
  {
    id: 'shiftsPerPhrase',
    most: [0, 0, 1, 2, 3, 5, 8, 99],
    asks: f =>
      f.d.form.phrases.flatMap(p => {
        const own = new Set(p.events)
        const shifts = f.shifts.filter(s => own.has(s.to))
        return shifts.map(s => ({ note: s.to, measure: s.measure, amount: shifts.length }))
      }),
  },
  {
    id: 'leap',
    // Semitones from one note to the next: a tenth between two phrases is met early, more of it late.
    most: [16, 16, 16, 19, 21, 24, 30, 48],
    asks: f =>
      f.d.fingering.problem.tones.flatMap((t, i) => {
        const from = f.d.fingering.problem.before[i]!
        const amount = from < 0 ? 0 : Math.abs(semitones(f, i) - semitones(f, from))
        return from < 0 ? [] : [{ note: t.id, measure: t.measure, amount }]
      }),
  },
]

/** The lowest level that bears so much; 8 bears all there is. */
export const levelFor = (limit: Limit, amount: number): Level =>
  Math.max(1, Math.min(8, limit.most.findIndex(m => amount <= m + 1e-9) + 1 || 8)) as Level
