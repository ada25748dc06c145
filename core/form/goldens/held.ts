/**
 * The part of the analysed tunes on which nothing was tuned: what `npm run bench:form` says of these is what
 * to expect of a tune nobody has seen.
 */
import type { AnalysedTune } from './analysed'

export const HELD: readonly AnalysedTune[] = [
  {
    name: 'slip jig, the second part answered by the first',
    why: 'Two-bar phrases in nine: the part is only four bars long.',
    head: 'M:9/8\nK:G',
    phrases: {
      a: 'B2d d2B A2G|B2d e2d BAG',
      a1: 'B2d d2B A2G|ABA AGE G3',
      b: 'g2e d2B e2d|g2e dBG A3',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §a1:same :|',
  },
  {
    name: 'reel with a quarter before the bar',
    why: 'The quarter leads in each time; the answer closes the part twice, the second part starts high.',
    head: 'M:4/4\nK:A',
    phrases: {
      a: 'E2|A2ce aece|f2df bfdf|e2ce aece|d2B2 B2',
      a1: 'E2|A2ce aece|f2df bfdf|edcB AGFG|A2A2 A2',
      c: 'e2|a2ea caea|b2fb dbfb|a2ea caec|d2B2 B2',
    },
    form: '¶A |: §a §a1:ending :| ¶B |: §c §a1:same :|',
  },
  {
    name: 'verse and refrain with nothing marked',
    why: 'Eight bars of verse, sung twice, and sixteen of refrain that borrows the last line.',
    head: 'M:4/4\nK:D',
    phrases: {
      a: 'F2A2 A4|B2A2 F4|G2F2 E2D2|E8',
      a1: 'F2A2 A4|B2d2 A4|G2F2 E2F2|D8',
      c: 'd2d2 f4|e2d2 B4|A2B2 d2e2|f8',
      c1: 'd2d2 f4|e2d2 B4|A2F2 E2D2|E8',
    },
    form: '¶A §a | §a1:ending/notes | ¶A §a:same | §a1:same | ¶B §c | §c1:ending | ¶B §c:same | §a1:same |]',
  },
  {
    name: 'march with three strains of eight',
    why: 'Each strain twice, in fours; the last strain lies an octave above the first.',
    head: 'M:2/4\nK:D',
    phrases: {
      a: 'D2 FA|d2 AF|G2 BG|A2 F2',
      a1: 'D2 FA|d2 AF|GFED|E2 D2',
      b: 'F2 A2|BABc|d2 cB|A4',
      b1: 'F2 A2|BABc|d2 fe|d4',
      a8: "d2 fa|d'2 af|g2 bg|a2 f2",
      a18: "d2 fa|d'2 af|gfed|e2 d2",
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §b1:ending :| ¶C |: §a8:octave | §a18:octave :|',
  },
  {
    name: 'air of eight bars, sung many times',
    why: 'One part; two lines of four, led into by two eighths.',
    head: 'M:4/4\nK:Am',
    phrases: {
      a: 'EG|A2 AB c2 Bc|d2 cB A2 GE|G2 GA B2 AG|E4 z2',
      b: 'EG|A2 AB c2 de|f2 ed c2 BA|B2 G2 E2 G2|A4 z2',
    },
    form: '¶A §a §b |]',
  },
  {
    name: 'dance in seven',
    why: 'Four-bar phrases of short bars; the second is the first with a turn at the close.',
    head: 'M:7/8\nK:D',
    phrases: {
      a: 'd2e f2 e2|d2B A2 B2|d2e f2 g2|f2e e4',
      a1: 'd2e f2 e2|d2B A2 B2|d2B A2 F2|E2F D4',
      b: 'a2f a2 f2|g2e g2 e2|f2d f2 d2|e2c A4',
      b1: 'a2f a2 f2|g2e g2 e2|f2d e2 c2|d2d d4',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §b1:ending :|',
  },
  {
    name: 'jig in three parts, the third kin to the first',
    why: 'Four and four in each; the third part opens a step above the first and shares its close.',
    head: 'M:6/8\nK:D',
    phrases: {
      a: 'DFA dAF|GBd BAG|FAd AFD|E3 E3',
      a1: 'DFA dAF|GBd BAG|FAd ECE|D3 D3',
      c: 'fdf ece|dBd cAc|BGB AFA|G3 E3',
      c1: 'fdf ece|dBd cAc|BGB ECE|D3 D3',
      a9: 'EGB eBG|Ace cBA|GBe BGE|F3 F3',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §c | §c1:ending :| ¶C |: §a9:moved | §a1:same :|',
  },
  {
    name: 'strathspey with snaps',
    why: 'Four and four; the snap of the close is the same in both parts.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'G2 B<d g2 d<B|A2 c<e a2 e<c|G2 B<d g>dB>G|A<FD>F A2 F2',
      a1: 'G2 B<d g2 d<B|A2 c<e a2 e<c|d>gf>a g>de>c|B<GA>F G2 G2',
      c: 'g2 d<g b2 g<d|f2 d<f a2 f<d|g2 d<g b>gd>B|A<FD>F A2 F2',
      c1: 'g2 d<g b2 g<d|f2 d<f a2 f<d|d>gf>a g>de>c|B<GA>F G2 G2',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §c | §c1:ending :|',
  },
  {
    name: 'written-out dance of forty-eight bars',
    why: 'Three strains of eight, each written twice, the second time with a closing turn.',
    head: 'M:6/8\nK:A',
    phrases: {
      a: 'A2c e2c|d2f e2c|A2c e2c|B3 E3',
      a1: 'A2c e2c|d2f e2c|d2B G2B|A3 A3',
      c: 'e2a a2e|f2a e2c|e2a a2e|f3 B3',
      c1: 'e2a a2e|f2a e2c|d2B G2B|A3 A3',
      e: 'c2c B2B|A2A G2G|F2F E2E|D3 E3',
      e1: 'c2c B2B|A2A G2G|F2D E2G|A3 A3',
    },
    form: '¶A §a | §a1:ending | ¶A §a:same | §a1:same | ¶B §c | §c1:ending | ¶B §c:same | §c1:same | ¶C §e | §e1:ending | ¶C §e:same | §e1:same |]',
  },
  {
    name: 'study on one bar of rhythm',
    why: 'Eight bars of one rhythm; the ear hears four and four by the turn back to the first figure.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'G2AB c2BA|B2cd e2dc|d2ef g2fe|d2cB A4',
      a1: 'G2AB c2BA|B2cd e2dc|d2cB A2GF|G2B2 G4',
    },
    form: '¶A §a | §a1:ending |]',
  },
  {
    name: 'polka whose second part comes home by the first',
    why: 'Four and four; the second part has a call of its own and the answer of the first.',
    head: 'M:2/4\nK:G',
    phrases: {
      a: 'G2 BG|A2 cA|B2 dB|c2 A2',
      a1: 'G2 BG|A2 cA|BdcA|G2 G2',
      b: 'd2 g2|f2 ed|e2 g2|d4',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §a1:same :|',
  },
  {
    name: 'quick dance with its upbeat written into the bars',
    why: 'Two quarters lead in, first in a bar of their own and then at the end of every fourth bar.',
    head: 'M:4/4\nK:G',
    phrases: {
      a: 'D2G2|B4 A2G2|E2G2 D4|G2A2 B2d2|A4',
      a1: 'D2G2|B4 A2G2|E2G2 D4|G2B2 A2F2|G4',
      b: 'B2d2|e4 d2B2|c2A2 B4|d2B2 A2G2|A4',
    },
    form: '¶A |: §a §a1:ending :| ¶B |: §b §a1:same :|',
  },
  {
    name: 'minor air whose second line lies a fourth higher',
    why: 'Four lines of four: the second repeats the first a fourth up, the last is the first once more, closed.',
    head: 'M:3/4\nK:Dm',
    phrases: {
      a: 'D4 F2|A4 G2|F2 E2 D2|E6',
      a9: 'G4 B2|d4 c2|B2 A2 G2|A6',
      b: 'd4 c2|B4 A2|G2 F2 E2|F6',
      a1: 'D4 F2|A4 G2|F2 E2 C2|D6',
    },
    form: '¶A §a | §a9:moved | §b | §a1:ending |]',
  },
  {
    name: 'three parts, the last written out twice',
    why: 'A and B repeated by sign; C is written twice because its close changes.',
    head: 'M:6/8\nK:Em',
    phrases: {
      a: 'E2G B2e|dBG A3|E2G B2e|dBA F3',
      a1: 'E2G B2e|dBG A3|GFE F2D|E3 E3',
      b: 'e2f gfe|d2B A3|e2f gfe|dBd e3',
      b1: 'e2f gfe|d2B A3|GFE F2D|E3 E3',
      c: 'B2c dcB|A2B cBA|G2A BAG|F3 B3',
      c1: 'B2c dcB|A2B cBA|GFE F2D|E3 E3',
    },
    form: '¶A |: §a | §a1:ending :| ¶B |: §b | §b1:ending :| ¶C §c | §c1:ending | ¶C §c:same | §c1:same |]',
  },
  {
    name: 'scale study by halves',
    why: 'Up in the first four bars, the same shape down in the other four.',
    head: 'M:4/4\nK:D',
    phrases: {
      a: 'D2E2 F2G2|E2F2 G2A2|F2G2 A2B2|A8',
      b: 'd2c2 B2A2|c2B2 A2G2|B2A2 G2F2|D8',
    },
    form: '¶A §a | §b |]',
  },
  {
    name: 'crooked song with an extra bar of breath',
    why: 'Lines of four, and after each second line one bar more to breathe.',
    head: 'M:4/4\nK:A',
    phrases: {
      a: 'A2B2 c4|e2c2 B4|A2B2 c2e2|B8',
      b: 'A2B2 c4|e2f2 e4|c2B2 A2B2|A8|z8',
      c: 'e2f2 a4|f2e2 c4|e2c2 B2A2|B8',
    },
    form: '¶A §a | §b | ¶B §c | §b:same |]',
  },
  {
    name: 'song in lines of five, the last note held over',
    why: 'Five bars to the line: what is held over the bar line ends in the bar after, and the next line’s upbeat follows it there.',
    head: 'M:4/4\nK:F',
    phrases: {
      a: 'C2|F2GA c2A2|B2AG A4|c2de f2d2|c8-|c6',
      b: 'c2|d2cB A2F2|G2AB c4|B2AG F2E2|F8-|F6',
    },
    form: '¶A §a §b ¶A §a:same §b:same |]',
  },
  {
    name: 'air in six-eight, held over the bar',
    why: 'Four bars to the line, the fourth half taken by the note of the third, then three eighths into the next.',
    head: 'M:6/8\nK:Am',
    phrases: {
      a: 'EFG|A2B c2A|B2c d2B|e6-|e3',
      b: 'dcB|A2B c2A|B2A G2E|A6-|A3',
    },
    form: '¶A §a §b ¶A §a:same §b:same |]',
  },
]
