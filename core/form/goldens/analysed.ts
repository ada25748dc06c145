/**
 * Tunes with the analysis a teacher would pencil on them, composed for this. Written before the algorithm;
 * {@link ./held.ts} holds the part that nothing was tuned on.
 */
export interface AnalysedTune {
  readonly name: string
  /** What the teacher says of the form. */
  readonly why: string
  /** Metre and key as ABC fields. */
  readonly head: string
  /**
   * The music of each phrase, pickup first, in ABC with eighths as the unit; a mark or digit after a letter
   * is a changed version of the letter's.
   */
  readonly phrases: Readonly<Record<string, string>>
  /**
   * How they follow: `§a'` is the phrase `a'`, of the family of `a`; `§a':ending` says how it is kin to one
   * before; `¶B` begins part B. Everything else is ABC.
   */
  readonly form: string
}

export const TUNED: readonly AnalysedTune[] = [
  {
    name: 'reel, both parts share their answer',
    why: 'Question and answer in four bars each; the second part has a question of its own and the same answer.',
    head: 'M:4/4\nK:D',
    phrases: {
      a: 'd2fd Adfd|e2ge cege|d2fd Adfd|gfed cABc',
      b: 'd2fd Adfd|efge c2ag|fdec dBAF|G2E2 D4',
      c: 'a2fa dafa|b2gb egbg|a2fa dafd|gfed cABc',
    },
    form: '¶A |: §a | §b :| ¶B |: §c | §b:same :|',
  },
  {
    name: 'jig with a pickup and two endings',
    why: 'Four bars and four; the eighth before the bar belongs to what follows; the second time the part closes on the tonic.',
    head: 'M:6/8\nK:G',
    phrases: {
      a: 'D|G2B d2B|c2A BGD|G2B dBG|A3 F2',
      a1: 'D|G2B d2B|c2A BGE|DEF GAF',
      c: 'd|g2d B2d|e2c A2c|d2B G2B|A3 F2',
    },
    form: '¶A |: §a §a1:ending/notes |1 A3 F2 :|2 G3 G2 || ¶B |: §c §a1:ending |1 G3 G2 :|2 G3 G3 |]',
  },
  {
    name: 'polka of eight and eight',
    why: 'Four-bar phrases; the answer keeps the first two bars and turns home.',
    head: 'M:2/4\nK:A',
    phrases: {
      a: 'A2 ce|a2 ec|d2 fd|c2 B2',
      a1: 'A2 ce|a2 ec|dfed|c2 A2',
      b: 'e2 ae|f2 df|e2 ce|d2 B2',
      b1: 'e2 ae|f2 df|edcB|A2 A2',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §b1:ending :|',
  },
  {
    name: 'waltz without repeats',
    why: 'Sixteen bars in fours, each with a quarter as pickup; the third lies a step higher than the first, the fourth is the home run.',
    head: 'M:3/4\nK:D',
    phrases: {
      a: 'A2|d4 f2|e4 d2|c2 d2 e2|A4',
      b: 'A2|B4 d2|c4 B2|A2 G2 F2|E4',
      a1: 'B2|e4 g2|f4 e2|d2 e2 f2|B4',
      c: 'A2|G4 B2|A4 F2|E2 D2 C2|D4',
    },
    form: '¶A §a §b §a1:moved §c |]',
  },
  {
    name: 'song of twelve bars',
    why: 'A line, the same line once more with another ending, and the line that answers both: four bars each.',
    head: 'M:4/4\nK:A',
    phrases: {
      a: 'A2c2 e2c2|d2B2 e4|A2c2 e2c2|B8',
      a1: 'A2c2 e2c2|d2B2 e4|A2c2 f2e2|c8',
      b: 'f2e2 d2B2|e2c2 A4|B2c2 B2G2|A8',
    },
    form: '¶A §a | §a1:ending | §b |]',
  },
  {
    name: 'song form of thirty-two bars, nothing marked',
    why: 'Two eights alike, a bridge, and the eight again: a teacher pencils A A B A over it.',
    head: 'M:4/4\nK:F',
    phrases: {
      a: 'F2A2 c4|d2c2 A4|G2A2 B2G2|A4 F4',
      a1: 'F2A2 c4|d2c2 A4|d2B2 G2E2|F8',
      c: 'd2e2 f4|c2d2 e4|B2c2 d2B2|c8',
      c1: 'd2e2 f4|c2d2 e4|g2f2 e2d2|c4 B4',
    },
    form: '¶A §a | §a1:ending | ¶A §a:same | §a1:same | ¶B §c | §c1:ending | ¶A §a:same | §a1:same |]',
  },
  {
    name: 'four parts with one answer in all',
    why: 'Learn the answer once and half of every part is known.',
    head: 'M:2/2\nK:Edor',
    phrases: {
      a: 'E2BE dEBE|E2BE AFDF|E2BE dEBE|BABc dAFD',
      z: 'A2cA BAGF|E2BE dBAG|FGAF DEFG|B2E2 E4',
      b: 'G2GA BcdB|A2AB cdec|G2GA BcdB|c2Bc d4',
      c: 'e2ef gfed|e2ge fedB|e2ef gfed|g2fg e4',
      d: 'gebe gebe|fdad fdad|gebe gebe|afdf e4',
    },
    form: '¶A |: §a | §z :| ¶B |: §b | §z:same :| ¶C |: §c | §z:same :| ¶D |: §d | §z:same :|',
  },
  {
    name: 'crooked reel of nine and seven',
    why: 'The ninth bar hangs on: four and five; the second part loses one: four and three.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'G2BG dGBG|A2cA eAcA|G2BG dGBG|FGAF D4',
      a1: 'G2BG dGBG|A2cA eAcA|dedB cdcA|BcBG AGFA|G4 G4',
      c: 'g2dg bgdg|f2df afdf|gage dBGB|c2A2 A4',
      d: 'g2dg bgdg|fdcA BGFA|G4 G4',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §c | §d :|',
  },
  {
    name: 'parts written out, the last one closing',
    why: 'A twice, then B with a first and a second close, all written out without a sign.',
    head: 'M:4/4\nK:D',
    phrases: {
      a: 'D2FA d2AF|G2BG F2AF|D2FA d2AF|E2C2 A,4',
      a1: 'D2FA d2AF|G2BG F2AF|GBAG FEDC|D2D2 D4',
      b: 'f2af d2fd|g2bg e2ge|f2af d2fd|e2c2 A4',
      b1: 'f2af d2fd|g2bg e2ge|fagf edcB|A2c2 e4',
      b2: 'f2af d2fd|g2bg e2ge|fagf edce|d2d2 d4',
    },
    form: '¶A §a | §a1:ending | ¶A §a:same | §a1:same | ¶B §b | §b1:ending | ¶B §b:same | §b2:ending |]',
  },
  {
    name: 'study in climbing turns',
    why: 'One figure moved up step by step, then down: two phrases of four bars.',
    head: 'M:4/4\nK:C',
    phrases: {
      a: 'CDEC DEFD|EFGE FGAF|GABG ABcA|BcdB c4',
      b: 'cBAc BAGB|AGFA GFEG|FEDF EDCE|DCB,D C4',
    },
    form: '¶A §a | §b |]',
  },
  {
    name: 'long march with nothing marked',
    why: 'Sixty-four bars: three strains of eight, each played twice, and the first pair back: A A B B C C A A.',
    head: 'M:2/4\nK:G',
    phrases: {
      a: 'G2 Bd|g2 dB|c2 ec|B2 A2',
      a1: 'G2 Bd|g2 dB|cBAF|G2 G2',
      b: 'd2 gd|e2 ce|d2 Bd|c2 A2',
      b1: 'd2 gd|e2 ce|dcBA|G2 G2',
      c: 'E2 GB|A2 FA|G2 EG|F2 D2',
      c1: 'E2 GB|A2 FA|GFED|E2 E2',
    },
    form:
      '¶A §a | §a1:ending | ¶A §a:same | §a1:same | ¶B §b | §b1:ending | ¶B §b:same | §b1:same | ¶C §c | §c1:ending | ¶C §c:same | §c1:same | ' +
      '¶A §a:same | §a1:same | ¶A §a:same | §a1:same |]',
  },
  {
    name: 'march in six-eight with pickups all through',
    why: 'Every phrase is led into by an eighth; the third is the first an octave up.',
    head: 'M:6/8\nK:D',
    phrases: {
      a: 'A,|D2D DFA|B2B A2F|G2F E2D|E3 A,2',
      a1: 'A,|D2D DFA|B2B A2F|G2E C2E|D3 D2',
      a8: 'A|d2d dfa|b2b a2f|g2f e2d|e3 A2',
      a18: 'A|d2d dfa|b2b a2f|g2e c2e|d3 d2',
    },
    form: '¶A |: §a §a1:ending :| ¶B |: §a8:octave §a18:octave :|',
  },
  {
    name: 'hornpipe with two eighths before the bar',
    why: 'Dotted, in fours, each phrase led into by two eighths; the close stands on its long note.',
    head: 'M:4/4\nK:A',
    phrases: {
      a: 'EG|A>cB>d c2a2|g>fe>d c2e2|f>ed>c B>cd>B|c>BA>G E2',
      a1: 'EG|A>cB>d c2a2|g>fe>d c2e2|f>ed>B G>AB>G|A2A2 A2',
      c: 'cd|e>ce>a g2e2|f>df>b a2f2|e>dc>B A>ce>c|d2B2 G2',
    },
    form: '¶A |: §a §a1:ending :| ¶B |: §c §a1:same :|',
  },
  {
    name: 'slow air with rests between its lines',
    why: 'Lines of three, three, four and four bars; every one breathes out on a long note and a rest.',
    head: 'M:3/4\nK:Em',
    phrases: {
      a: 'E2 G2 B2|A3 G F2|E4 z2',
      b: 'G2 B2 d2|c3 B A2|B4 z2',
      c: 'e2 d2 B2|d3 B A2|G2 A2 B2|A4 z2',
      d: 'B2 G2 E2|F3 G A2|G2 F2 D2|E4 z2',
    },
    form: '¶A §a | §b | §c | §d |]',
  },
  {
    name: 'sung tune in five-bar lines',
    why: 'The words want five bars to a line: two lines, the second ending at home.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'G2 A2 B4|c2 B2 A4|B2 d2 e2 d2|B2 A2 G2 A2|B8',
      a1: 'G2 A2 B4|c2 B2 A4|B2 d2 e2 d2|B2 G2 A2 F2|G8',
      b: 'd2 e2 d4|B2 c2 B4|A2 B2 c2 A2|B2 G2 E2 G2|A8',
    },
    form: '¶A §a | §a1:ending | §b | §a1:same |]',
  },
  {
    name: 'the same shape a step lower',
    why: 'A phrase and its image a step down, then up again: a sequence the ear keeps.',
    head: 'M:4/4\nK:C',
    phrases: {
      a: 'e2c2 G2c2|d2e2 f2d2|e2d2 c2e2|g4 g4',
      a1: 'd2B2 F2B2|c2d2 e2c2|d2c2 B2d2|f4 f4',
      b: 'c2G2 E2G2|A2B2 c2A2|G2E2 D2G2|C4 C4',
    },
    form: '¶A §a | §a1:moved | §a:same | §b |]',
  },
  {
    name: 'polska with its second strain taken from the first',
    why: 'Four and four; the close of the second strain is the close of the first.',
    head: 'M:3/4\nK:Dm',
    phrases: {
      a: 'D2 FA d2|c2 Bc A2|B2 GB AG|F2 E2 D2',
      a1: 'D2 FA d2|c2 de f2|edcB AG|F2 E2 D2',
      c: 'f2 fe df|e2 ed ce|d2 dc Bd|c2 A4',
      a2: 'f2 fe df|e2 de f2|edcB AG|F2 E2 D2',
    },
    form: '¶A |: §a | §a1:notes :| ¶B |: §c | §a2:start :|',
  },
  {
    name: 'sixteen bars: question, answer, question, second answer',
    why: 'A B A C, the commonest form of a dance part.',
    head: 'M:2/4\nK:D',
    phrases: {
      a: 'd2 fd|c2 ec|d2 fa|g2 e2',
      b: 'f2 df|e2 ce|d2 Bd|A4',
      c: 'g2 bg|f2 af|e2 ce|d4',
    },
    form: '¶A §a | §b | §a:same | §c |]',
  },
  {
    name: 'a call of four bars before the tune, and a tag after it',
    why: 'The opening and the two bars at the end are no part of the dance: they stand alone.',
    head: 'M:4/4\nK:G',
    phrases: {
      i: 'd4 d4|d2d2 d4|g2f2 e2f2|g4 d4',
      a: 'G2Bd g2dB|c2ec B2dB|A2ce a2ec|d2B2 A4',
      a1: 'G2Bd g2dB|c2ec B2dB|AGFE DEFA|G2B2 G4',
      t: 'DEFA GABc|d4 G4',
    },
    form: '¶I §i || ¶A |: §a | §a1:ending :| ¶T §t |]',
  },
  {
    name: 'lullaby of eight bars',
    why: 'Short lines of two bars in a slow six: four of them, the third new.',
    head: 'M:6/8\nQ:3/8=44\nK:F',
    phrases: {
      a: 'c2A c2A|G2A F3',
      a1: 'c2A c2A|G2E F3',
      b: 'd2B d2B|c2A G3',
    },
    form: '¶A §a | §a1:ending/notes | ¶B |: §b | §a1:same :|',
  },
  {
    name: 'rhythm of the first line with other notes',
    why: 'The second line claps like the first; the notes are new.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'G3A B2d2|e3d B2G2|A3B c2A2|d4 z4',
      b: 'd3c B2A2|G3B d2g2|f3e d2c2|B4 z4',
      c: 'e2e2 d2B2|c2c2 B2G2|A2A2 G2F2|G4 z4',
    },
    form: '¶A §a | §b | §a:same | §c |]',
  },
  {
    name: 'crooked waltz, lines of six',
    why: 'Six bars to the line: the long note is held one bar more than one expects.',
    head: 'M:3/4\nK:C',
    phrases: {
      a: 'G2|c4 e2|d4 c2|A4 c2|G6-|G4 E2|G4',
      a1: 'G2|c4 e2|d4 c2|A4 B2|c6-|c4 G2|c4',
      b: 'c2|f4 a2|g4 e2|d4 e2|c6-|c4 A2|G4',
    },
    form: '¶A §a §a1:ending §b §a1:same |]',
  },
]
