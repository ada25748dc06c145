/**
 * The features of the ABC standard one by one: each is read, or told; nothing becomes other notes in silence.
 */
import { describe, expect, it } from 'vitest'
import { playOrderText } from '#core/music/unfold'
import { toNumber } from '#core/music/fraction'
import { readAbc } from './readAbc'
import { said } from './testing'

const plain = (music: string) => `X:1\nT:t\nM:4/4\nL:1/8\nK:C\n${music}\n`

/** What it is called, the text, the music it is, and the codes of what is told. */
const FEATURES: readonly (readonly [string, string, string, string])[] = [
  [
    'voices',
    'X:1\nM:4/4\nL:1/4\nK:C\nV:1\nCDEF|GABc|\nV:2\nC,D,E,F,|\nV:2\nG,A,B,C|\nV:1\ncdef|\n',
    'C4 D4 E4 F4 | G4 A4 B4 C5 | C5 D5 E5 F5',
    'abc.voices',
  ],
  [
    'inline voices',
    'X:1\nM:4/4\nL:1/4\nK:C\n[V:1]CDEF|\n[V:2]C,D,E,F,|\n[V:1]GABc|\n[V:2]G,A,B,C|\n',
    'C4 D4 E4 F4 | G4 A4 B4 C5',
    'abc.voices',
  ],
  [
    'a metre in groups',
    'X:1\nM:2+2+3/8\nL:1/8\nK:C\nC2E2GFE|[M:3+2/8]C3D2|\n',
    'C4 E4 G4/2 F4/2 E4/2 | M:3+2/8 C4*3/2 D4',
    '',
  ],
  ['file header', 'L:1/4\nM:3/4\n\nX:1\nT:a\nK:C\nCDE|\n\nX:2\nT:b\nK:G\nGAB|\n', 'C4 D4 E4 || G4 A4 B4', ''],
  [
    'P order',
    'X:1\nP:ABA\nM:4/4\nL:1/4\nK:C\nP:A\nCDEF|\nP:B\nGABc|\n',
    '<A> C4 D4 E4 F4 | <B> G4 A4 B4 C5',
    '',
  ],
  [
    'da capo, al fine',
    plain('CDEF GABc|!fine!c8|GABc defg|!D.C.!C8|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | fine C5*4 | G4/2 A4/2 B4/2 C5/2 D5/2 E5/2 F5/2 G5/2 | dc C4*4',
    '',
  ],
  [
    'da capo al fine, on the bar lines',
    plain('CDEF GABc|c8!fine!|GABc defg|C8!D.C.alfine!|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | fine C5*4 | G4/2 A4/2 B4/2 C5/2 D5/2 E5/2 F5/2 G5/2 | dc C4*4',
    '',
  ],
  [
    'dal segno al coda, two coda signs',
    plain('!segno!CDEF GABc|c8!coda!|GABc defg!D.S.alcoda!|!coda!c8|'),
    'segno C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | toCoda C5*4 | ds G4/2 A4/2 B4/2 C5/2 D5/2 E5/2 F5/2 G5/2 | coda C5*4',
    '',
  ],
  [
    'dal segno al coda, dacoda',
    plain('!segno!CDEF GABc|c8!dacoda!|GABc defg|!D.S.!C8|!coda!c8|'),
    'segno C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | toCoda C5*4 | G4/2 A4/2 B4/2 C5/2 D5/2 E5/2 F5/2 G5/2 | ds C4*4 | coda C5*4',
    '',
  ],
  [
    'voices by name, whole lines of another',
    'X:1\nM:4/4\nL:1/4\nK:C\nV:1 name="High"\nCDEF|\nV:2 clef=bass\nC,D,E,F,|\nV:2\nG,A,B,C|\nV:2\nC,C,C,C,|\nV:1\ncdef|\n',
    'C4 D4 E4 F4 | C5 D5 E5 F5',
    'abc.voices',
  ],
  [
    'a repeat of three times',
    plain('|::CDEF GABc::|'),
    '|: 3 times C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 :|',
    '',
  ],
  [
    '(5 in 6/8',
    'X:1\nM:6/8\nL:1/8\nK:C\n(5CDEFG ABc|\n',
    'C4*3/10 D4*3/10 E4*3/10 F4*3/10 G4*3/10 A4/2 B4/2 C5/2',
    '',
  ],
  [
    '(7 in 6/8',
    'X:1\nM:6/8\nL:1/8\nK:C\n(7CDEFGAB ABc|\n',
    'C4*3/14 D4*3/14 E4*3/14 F4*3/14 G4*3/14 A4*3/14 B4*3/14 A4/2 B4/2 C5/2',
    '',
  ],
  [
    '(5 in 6/8 with its number',
    'X:1\nM:6/8\nL:1/8\nK:C\n(5:2CDEFG ABcd|\n',
    'C4/5 D4/5 E4/5 F4/5 G4/5 A4/2 B4/2 C5/2 D5/2',
    '',
  ],
  [
    '(3 in 6/8 under a chord that says five',
    'X:1\nM:6/8\nL:1/8\nK:C\n"(5)"(3CDE FGAB|\n',
    '"(5)"C4/3 D4/3 E4/3 F4/2 G4/2 A4/2 B4/2',
    '',
  ],
  [
    '(5 in 6/8 under a chord',
    'X:1\nM:6/8\nL:1/8\nK:C\n"C"(5CDEFG ABc|\n',
    '"C"C4*3/10 D4*3/10 E4*3/10 F4*3/10 G4*3/10 A4/2 B4/2 C5/2',
    '',
  ],
  ['(4 in 6/8', 'X:1\nM:6/8\nL:1/8\nK:C\n(4CDEF GAB|\n', 'C4*3/8 D4*3/8 E4*3/8 F4*3/8 G4/2 A4/2 B4/2', ''],
  ['(5 in 4/4', plain('(5CDEFG ABcd ef|'), 'C4/5 D4/5 E4/5 F4/5 G4/5 A4/2 B4/2 C5/2 D5/2 E5/2 F5/2', ''],
  [
    '(9',
    'X:1\nM:6/8\nL:1/8\nK:C\n(9CDEFGABcd CDE|\n',
    'C4/6 D4/6 E4/6 F4/6 G4/6 A4/6 B4/6 C5/6 D5/6 C4/2 D4/2 E4/2',
    '',
  ],
  ['(4', 'X:1\nM:6/8\nL:1/8\nK:C\n(4CDEF CDE|\n', 'C4*3/8 D4*3/8 E4*3/8 F4*3/8 C4/2 D4/2 E4/2', ''],
  ['(2', 'X:1\nM:6/8\nL:1/8\nK:C\n(2CD CDE|\n', 'C4*3/4 D4*3/4 C4/2 D4/2 E4/2', ''],
  [
    '(6',
    plain('(6CDEFGA (6CDEFGA CDEF|'),
    'C4/6 D4/6 E4/6 F4/6 G4/6 A4/6 C4/6 D4/6 E4/6 F4/6 G4/6 A4/6 C4/2 D4/2 E4/2 F4/2',
    '',
  ],
  [
    '(8',
    'X:1\nM:6/8\nL:1/8\nK:C\n(8CDEFGABc CDE|\n',
    'C4*3/16 D4*3/16 E4*3/16 F4*3/16 G4*3/16 A4*3/16 B4*3/16 C5*3/16 C4/2 D4/2 E4/2',
    '',
  ],
  ['treble-8', 'X:1\nM:4/4\nL:1/4\nK:C clef=treble-8\nCDEF|\n', 'C3 D3 E3 F3', 'abc.clefOctave'],
  ['treble+8', 'X:1\nM:4/4\nL:1/4\nK:C clef=treble+8\nCDEF|\n', 'C5 D5 E5 F5', 'abc.clefOctave'],
  ['bass-8', 'X:1\nM:4/4\nL:1/4\nK:C clef=bass-8\nC,D,E,F,|\n', 'C2 D2 E2 F2', 'abc.clefOctave'],
  ['middle', 'X:1\nM:4/4\nL:1/4\nK:C clef=bass middle=D\nCDEF|\n', 'C3 D3 E3 F3', 'abc.clefOctave'],
  ['middle2', 'X:1\nM:4/4\nL:1/4\nK:C clef=bass middle=d\nCDEF|\n', 'C2 D2 E2 F2', 'abc.clefOctave'],
  ['octave', 'X:1\nM:4/4\nL:1/4\nK:C octave=-1\nCDEF|\n', 'C3 D3 E3 F3', ''],
  ['tenor', 'X:1\nM:4/4\nL:1/4\nK:C clef=tenor\nC,D,E,F,|\n', 'C3 D3 E3 F3', ''],
  ['alto', 'X:1\nM:4/4\nL:1/4\nK:C clef=alto\nCDEF|\n', 'C4 D4 E4 F4', ''],
  ['alto2', 'X:1\nM:4/4\nL:1/4\nK:C alto\nCDEF|\n', 'C4 D4 E4 F4', ''],
  ['perc', 'X:1\nM:4/4\nL:1/4\nK:C clef=perc\nCDEF|\n', 'C4 D4 E4 F4', 'abc.atWritten'],
  [
    'a line of symbols',
    plain('CDEF GABc|\ns: * !trill! * "^x" .|'),
    "C4/2 D4/2'trill E4/2 F4/2^x G4/2'staccato A4/2 B4/2 C5/2",
    '',
  ],
  [
    'accents',
    'X:1\nT:Caf\\\'e d\\`es &eacute;t&agrave; \\u00e9 \\"u \\~n \\cc &amp; \\oe\nC:M\\"uller\nM:4/4\nL:1/8\nK:C\nCDEF "G&eacute;"GABc|\nw:\\\'e-t\\\'e la la\n',
    "C4/2'é- D4/2'té E4/2'la F4/2'la \"Gé\"G4/2 A4/2 B4/2 C5/2",
    '',
  ],
  [
    'accidentals by octave, before 2.1',
    plain('^cCcC c2C2|'),
    'C#5/2 C4/2 C#5/2 C4/2 C#5 C4',
    'abc.octaveAccidental',
  ],
  [
    'accidentals in every octave, from version 2.1 on',
    '%abc-2.1\nX:1\nT:t\nM:4/4\nL:1/8\nK:C\n^cCcC c2C2|\n',
    'C#5/2 C#4/2 C#5/2 C#4/2 C#5 C#4',
    'abc.octaveAccidental',
  ],
  [
    'accidentals by octave, by directive',
    'X:1\n%%propagate-accidentals octave\nM:4/4\nL:1/8\nK:C\n^cCcC c2C2|\n',
    'C#5/2 C4/2 C#5/2 C4/2 C#5 C4',
    'abc.octaveAccidental',
  ],
  ['a signature spelled out', 'X:1\nM:4/4\nL:1/4\nK:D exp ^f\nCDEF|\n', 'C4 D4 E4 F#4', ''],
  [
    'a signature no mode has',
    'X:1\nM:4/4\nL:1/4\nK:D exp _e ^f\nDEFG|\n',
    'D4 Eb4 F#4 G4',
    'abc.keySignature',
  ],
  [
    'a signature spelled out, three signs',
    'X:1\nM:4/4\nL:1/4\nK:D exp ^f ^c ^g\ncdef|g4\n',
    'C#5 D5 E5 F#5 | G#5*4',
    '',
  ],
  ['changed signature', 'X:1\nM:4/4\nL:1/4\nK:D =c\nCDEF|\n', 'C4 D4 E4 F#4', ''],
  [
    'a changed signature that is none',
    'X:1\nM:4/4\nL:1/4\nK:D Phr ^f\nCDEF|\n',
    'C4 D4 Eb4 F#4',
    'abc.keySignature',
  ],
  [
    'fields continued',
    'X:1\nT:One\n+:two\nN:abc\n+:def\nM:4/4\nL:1/8\nK:C\nCDEF GABc|\nw:la la\n+:la la\n',
    "C4/2'la D4/2'la E4/2'la F4/2'la G4/2 A4/2 B4/2 C5/2",
    '',
  ],
  [
    'signs redefined',
    'X:1\nU:n=!trill!\nM:4/4\nL:1/8\nK:C\nnCDEF GABc|\n',
    "C4/2'trill D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2",
    '',
  ],
  [
    'macros',
    'X:1\nm:~g2={a}g{f}g\nM:4/4\nL:1/8\nK:C\n~g2CD GABc|\n',
    '{A5}G5/2 {F5}G5/2 C4/2 D4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  [
    'macros at every pitch',
    'X:1\nm:~n2={o}n{m}n\nM:4/4\nL:1/8\nK:C\n~g2~C2 GABc|\n',
    '{A5}G5/2 {F5}G5/2 {D4}C4/2 {B3}C4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  ['y spacer', plain('CyDyEF GABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['dotted bar', plain('CDEF .|GABc|'), 'C4/2 D4/2 E4/2 F4/2 | G4/2 A4/2 B4/2 C5/2', ''],
  [
    'mordents, lower and upper',
    plain('MCPD !mordent!E!lowermordent!F !uppermordent!G!pralltriller!A Bc|'),
    "C4/2'mordent D4/2'upperMordent E4/2'mordent F4/2'mordent G4/2'upperMordent A4/2'upperMordent B4/2 C5/2",
    '',
  ],
  [
    'a hairpin is told once',
    plain('!crescendo(!C D E !crescendo)!F GABc|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    'abc.decoration',
  ],
  [
    '!cut!',
    plain('!invertedturn!C !thumb!D !snap!E F GABc|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    'abc.decoration abc.decoration abc.decoration',
  ],
  ['broken rhythms', plain('A>>B A<B A<<<B c|'), 'A4*7/8 B4/8 A4/4 B4*3/4 A4/16 B4*15/16 C5/2', ''],
  ['chord len', plain('[C2E2]2 [CE/]2 CDEF|'), 'C4+E4*2 C4+E4 C4/2 D4/2 E4/2 F4/2', 'tune.barLong'],
  ['unequal chord', plain('[C2E4]CDEF|'), 'C4+E4 C4/2 D4/2 E4/2 F4/2', ''],
  ['X2', plain('X2|CDEF GABc|'), 'x*4 | x*4 | C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['Z2', plain('Z2|CDEF GABc|'), 'z*4 | z*4 | C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['x', plain('x4 CDEF|'), 'x*2 C4/2 D4/2 E4/2 F4/2', ''],
  ['X', plain('X|CDEF GABc|'), 'x*4 | C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  [
    'nested endings',
    plain('|:CDEF GABc|1,3 c8:|2 d8:|4 e8|]'),
    '|: C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | [1,3] C5*4 :| | [2] D5*4 :| | [4] E5*4',
    '',
  ],
  [
    '[1-3',
    plain('|:CDEF GABc|[1-3 c8:|[4 d8|]'),
    '|: C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | [1,2,3] C5*4 :| | [4] D5*4',
    '',
  ],
  ['overlay', plain('CDEF GABc & E4 G4|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', 'abc.overlay'],
  ['grace /', plain('{/g}CDEF {ag}GABc|'), '{G5}C4/2 D4/2 E4/2 F4/2 {A5G5}G4/2 A4/2 B4/2 C5/2', ''],
  [
    'lyrics _',
    plain('CDEF GABc|\nw:la_ la * la | mi~fa so-la'),
    "C4/2'la D4/2 E4/2'la F4/2 G4/2'la A4/2 B4/2 C5/2",
    'abc.wordsLeft',
  ],
  [
    'tempo with words',
    'X:1\nM:4/4\nL:1/8\nQ:"Allegro" 1/4=120\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  [
    'tempo without a note',
    'X:1\nM:4/4\nL:1/8\nQ:120\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    'abc.tempoPlain',
  ],
  [
    'tempo of several notes',
    'X:1\nM:4/4\nL:1/8\nQ:1/4 3/8=40\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  [
    'tempo in words alone',
    'X:1\nM:4/4\nL:1/8\nQ:"Andante"\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    'abc.tempoUnread',
  ],
  [
    'tempo by the older sign',
    'X:1\nM:4/4\nL:1/8\nQ:C=100\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  [
    'tempo with a fraction',
    'X:1\nM:4/4\nL:1/8\nQ:1/4=92.5\nK:C\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  ['M C|', 'X:1\nM:C|\nL:1/8\nK:C\nCDEF GABc|\n', 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['M 2+3', 'X:1\nM:(2+3+2)/8\nL:1/8\nK:C\nCDEF GAB|\n', 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2', ''],
  ['K none', 'X:1\nM:4/4\nL:1/8\nK:none\nCDEF GABc|\n', 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['K HP', 'X:1\nM:4/4\nL:1/8\nK:HP\nCDEF GABc|\n', 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['K Dlyd', 'X:1\nM:4/4\nL:1/8\nK:DLydian\nCDEF GABc|\n', 'C#4/2 D4/2 E4/2 F#4/2 G#4/2 A4/2 B4/2 C#5/2', ''],
  ['K f#m', 'X:1\nM:4/4\nL:1/8\nK:F#m\nCDEF GABc|\n', 'C#4/2 D4/2 E4/2 F#4/2 G#4/2 A4/2 B4/2 C#5/2', ''],
  ['quarter tones (told)', plain('^/cCcC c2C2|'), 'C5/2 C4/2 C5/2 C4/2 C5 C4', 'abc.microtone'],
  [
    'transpose',
    'X:1\nM:4/4\nL:1/8\nK:C transpose=-2\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    'abc.atWritten',
  ],
  ['bad len', plain('C0 D E F|'), 'D4/2 E4/2 F4/2', 'abc.badLength'],
  ['tie over', plain('C8-|C8|'), 'C4-*4 | C4*4', ''],
  ['slur nest', plain('(C(DE)F) GABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['dotted slur', plain('.(CDEF) GABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['broken tie slur', plain('C-D EF GABc|'), 'C4-/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', 'tune.tieToNothing'],
  ['no L', 'X:1\nM:2/4\nK:C\nCDEF|\n', 'C4/4 D4/4 E4/4 F4/4', ''],
  ['r:', plain('CDEF [r:remark] GABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['%', plain('CDEF % comment\nGABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['\\', plain('CDEF \\\nGABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['midi', plain('%%MIDI program 40\nCDEF GABc|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  ['tune text', plain('CDEF GABc|\n\nfree text after'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2', ''],
  [
    'begintext',
    'X:1\nM:4/4\nL:1/8\nK:C\n%%begintext\nsome CDEF words\n%%endtext\nCDEF GABc|\n',
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2',
    '',
  ],
  ['L change', plain('CDEF GABc|[L:1/4]CDEF|'), 'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | C4 D4 E4 F4', ''],
  [
    'K change mid',
    plain('CDEF GABc|[K:D]CDEF GABc|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | K:D C#4/2 D4/2 E4/2 F#4/2 G4/2 A4/2 B4/2 C#5/2',
    '',
  ],
  [
    'M change mid',
    plain('CDEF GABc|[M:3/4]CDE FGA|'),
    'C4/2 D4/2 E4/2 F4/2 G4/2 A4/2 B4/2 C5/2 | M:3/4 C4/2 D4/2 E4/2 F4/2 G4/2 A4/2',
    '',
  ],
]

describe('a feature of the standard', () => {
  it.each(FEATURES)('%s', (_name, text, music, codes) => {
    const { tunes } = readAbc(text)
    expect(tunes.map(t => said(t.tune)).join(' || ')).toBe(music)
    expect(tunes.flatMap(t => t.findings.map(f => f.code)).join(' ')).toBe(codes)
  })
})

describe('fields', () => {
  const head = (fields: string, music = 'C8|') =>
    readAbc(`X:1\n${fields}\nM:4/4\nL:1/8\nK:C\n${music}\n`).tunes[0]!
  it('are read with their accents, however they are spelled', () => {
    const { tune } = head(
      'T:Caf\\\'e d\\`es &eacute;t&agrave; \\u00e9 \\"u \\~n \\cc &amp; \\oe\nC:M\\"uller',
    )
    expect([tune.title, tune.composer]).toEqual(['Café dès étà é ü ñ ç & œ', 'Müller'])
  })
  it('that go on in the next line are one', () => {
    expect(head('T:One\n+:two\nN:First\n+: line').tune).toMatchObject({
      title: 'One two',
      notes: 'First line',
    })
  })
  it.each([
    ['1/4=120', 1, 120],
    ['"Lively" 3/8=92.5', 1.5, 92.5],
    ['1/4 3/8=40', 2.5, 40],
    ['120', 1, 120],
  ])('Q:%s', (text, quarters, perMinute) => {
    const { tempo } = head(`Q:${text}`).tune
    expect([tempo!.beat.n / tempo!.beat.d, tempo!.perMinute]).toEqual([quarters, perMinute])
  })
  it.each([
    ['1/4=92.5', 1, 92.5],
    ['1/4 3/8=40', 2.5, 40],
    ['C=100', 0.5, 100],
    ['C3=40', 1.5, 40],
    ['120', 1, 120],
  ])('the tempo %s', (said, quarters, perMinute) => {
    const { tempo } = readAbc(`X:1\nM:4/4\nL:1/8\nQ:${said}\nK:C\nCDEF|\n`).tunes[0]!.tune
    expect([toNumber(tempo!.beat), tempo!.perMinute]).toEqual([quarters, perMinute])
  })
  it('a tempo within the tune is told, with its place', () => {
    const { findings } = head('Q:1/4=80', 'C8|[Q:1/4=100]C8|')
    expect(findings).toMatchObject([{ code: 'abc.tempoChange', where: { line: 6, column: 4 } }])
  })
  it('clefs of the strings are kept', () => {
    for (const clef of ['alto', 'tenor', 'bass', 'treble'])
      expect(readAbc(`X:1\nM:4/4\nL:1/4\nK:C clef=${clef}\nCDEF|\n`).tunes[0]!.tune.clef).toBe(clef)
  })
})

describe('the way through', () => {
  it.each([
    ['P:ABA\nM:4/4\nL:1/1\nK:C\nP:A\nC|D|\nP:B\nE|', '1–3, 1–2'],
    ['P:(AB)2A\nM:4/4\nL:1/1\nK:C\nP:A\nC|\nP:B\nE|', '1–2, 1–2, 1'],
    ['M:4/4\nL:1/1\nK:C\n|:C|D:|E!fine!|F!D.C.alfine!|', '1–2, 1–4, 1–3'],
    ['M:4/4\nL:1/1\nK:C\nC|!segno!D|E!dacoda!|F!D.S.alcoda!|!coda!G|', '1–4, 2–3, 5'],
    ['M:4/4\nL:1/1\nK:C\n|::C|D::|', '1–2, 1–2, 1–2'],
  ])('%j', (text, order) => expect(playOrderText(readAbc(`X:1\n${text}\n`).tunes[0]!.tune)).toBe(order))
  it('an order that names a part that is not there is told where it stands', () => {
    const { tune, findings } = readAbc('X:1\nP:ABQ\nM:4/4\nL:1/1\nK:C\nP:A\nC|\nP:B\nE|\n').tunes[0]!
    expect(tune.play).toEqual({ struck: [], times: 1 })
    expect(findings).toMatchObject([{ code: 'abc.partOrder', where: { line: 2 }, values: { order: 'ABQ' } }])
  })
})

it('a signature no mode has is told where it stands', () => {
  const place = (text: string) =>
    readAbc(text).tunes[0]!.findings.find(f => f.code === 'abc.keySignature')?.where
  expect(place('X:1\nM:4/4\nL:1/4\nK:D exp _e ^f\nDEFG|\n')).toEqual({ line: 4, column: 1 })
  expect(place('X:1\nM:4/4\nL:1/4\nK:D\nDEFG|\nDE[K:D exp _e ^f]FG|\n')).toEqual({ line: 6, column: 4 })
})

describe('what moves no note here is told, with its place', () => {
  const told = (text: string) => readAbc(text).tunes[0]!.findings.filter(f => f.code === 'abc.atWritten')
  it.each([
    ['middle=c', 'middle=c'],
    ['m=A,', 'm=A,'],
    ['transpose=-2', 'transpose=-2'],
    ['score=Cd', 'score=Cd'],
    ['sound=dC', 'sound=dC'],
    ['clef=perc', 'clef=perc'],
    ['perc', 'perc'],
    [`sound=${'x'.repeat(60)}`, `sound=${'x'.repeat(34)}`],
  ])('K:C %s', (field, said) => {
    expect(told(`X:1\nM:4/4\nL:1/4\nK:C ${field}\nCDEF|\n`)).toEqual([
      { code: 'abc.atWritten', severity: 'note', where: { line: 4, column: 5 }, values: { said } },
    ])
  })
  it.each(['K:C clef=bass', 'K:C treble', 'K:C stafflines=4', 'K:C percussive'])(
    '%s says nothing of it',
    field => {
      expect(told(`X:1\nT:K:C perc\nM:4/4\nL:1/4\n${field}\nCDEF|\n`)).toEqual([])
    },
  )
  it('in a voice and within the line too, of many the first four', () => {
    const text =
      'X:1\nM:4/4\nL:1/4\nK:C\nV:1 transpose=2\nCDEF|[K:G m=C]CDEF|[V:1 score=Cd]CDEF|\nCDEF|[M:4/4][K:C sound=dC]CDEF|[K:C middle=d]CDEF|\n'
    expect(told(text).map(f => [f.values.said, f.where.line, f.where.column])).toEqual([
      ['transpose=2', 5, 5],
      ['m=C', 6, 11],
      ['score=Cd', 6, 25],
      ['sound=dC', 7, 18],
    ])
  })
})

it('a tune of more bars than any tune has is refused, and those beside it are read', () => {
  const { tunes } = readAbc(
    `X:1\nT:Endless\nM:4/4\nL:1/1\nK:C\n${'C|'.repeat(50_000)}\n\nX:2\nT:Short\nM:4/4\nL:1/1\nK:C\nC|D|\n`,
  )
  expect(tunes.map(t => [t.tune.measures.length, t.findings.map(f => f.code)])).toEqual([
    [0, ['abc.tooManyBars']],
    [2, []],
  ])
})

describe('voices', () => {
  const text =
    'X:1\nM:4/4\nL:1/4\nK:C\nV:Hi name="Upper"\nV:Lo clef=bass\nV:Hi\nCDEF|GABc|\nw:one two three four\nV:Lo\nC,D,E,F,|\nV:Lo\nG,A,B,C|\nw:low\nV:Lo\n[K:G]F,4|\nV:Hi\nFEDC|\n'
  it('are told apart by their names, whatever lines they come in', () => {
    const [hi, lo] = [0, 1].map(voice => readAbc(text, { voice }).tunes[0]!)
    expect(said(hi!.tune)).toBe("C4'one D4'two E4'three F4'four | G4 A4 B4 C5 | F4 E4 D4 C4")
    expect(said(lo!.tune)).toBe("C3 D3 E3 F3 | G3'low A3 B3 C4 | K:G F#3*4")
    expect(lo!.tune.clef).toBe('bass')
    expect(hi!.voices).toEqual([
      { label: 'Upper', notes: 12 },
      { label: 'voice Lo', notes: 9 },
    ])
  })
  it('keep the places of their notes in the text', () => {
    const { tune, spans } = readAbc(text, { voice: 1 }).tunes[0]!
    const span = spans.get(tune.measures[1]!.events[0]!.id)!
    expect(text.slice(span.from, span.to)).toBe('G,')
  })
})
