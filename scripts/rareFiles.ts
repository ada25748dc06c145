/** Whole files with what is rarely met, made up for the fuzz: damage meets the readers' seldom-used ways too. */
import type { FileKind } from '#core/formats/fileKinds'

const note = (step: string, octave: number, inner = '') =>
  `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>6</duration>${inner}</note>`

const SCORE = `<?xml version="1.0"?><score-partwise><part-list><score-part id="P1"><part-name>A</part-name></score-part>
<score-part id="P2"><part-name>B</part-name></score-part></part-list><part id="P1">
<measure number="1"><attributes><divisions>6</divisions><key><fifths>-2</fifths></key><time><beats>3+2</beats>
<beat-type>8</beat-type></time><clef><sign>G</sign><line>2</line><clef-octave-change>-1</clef-octave-change></clef>
</attributes><direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><beat-unit-dot/>
<per-minute>60</per-minute></metronome></direction-type></direction>${note('B', 4, '<notations><ornaments><tremolo>2</tremolo></ornaments></notations>')}
<barline><repeat direction="backward" times="1"/></barline>${note('C', 5, '<cue/>')}</measure>
<measure number="2"><note><grace/><pitch><step>D</step><octave>5</octave></pitch></note><note><grace/><chord/><pitch>
<step>F</step><octave>5</octave></pitch></note>${note('D', 5, '<notations><technical><fingering>1</fingering><fingering>2</fingering></technical></notations>')}
<note><grace/><pitch><step>E</step><octave>5</octave></pitch></note><barline location="right"><repeat direction="backward" times="3"/></barline></measure>
</part><part id="P2"><measure number="1">${note('G', 3)}</measure></part></score-partwise>`

export const RARE: Readonly<Partial<Record<FileKind, readonly string[]>>> = {
  abc: [
    'X:1\nT:Rare\nM:6/8\nL:1/8\nm: ~G3 = G/A/G/F/G\nm: tn2 = n/o/n/o/\nU: T = !trill!\nK:A# clef=treble-8\n' +
      '~G3 tB2 c|TA3 [Q:3/8=90] d2e & z6|[K:Gm middle=d] G2A {Bc}d3|[1 G6:|[2 G6|]\n%%beginps\n/x 1 def\n%%endps\n',
    'X:1\nT:Bass\nM:C|\nL:1/4\nK:Fmix clef=bass octave=-1\n(3F,G,A, X2|=c-|^c2 "^slow" d2|r:[r:remark] F4|]\n',
  ],
  musicxml: [SCORE],
  spoken: [
    'title: Rare\ninstrument: viola\ntuning: C3 G3 D4 A4\nmetre: 4/4\nkey: Gm\nIV 0 1 [II 2:3/2 3] | III <2 3> IV 4:1/3 4:1/3 4:1/3 |\n',
  ],
}
