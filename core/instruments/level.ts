/** The levels, by number: what each asks of a hand is in the house of levels. */
export const LEVELS = [1, 2, 3, 4, 5, 6, 7, 8] as const
export type Level = (typeof LEVELS)[number]
