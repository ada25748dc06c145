/** Dance tunes for violin and viola that no weight is tuned on. */
import type { Passage } from './passages'

export const HELD_UPPER_TUNES: readonly Passage[] = [
  {
    name: 'viola polka in D',
    why: 'Broken chords of two strings under the hand at home; the open A is one of their notes.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '1/4=108' },
    abc: 'M:2/4\nK:D clef=alto\nFAdA FAdA|GBeB GBeB|',
    fingers: 'D 2 A 0 3 0 D 2 A 0 3 0 D 3 A 1 4 1 D 3 A 1 4 1',
  },
  {
    name: 'viola jig in G',
    why: 'First position, with the open A on the way down.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '3/8=100' },
    abc: 'M:6/8\nK:G clef=alto\nGBd edB|cBA AGF|GBd edB|AGF G3|',
    fingers: 'D 3 A 1 3 4 3 1 ‹2 1 0 0 D 3 2 3 A 1 3 4 3 1 0 D 3 2 3',
  },
  {
    name: 'viola hornpipe in F',
    why: 'First position over three strings.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '1/4=84' },
    abc: 'M:4/4\nK:F clef=alto\nFAcA dcAc|BdBG E2C2|',
    fingers: 'D ‹2 A 0 ‹2 0 3 ‹2 0 ‹2 ‹1 3 ‹1 D 3 1 G 3',
  },
  {
    name: 'violin reel in C',
    why: 'Home, low fingers; E is open beside G on its string.',
    rule: 'home',
    options: { instrument: 'violin', tempo: '1/4=108' },
    abc: 'M:4/4\nK:C\negce gece|dfBd GBdf|',
    fingers: 'E 0 ‹2 A ‹2 E 0 ‹2 0 A ‹2 E 0 A 3 E ‹1 A 1 3 D 3 A 1 3 E ‹1',
  },
  {
    name: 'viola slip jig in E minor',
    why: 'First position: fifths and thirds over D and A.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '3/8=108' },
    abc: 'M:9/8\nK:Em clef=alto\nE2B BAB G2A|B2e edB dBA|',
    fingers: 'D 1 A 1 1 0 1 D 3 A 0 1 4 4 3 1 3 1 0',
  },
]
