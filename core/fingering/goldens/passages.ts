/**
 * Passages with the fingers a teacher would write and the reason, from the frames of each hand. Written
 * before any weight was touched for them; {@link CHOICES} hold the real choices, and `held.ts` those no
 * weight is tuned on.
 */
import type { FingeredOptions } from '../testing'

export type Rule =
  | 'home'
  | 'low and high'
  | 'extension'
  | 'half position'
  | 'shift'
  | 'open or fourth'
  | 'stay in position'
  | 'stay on the string'
  | 'shift or extend'
  | 'block'
  | 'double stop'
  | 'chromatic'
  | 'thumb'

export interface Passage {
  readonly name: string
  /** Why a teacher fingers it so. */
  readonly why: string
  readonly rule: Rule
  readonly options: FingeredOptions
  /** Key and notes in ABC, in eighths. */
  readonly abc: string
  /** As said aloud: a string letter stands until the next; ‹ low, › high, x extended. */
  readonly fingers: string
}

const violin = { instrument: 'violin' } as const
const viola = { instrument: 'viola' } as const
const cello = { instrument: 'cello' } as const
const bass = { instrument: 'bass' } as const

export const PASSAGES: readonly Passage[] = [
  {
    name: 'violin A major, two octaves',
    why: 'C sharp and G sharp on the lower strings lie a half step under the next open string: high 3, not low 4.',
    rule: 'low and high',
    options: violin,
    abc: 'K:A\nA,B,CD EFGA|Bcde fga2|',
    fingers: 'G 1 2 3› D 0 1 2 3› A 0 1 2 3 E 0 1 2 3',
  },
  {
    name: 'violin E flat major from the D string',
    why: 'The whole hand low; A flat and E flat are spelled as fourths, so low 4.',
    rule: 'low and high',
    options: violin,
    abc: 'K:Eb\nEFGA Bcde|',
    fingers: 'D ‹1 ‹2 3 ‹4 A ‹1 ‹2 3 ‹4',
  },
  {
    name: 'viola F major from the C string',
    why: 'One flat: only the second finger moves back.',
    rule: 'low and high',
    options: viola,
    abc: 'K:F clef=alto\nF,G,A,B, CDEF|',
    fingers: 'C 3 G 0 1 ‹2 3 D 0 1 ‹2',
  },
  {
    name: 'viola E flat major from the C string',
    why: 'A flat is low 1 by the nut; the second finger stays low on every string.',
    rule: 'low and high',
    options: viola,
    abc: 'K:Eb clef=alto\nE,F,G,A, B,CDE|',
    fingers: 'C ‹2 3 G 0 ‹1 ‹2 3 D 0 ‹1',
  },
  {
    name: 'cello F major',
    why: 'Closed hand in first position: 4 is the fourth above the open string, 2 the minor third.',
    rule: 'home',
    options: cello,
    abc: 'K:F clef=bass\nF,,G,,A,,B,, C,D,E,F,|',
    fingers: 'C 4 G 0 1 2 4 D 0 1 2',
  },
  {
    name: 'cello G major, an octave and a half',
    why: 'F sharp takes 3, C natural on the A string 2: the hand stays closed and still.',
    rule: 'home',
    options: cello,
    abc: 'K:G clef=bass\nG,,A,,B,,C, D,E,F,G,|A,B,CD|',
    fingers: 'G 0 1 3 4 D 0 1 3 4 A 0 1 2 4',
  },
  {
    name: 'cello A major',
    why: 'Two whole tones from the first finger: the hand opens, 1 x2 x4, on both strings.',
    rule: 'extension',
    options: cello,
    abc: 'K:A clef=bass\nA,,B,,C,D, E,F,G,A,|',
    fingers: 'G 1 x2 x4 D 0 1 x2 x4 A 0',
  },
  {
    name: 'cello E flat major',
    why: 'A flat and E flat: the first finger reaches back, the others stay.',
    rule: 'extension',
    options: cello,
    abc: 'K:Eb clef=bass\nE,,F,,G,,A,, B,,C,D,E,|',
    fingers: 'C 2 4 G 0 x1 2 4 D 0 x1',
  },
  {
    name: 'cello D major up to the fourth position',
    why: 'After 4 in first position the hand goes to fourth in one move and has the rest there.',
    rule: 'shift',
    options: cello,
    abc: 'K:D clef=bass\nA,B,CD EFG2|',
    fingers: 'A 0 1 3 4 1 3 4',
  },
  {
    name: 'bass F major',
    why: 'B flat and F by the nut: half position throughout, 2 for E.',
    rule: 'half position',
    options: bass,
    abc: 'K:F clef=bass\nF,,G,,A,,B,, C,D,E,F,|',
    fingers: 'E 1 4 A 0 1 4 D 0 2 4',
  },
  {
    name: 'bass B flat major',
    why: 'The same hand one string over.',
    rule: 'half position',
    options: bass,
    abc: 'K:Bb clef=bass\nB,,C,D,E, F,G,A,B,|',
    fingers: 'A 1 4 D 0 1 4 G 0 2 4',
  },
  {
    name: 'bass A major',
    why: 'First position up to F sharp; G sharp draws the hand back half a step, and A is beside it.',
    rule: 'half position',
    options: bass,
    abc: 'K:A clef=bass\nA,,B,,C,D, E,F,G,A,|',
    fingers: 'A 0 1 4 D 0 1 4 G 1 2',
  },
  {
    name: 'bass C major to the octave',
    why: 'The shift lies between 1 and 2, so that B and C come under 2 and 4: never 4 twice.',
    rule: 'shift',
    options: { instrument: 'bass', tempo: '1/4=120' },
    abc: 'K:C clef=bass\nC,D,E,F, G,A,B,C|',
    fingers: 'A 2 D 0 1 2 G 0 1 2 4',
  },
  {
    name: 'violin G major on the E string',
    why: "B is the fourth finger's: nothing moves.",
    rule: 'home',
    options: violin,
    abc: 'K:G\nefga bagf|',
    fingers: 'E 0 1 ‹2 3 4 3 ‹2 1',
  },
  {
    name: 'violin up to the third position',
    why: 'G in first, then 1 on A: one shift on the way up, and back on the way down.',
    rule: 'shift',
    options: violin,
    abc: "K:G\ngabc' d'c'ba|g4|",
    fingers: 'E ‹2 1 2 3 4 3 2 1 ‹2',
  },
  {
    name: 'violin D minor',
    why: 'One flat: low 2 on D and A, low 1 on A.',
    rule: 'low and high',
    options: violin,
    abc: 'K:Dm\nDEFG ABcd|',
    fingers: 'D 0 1 ‹2 3 A 0 ‹1 ‹2 3',
  },
  {
    name: 'violin D minor with a leading tone',
    why: 'From low 1 to 2 is an augmented second: the hand opens, nothing shifts.',
    rule: 'low and high',
    options: violin,
    abc: 'K:Dm\nDEFG AB^cd|',
    fingers: 'D 0 1 ‹2 3 A 0 ‹1 2 3',
  },
  {
    name: 'viola A minor',
    why: 'C is 3 on G, F low 2 on D.',
    rule: 'home',
    options: viola,
    abc: 'K:Am clef=alto\nA,B,CD EFGA|',
    fingers: 'G 1 2 3 D 0 1 ‹2 3 A 0',
  },
  {
    name: 'cello B flat major',
    why: 'E flat and B flat by the nut: the first finger reaches back, the hand stays in first.',
    rule: 'extension',
    options: cello,
    abc: 'K:Bb clef=bass\nB,,C,D,E, F,G,A,B,|',
    fingers: 'G 2 4 D 0 x1 2 4 A 0 x1',
  },
  {
    name: 'cello A minor',
    why: 'No sharps, no flats: closed hand, 1 3 4 and 1 2 4.',
    rule: 'home',
    options: cello,
    abc: 'K:Am clef=bass\nA,,B,,C,D, E,F,G,A,|',
    fingers: 'G 1 3 4 D 0 1 2 4 A 0',
  },
  {
    name: 'cello D minor',
    why: "B flat on the A string is the first finger's, reaching back.",
    rule: 'extension',
    options: cello,
    abc: 'K:Dm clef=bass\nD,E,F,G, A,B,CD|',
    fingers: 'D 0 1 2 4 A 0 x1 2 4',
  },
  {
    name: 'bass E flat major, five notes',
    why: 'A flat draws the hand to half position; it stays there.',
    rule: 'half position',
    options: bass,
    abc: 'K:Eb clef=bass\nE,F,G,A, B,4|',
    fingers: 'D 1 4 G 0 1 4',
  },
  {
    name: 'bass D minor, six notes',
    why: 'F and B flat are both 2 in first position.',
    rule: 'home',
    options: bass,
    abc: 'K:Dm clef=bass\nD,E,F,G, A,B,A,2|',
    fingers: 'D 0 1 2 G 0 1 2 1',
  },
  {
    name: 'bass E minor',
    why: 'First position over three strings: 1 and 2.',
    rule: 'home',
    options: bass,
    abc: 'K:Em clef=bass\nE,,F,,G,,A,, B,,C,D,E,|',
    fingers: 'E 0 1 2 A 0 1 2 D 0 1',
  },
  {
    name: 'bass fourths in turn',
    why: 'C and F lie under one finger: laid over both strings, not hopped.',
    rule: 'home',
    options: bass,
    abc: 'K:C clef=bass\nC,F,C,F, C,4|',
    fingers: 'A 2 D 2 A 2 D 2 A 2',
  },
]
