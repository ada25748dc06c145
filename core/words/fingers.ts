import type { Finger } from '#core/instruments/hands'

/** "open D", "2 on A". */
export const fingerText = (finger: Finger, letter: string) =>
  finger === 0 ? `open ${letter}` : `${finger} on ${letter}`
