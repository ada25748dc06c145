/**
 * What a teacher corrects by hand: pure edits of the recipe's words on form. Names, lines, remarks and
 * declared kin go along when a boundary moves.
 */
import type { Taught } from './recipe'

const without = <T>(record: Readonly<Record<string, T>>, key: string) =>
  Object.fromEntries(Object.entries(record).filter(([k]) => k !== key)) as Record<string, T>

/** A phrase begins at this event. */
export const splitAt = (t: Taught, event: string): Taught => ({
  ...t,
  boundaries: { ...t.boundaries, [event]: true },
})

/** The phrase that begins here goes on from the one before. */
export const joinAt = (t: Taught, event: string): Taught => ({
  ...t,
  boundaries: { ...t.boundaries, [event]: false },
})

/** The phrase that begins at one event begins at another instead. */
export function moveBoundary(t: Taught, from: string, to: string): Taught {
  if (from === to) return t
  const rename = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).map(([k, v]) => [k === from ? to : k, v]))
  return {
    ...t,
    boundaries: { ...t.boundaries, [from]: false, [to]: true },
    kin: Object.fromEntries(Object.entries(rename(t.kin)).map(([k, v]) => [k, v === from ? to : v])),
    names: rename(t.names),
    lines: rename(t.lines),
    remarks: rename(t.remarks),
  }
}

/** Kin to the phrase that begins at `to`; null: to none; undefined: as the analysis hears it. */
export const declareKin = (t: Taught, event: string, to: string | null | undefined): Taught => ({
  ...t,
  kin: to === undefined ? without(t.kin, event) : { ...t.kin, [event]: to },
})

/** A remark on a phrase (by its first event) or on a measure (by its id); an empty one is none. */
export const remarked = (t: Taught, on: string, remark: string): Pick<Taught, 'remarks'> => {
  const said = remark.trim().slice(0, 300)
  return { remarks: said === '' ? without(t.remarks, on) : { ...t.remarks, [on]: said } }
}

/** Boundaries and kin as the analysis finds them. */
export const asFound = (t: Taught): Taught => ({ ...t, boundaries: {}, kin: {} })
