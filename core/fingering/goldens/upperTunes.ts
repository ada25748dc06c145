/**
 * Dance tunes as a fiddle teacher fingers them, and phrases that lie whole in one place of the hand. The
 * weights may be tuned on these.
 */
import type { Passage } from './passages'

export const UPPER_TUNES: readonly Passage[] = [
  {
    name: 'viola reel in G, first strain',
    why: 'All of it lies in first position: the bow rocks over two strings, as it does all through the reel, and the hand stays at home.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '1/4=96' },
    abc: 'M:4/4\nK:G clef=alto\nG2BG dGBG|A2cA eAcA|G2BG d2BG|cAFA G2D2|',
    fingers: 'D 3 A 1 D 3 A 3 D 3 A 1 D 3 A 0 ‹2 0 4 0 ‹2 0 D 3 A 1 D 3 A 3 1 D 3 A ‹2 0 D 2 4 3 0',
  },
  {
    name: 'viola jig in D, end of the strain',
    why: 'Broken chords in first position up to the fourth finger; A among lower notes is 4.',
    rule: 'home',
    options: { instrument: 'viola', tempo: '3/8=104' },
    abc: 'M:6/8\nK:D clef=alto\nF2A DFA|G2B EGB|A2c ece|d3 d2|',
    fingers: 'D 2 4 0 2 4 3 A 1 D 1 3 A 1 0 2 4 2 4 3 3',
  },
  {
    name: 'violin reel in B flat',
    why: 'G, E flat and C lie under 2, low 4 and 2 at home, and the whole strain with them: no shift for one bar.',
    rule: 'home',
    options: { instrument: 'violin', tempo: '1/4=104' },
    abc: 'M:4/4\nK:Bb\nbfdf bfdf|gece gece|bagf gfed|cABG B2B2|',
    fingers:
      'E ‹4 ‹1 A 3 E ‹1 ‹4 ‹1 A 3 E ‹1 ‹2 A ‹4 ‹2 ‹4 E ‹2 A ‹4 ‹2 ‹4 E ‹4 3 ‹2 ‹1 ‹2 ‹1 A ‹4 3 ‹2 0 ‹1 D 3 A ‹1 ‹1',
  },
  {
    name: 'viola air in F, from F to F',
    why: 'The octave is the hand of the second position on D and A: first finger on F and C, fourth on B flat and F.',
    rule: 'stay in position',
    options: { instrument: 'viola', tempo: '1/4=80' },
    abc: 'M:3/4\nK:F clef=alto\n(F2AB)c2|(c2de)f2|(f2dB)c2|(BAG2)F2|',
    fingers: 'D 1 3› 4 A 1 1 2 3› 4 4 2 D 4 A 1 D 4 3› 2 1',
  },
  {
    name: 'viola in E flat, from B flat to C',
    why: 'Second position, 1 2 3 4 on two strings: at home every A flat is a drawn-back fourth finger, and the D rings open.',
    rule: 'stay in position',
    options: { instrument: 'viola', tempo: '1/4=72' },
    abc: 'M:4/4\nK:Eb clef=alto\n(B,2C2D2E2)|(F2G2A2G2)|(A2B2c2B2)|(A2G2F2E2)|D2C2B,4|',
    fingers: 'G 1 2 3› 4 D 1 2 3 2 3 4 A 1 D 4 3 2 1 G 4 3› 2 1',
  },
  {
    name: 'violin broken chords from D to D',
    why: 'Third position from the first note, though it is there at home: the hand never moves.',
    rule: 'stay in position',
    options: { instrument: 'violin', tempo: '1/4=66' },
    abc: "M:3/4\nK:G\n(d2g2)b2|(a2g2)e2|(d2g2)d'2|b6|",
    fingers: 'A 1 4 E 2 1 A 4 2 1 4 E 4 2',
  },
  {
    name: 'cello waltz over the octave of D',
    why: 'The thumb lies across D and A at the harmonics, T 1 2 3 on both.',
    rule: 'stay in position',
    options: { instrument: 'cello', tempo: '1/4=72' },
    abc: 'M:3/4\nK:D clef=tenor\n(D2F2A2)|(d4c2)|(B2G2E2)|D6|',
    fingers: 'D T 2 A T 3 2 1 D 3 1 T',
  },
  {
    name: 'violin jig, from the lowest string to the highest',
    why: 'B is 2 on G whatever comes after: over the strings between, the second finger has its time to go to G on the E string.',
    rule: 'home',
    options: { instrument: 'violin', tempo: '3/8=110' },
    abc: 'M:6/8\nK:Em\nE3 E2B,|g2d ege|',
    fingers: 'D 1 1 G 2 E ‹2 A 3 E 0 ‹2 0',
  },
  {
    name: 'violin lilt in D, from D to D',
    why: 'The phrase is the hand of the third position from its first note to its last: the open E is no reason to begin at home.',
    rule: 'stay in position',
    options: { instrument: 'violin', tempo: '3/8=56' },
    abc: "M:6/8\nK:D\n(def) a2e|(fga) d'3|(c'ba) g2f|(efe) d3|",
    fingers: 'A 1 2 3› E 1 A 2 3› 4 E 1 4 3› 2 1 A 4 3› 2 3› 2 1',
  },
  {
    name: 'violin jig in E minor with a D sharp',
    why: 'In a quick dance the hand stays at home: the first finger reaches back for the D sharp, and slides back when E comes right before it.',
    rule: 'home',
    options: { instrument: 'violin', tempo: '3/8=116' },
    abc: 'M:6/8\nK:Em\nEFG FED|B,^DF B2A|GFE FE^D|E^DE B,2B,|',
    fingers: 'D 1 2 3 2 1 0 G 2 D ‹1 2 A 1 0 D 3 2 1 2 1 ‹1 1 ‹1 1 G 2 2',
  },
  {
    name: 'violin jig in E minor with many D sharps',
    why: 'However often it comes: D sharp is a low first finger, B a second, F sharp a second, and the hand has not moved.',
    rule: 'home',
    options: { instrument: 'violin', tempo: '3/8=112' },
    abc: 'M:6/8\nK:Em\nE^DE GFE|B,^DF B2G|FE^D B,^DF|E3 E3|',
    fingers: 'D 1 ‹1 1 3 2 1 G 2 D ‹1 2 A 1 D 3 2 1 ‹1 G 2 D ‹1 2 1 1',
  },
]
