/** What a teacher corrects by hand: pure edits of the recipe's words on form. Names, lines and declared kin go along when a boundary moves. */
import type { Arrangement } from '#core/arrangement/recipe'

export type FormPart = Pick<Arrangement, 'pins' | 'phraseNames' | 'plan'>

const without = <T>(record: Readonly<Record<string, T>>, key: string) =>
  Object.fromEntries(Object.entries(record).filter(([k]) => k !== key)) as Record<string, T>

/** A phrase begins at this event. */
export const splitAt = (r: FormPart, event: string): FormPart => ({
  ...r,
  pins: { ...r.pins, boundaries: { ...r.pins.boundaries, [event]: true } },
})

/** The phrase that begins here goes on from the one before. */
export const joinAt = (r: FormPart, event: string): FormPart => ({
  ...r,
  pins: { ...r.pins, boundaries: { ...r.pins.boundaries, [event]: false } },
})

/** The phrase that begins at one event begins at another instead. */
export function moveBoundary(r: FormPart, from: string, to: string): FormPart {
  if (from === to) return r
  const rename = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).map(([k, v]) => [k === from ? to : k, v]))
  const kin = Object.fromEntries(Object.entries(rename(r.pins.kin)).map(([k, v]) => [k, v === from ? to : v]))
  const boundaries = { ...r.pins.boundaries, [from]: false, [to]: true }
  return {
    pins: { ...r.pins, boundaries, kin },
    phraseNames: rename(r.phraseNames),
    plan: { ...r.plan, lines: rename(r.plan.lines) },
  }
}

/** Kin to the phrase that begins at `to`; null: to none; undefined: as the analysis hears it. */
export const declareKin = (r: FormPart, event: string, to: string | null | undefined): FormPart => ({
  ...r,
  pins: {
    ...r.pins,
    kin: to === undefined ? without(r.pins.kin, event) : { ...r.pins.kin, [event]: to },
  },
})

/** Boundaries and kin as the analysis finds them. */
export const asFound = (r: FormPart): FormPart => ({ ...r, pins: { ...r.pins, boundaries: {}, kin: {} } })
