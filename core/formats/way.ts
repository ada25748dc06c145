/** The way through a tune as files tell it: segno, coda, fine and the jumps. */
import type { Measure } from '#core/music/tune'

/** Signs of one measure. */
export type Way = Partial<Pick<Measure, 'segno' | 'coda' | 'fine' | 'toCoda' | 'jump'>>

type Draft = { -readonly [K in keyof Measure]: Measure[K] }

/**
 * Where codas stand. One sign is the coda itself. Of two or more, where nothing says “to the coda”, the first
 * is where the way leaves for it: at the end of its measure, or of the one before when it stands over the
 * first note.
 * @param codas the measure each sign was met in, and the measure it would begin; null where it stands within
 * one
 */
export function layCodas(
  measures: readonly Draft[],
  codas: readonly { measure: number; sign: Draft | null }[],
): void {
  const leaves = codas.length > 1 && !measures.some(m => m.toCoda) ? codas[0] : undefined
  for (const c of codas) {
    const at = c === leaves ? measures[c.sign ? c.measure - 1 : c.measure] : (c.sign ?? measures[c.measure])
    if (!at) continue
    if (c === leaves) at.toCoda = true
    else at.coda = true
  }
}
