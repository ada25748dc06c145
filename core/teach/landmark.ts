import type { Shift } from '#core/fingering/derived'

/** "1 goes where 4 was, 73 mm down": how a shift is taught. Down the fingerboard is away from the nut. */
export function landmarkText(s: Pick<Shift, 'finger' | 'was' | 'mm' | 'anchorFrom' | 'anchorTo'>): string {
  const way = s.anchorTo > s.anchorFrom ? 'down' : 'up'
  const mm = Math.round(s.mm)
  if (s.finger === 0) return `the hand goes ${mm} mm ${way} while the open string sounds`
  const finger = s.finger === 'T' ? 'the thumb' : String(s.finger)
  if (s.was === null) return `${finger} goes beyond where the hand was, ${mm} mm ${way}`
  if (s.was === s.finger) return `${finger} stays where it is while the hand goes ${mm} mm ${way}`
  return `${finger} goes where ${s.was === 'T' ? 'the thumb' : s.was} was, ${mm} mm ${way}`
}

/** As short as it stands on paper: "1 where 4 was"; null where the hand has nothing to go by. */
export function landmarkMark(s: Pick<Shift, 'finger' | 'was'>): string | null {
  if (s.was === null || s.finger === 0) return null
  return s.was === s.finger ? `${s.finger} slides` : `${s.finger} where ${s.was} was`
}
