import { describe, expect, it } from 'vitest'
import { formatPitch, parsePitch, type Pitch } from '#core/music/pitch'
import { nearest } from './nearest'

const p = (name: string): Pitch => parsePitch(name)!
const all = (names: string) => names.split(' ').map(p)
const found = (o: { own: string; before?: string; after?: string; strong?: boolean; end?: boolean; chord?: readonly number[] }, allowed: string) => {
  const n = nearest({ own: p(o.own), before: o.before ? p(o.before) : undefined, after: o.after ? p(o.after) : undefined, strong: o.strong ?? false, end: o.end ?? false, chord: o.chord ?? [] }, all(allowed))
  return n && formatPitch(n)
} // prettier-ignore

describe('another note in the place of one out of the hand', () => {
  it('is none where none is allowed', () => expect(found({ own: 'C5' }, '') ?? null).toBeNull())
  it('is the nearest that keeps the way of the line', () => {
    // Up from A to C and on to D: B keeps going up, A would stand still.
    expect(found({ own: 'C5', before: 'A4', after: 'D5' }, 'A4 B4 D5 E5')).toBe('B4')
    expect(found({ own: 'C5', before: 'D5', after: 'A4' }, 'A4 B4 D5 E5')).toBe('B4')
  })
  it('is rather the same letter, natural where it was raised, than another', () => {
    // E D sharp E: the leading tone out of the hand is D, as in the mode, not the C below.
    expect(found({ own: 'D#4', before: 'E4', after: 'E4', chord: [0, 4, 7] }, 'B3 C4 D4 E4')).toBe('D4')
    expect(found({ own: 'F#2', before: 'G2', after: 'G2' }, 'E2 F2 G2')).toBe('F2')
  })
  it('but not over the chord that raised it: F natural over D7 is a wrong note, E passes', () => {
    const line = { own: 'F#4', before: 'G4', after: 'D4' }
    expect(found({ ...line, chord: [2, 6, 9, 0] }, 'D4 E4 F4 G4')).toBe('E4')
    expect(found({ ...line, chord: [7, 11, 2] }, 'D4 E4 F4 G4')).toBe('F4')
    // A chord that has both is content with either.
    expect(found({ ...line, chord: [2, 5, 6, 9] }, 'D4 E4 F4 G4')).toBe('F4')
  })
  it('opens no leap of a seventh where a neighbour will do, on a strong beat too', () => {
    // B C B: down to the C below and up again is harder than the C was.
    expect(found({ own: 'C5', before: 'B4', after: 'B4', strong: true }, 'C4 G4 A4 B4 D5')).toBe('D5')
  })
  it('leaps no ninth down and up again, even for a note that carries the tune', () => {
    const home = { own: 'Bb4', before: 'C5', after: 'C5', strong: true, chord: [10, 2, 5] }
    expect(found(home, 'Bb3 G4 A4 C5 D5')).toBe('A4')
    // Where the line comes from below anyway, its octave is the same note.
    expect(found({ ...home, before: 'F3', after: 'D4' }, 'Bb3 G4 A4 C5 D5')).toBe('Bb3')
  })
  it('opens a seventh rather than a leap over an octave', () => {
    // To the C a seventh below, or to the A over an octave away: the seventh.
    expect(found({ own: 'D5', before: 'B4' }, 'C4 A3')).toBe('C4')
  })
  it('lies a step away rather than a third, and a third rather than two steps more', () => {
    expect(found({ own: 'C5' }, 'E5 D5')).toBe('D5')
    expect(found({ own: 'C5' }, 'F5 E5')).toBe('E5')
    expect(found({ own: 'C5' }, 'C4 F5 E5')).toBe('E5')
    expect(found({ own: 'C5' }, 'C4 G5 F5')).toBe('C4')
  })
  it('is not one of its neighbours where another will do', () => {
    expect(found({ own: 'G4', before: 'F#4', after: 'F#4' }, 'F#4 A4')).toBe('A4')
  })
  it('on a strong beat is rather the octave than another note', () => {
    expect(found({ own: 'D6', before: 'A5', after: 'A5', strong: true }, 'D5 B5')).toBe('D5')
    expect(found({ own: 'D6', before: 'A5', after: 'A5' }, 'D5 B5')).toBe('B5')
  })
  it('at the end of a phrase is its octave even where the line turns for it', () => {
    const leading = { own: 'Bb4', before: 'F4', after: 'Bb3', strong: true }
    expect(found(leading, 'Bb3 A4 G4')).toBe('A4')
    expect(found({ ...leading, end: true }, 'Bb3 A4 G4')).toBe('Bb3')
  })
  it('is rather a tone of the chord where one lies as near', () => {
    expect(found({ own: 'C5', chord: [11, 2, 7] }, 'B4 D5')).toBe('B4')
    expect(found({ own: 'C5', chord: [2, 6, 9] }, 'B4 D5')).toBe('D5')
    // Over the dominant at a cadence: its root a third away, not the step that rubs against it.
    expect(found({ own: 'C#4', before: 'E4', after: 'D4', chord: [9, 1, 4] }, 'A3 B3 D4 E4')).toBe('A3')
  })
  it('never leaps over a tenth where a nearer one is there', () => {
    expect(found({ own: 'E6', before: 'E4', after: 'F#4', strong: true }, 'E5 E6')).toBe('E5')
    expect(found({ own: 'E6', before: 'E4', after: 'F#4' }, 'E5 D6')).toBe('E5')
    expect(found({ own: 'E6', before: 'E4' }, 'E5 D6')).toBe('E5')
    expect(found({ own: 'E6', before: 'C6', after: 'C6' }, 'E5 D6')).toBe('D6')
  })
})
