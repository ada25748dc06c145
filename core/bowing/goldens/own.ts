/**
 * Made-up passages with the bow marks a teacher would write, each with the reason: written before the
 * weights. Those marked `held` are only read, never tuned on. Marks are bar by bar, one a note (ties not
 * counted): `D` down, `U` up, `-` in the bow of the note before, `h` a hooked bow, `^` before
 * a direction: the bow is lifted and set anew.
 */
import type { InstrumentId } from '#core/music/tune'
import type { BowSchool } from '../schools'

export interface BowGolden {
  readonly name: string
  readonly instrument: InstrumentId
  readonly school: BowSchool
  readonly pattern?: string
  readonly metre: string
  readonly tempo: string
  readonly key: string
  readonly music: string
  readonly want: string
  readonly also?: readonly string[]
  readonly why: string
  readonly rule: string
  readonly held?: true
}

type Row = readonly [
  name: string, where: `${'violin' | 'viola' | 'cello' | 'bass'} ${string}`, head: string, music: string, want: string | readonly string[],
  rule: string, why: string,
] // prettier-ignore

const ROWS: readonly Row[] = [
  ['Lantern Gate', 'violin down', '2/4 1/4=104 D', 'A2|d2f2|e>d c2|B2ed|c2A2|d2f2|e>d c2|B2c2|d4|',
    ['U|DU|DhU|DU-|DU|DU|DhU|DU|D', 'U|DU|D-U|DU-|DU|DU|D-U|DU|D', 'U|DU|DhU|DUh|DU|DU|DhU|DU|D'], 'march',
    'The dotted pair takes one bow, and so does the pair of eighths, so that every bar has two strokes'],
  ['Chalk Window', 'violin down', '3/4 1/4=126 G', 'G2B2d2|e4d2|c2B2A2|B6|A2c2e2|f4e2|d2c2A2|G6|',
    ['DU-|DU|DUD|U|DU-|DU|DU-|D', 'DU-|DU|DU-|D|^DU-|DU|DU-|D', 'DUh|DU|DUD|U|DUh|DU|DUh|D', 'DUh|DU|DUh|D|^DUh|DU|DUh|D'], 'waltz',
    'Three quarters go down, up, up; the long note may come up, because it hands the next bar a down'],
  ['Three Wet Hens', 'violin down', '6/8 3/8=100 G', 'G2B dBG|A2c ecA|B2d gdB|A3 D3|G2B dBG|c2e A2c|BGA F2D|G3-G2z|',
    ['DUD-U|DUD-U|DUD-U|DU|DUD-U|DUDU|DUDU-|D', 'D-UDU|D-UDU|D-UDU|DU|D-UDU|DUDU|DUDU-|D', 'DUDU-|DUDU-|DUDU-|DU|DUDU-|DUDU|DUDU-|D', 'DUD-U|DUD-U|DUD-U|DU|DUD-U|DUDU|DUD-U|D', 'D-UDU|D-UDU|D-UDU|DU|D-UDU|DUDU|DUD-U|D'], 'jig',
    'Five notes would turn the bow in each bar: two of them share one, the same way every time'],
  ['Nine Gates', 'cello down', '9/8 3/8=88 D clef=bass', 'D,2E, F,2G, A,3|B,A,G, F,2E, D,3|D,2E, F,2G, A,2B,|A,3 A,,3 D,3|',
    ['DUD-U|DUDUDU|DUDUDU|DUD', 'D-UDU|DUDUDU|DUDUDU|DUD', 'DUDhU|DUDUDU|DUDUDU|DUD'], 'jig',
    'A nine-eight bar of five strokes lends two to one bow; six strokes come out by themselves'],
  ['Hobnail Polka', 'viola down', '2/4 1/4=116 G clef=alto', '|:GABc|d2BG|A2c2|BAGD|GABc|d2ec|BGAF|G4:|',
    ['DUDU|DU-|DU|DUDU|DUDU|DU-|DUDU|D', 'DUDU|DUh|DU|DUDU|DUDU|DUh|DUDU|D', 'DUDU|DU-|DU|DUDU|DUDU|DU-|DUD-|U', 'DUDU|DU-|DU|DUDU|DUDU|DU-|DUD-|U'], 'polka',
    'A quarter and two eighths are two bows; the last bar is one stroke, and the repeat asks for a lift or an even ending'],
  ['Miller without Shoes', 'violin down', '4/4 1/2=92 D', '|:d2fd Adfd|e2ge ceAc|dcBA BAGF|E2FE DFAc:|',
    ['DU-DUDU|DU-DUDU|DUDUDUDU|DU-DUDU', 'DUDUDU-|DUDUDU-|DUDUDUDU|DUDUDU-', 'DUDUD-U|DUDUD-U|DUDUDUDU|DUDUD-U', 'DUD-UDU|DUD-UDU|DUDUDUDU|DUD-UDU'], 'reel',
    'Seven notes turn the bow: the two eighths after the quarter, or two at the end of the bar, share one'],
  ['Tide Clock Hornpipe', 'violin down', '4/4 1/4=138 A', 'E>F|A>cB>A F>AE>F|A>ce>c (3dcB A>F|E>FA>B c>AB>c|A2A2A2|',
    ['Uh|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD', 'U-|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD', 'Uh|DUDUDUDU|DUDUDU-DU|DUDUDUDU|DUD', 'U-|DUDUDUDU|DUDUDU-DU|DUDUDUDU|DUD', 'DU|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD', 'DU|DUDUDUDU|DUDUDU-DU|DUDUDUDU|DUD'], 'hornpipe',
    'Swinging pairs go separate; of the triplet two notes share a bow so that it counts as a pair'],
  ['Cellar Stair', 'bass down', '4/4 1/4=96 D clef=bass', 'D,2F,2A,2F,2|G,2E,2A,4|B,2G,2E,C,A,,2|D,6z2|D,2F,2A,2F,2|G,2A,2D,4|',
    ['DUDU|DUD|UDUDU|D|^DUDU|DUD', 'DUDU|DU-|DUD-U|D|^DUDU|DUD', 'DUDU|DUh|DUD-U|D|^DUDU|DUD', 'DUDU|D-U|DUD-U|D|^DUDU|DUD', 'DUDU|DhU|DUD-U|D|^DUDU|DUD'], 'long-note',
    'Odd bars answer one another, so the bow comes back down by itself; the rest gives the lift'],
  ['Pushcart', 'violin down', '4/4 1/4=112 G', 'G d2 B2 d3|A c2 e2 c3|G d2 B2 A2 F|G4 z4|',
    ['DUDU|DUDU|DUDU-|D', 'DUDU|DUDU|DUDUh|D', 'DUDU|DUDU|DU-DU|D', 'DUDU|DUDU|DUD-U|D', 'DUDU|DUDU|DUDUD|U'], 'syncopation',
    'The pushed notes keep their own bows; the last eighth joins the note before it'],
  ['Two Left Gloves', 'viola down', '2/4 1/4=92 C clef=alto', 'C2EG|c2GE|F2A2|G4|C2EG|c2BA|G2B2|c4|',
    ['DU-|DU-|DU|D|^DU-|DU-|DU|D', 'DU-|DU-|DU|D|UD-|DU-|DU|D', 'DUh|DUh|DU|D|^DUh|DUh|DU|D', 'DU-|DU-|D-|U|DU-|DU-|DU|D', 'DU-|DU-|DU|D|UD-|UD-|UD|U'], 'march',
    'A quarter and two eighths are two bows; the half note turns the bow, and the phrase end gives a lift'],
  ['Kiln Yard', 'cello down', '6/8 3/8=92 G clef=bass', 'D,|G,3 B,2A,|G,2E, D,2D,|E,2G, F,2A,|G,3-G,2D,|G,3 B,2C|D2B, A,2G,|F,2D, E,F,|G,3-G,2|',
    ['U|DUD|UDUD|UDUD|UD|UDU|DUDU|DUDU|D', 'U|DU-|DUDU|DUDU|DU|DU-|DUDU|DUDU|D', 'U|DUh|DUDU|DUDU|DU|DUh|DUDU|DUDU|D', 'U|D-U|DUDU|DUDU|DU|D-U|DUDU|DUDU|D'], 'jig',
    'A dotted quarter, then the long-short pair on one up: every bar begins down and the pickups come up'],
  ['Five Spoons', 'viola down', '5/8 1/8=200 D clef=alto', 'D2E F2|GFE D2|A2G F2|E2A D2|',
    ['D-U|DUDU|D-U|D-U', 'DhU|DUDU|DhU|DhU', 'DU-|DUDU|DU-|DU-'], 'uneven',
    'Three and two: the quarter with its eighth on one bow, so that the bar has an even number of strokes'],
  ['Seven Sleepers', 'violin down', '7/8 1/8=210 Em', 'E2G B2A2|G2F E2D2|E2G B2d2|B2A GFE2|',
    ['DUDU|DUDU|DUDU|DUDUD', 'DUDU|DUDU|DUDU|DUDU-', 'DUDU|DUDU|DUDU|DUD-U', 'DUDU|DUDU|DUDU|D-UDU'], 'uneven',
    'Four strokes a bar bring the first beat down by themselves; the last bar may end up or be mended'],
  ['Rope and Bucket', 'violin down', '3/4 1/4=104 D', 'A2|d4f2|e4c2|B2c2d2|A4A2|d4f2|g2f2e2|d2c2B2|d4|',
    ['U|DU|DU|DU-|DU|DU|DU-|DU-|D', 'U|DU|DU|DUh|DU|DU|DUh|DUh|D', 'U|DU|DU|D-U|DU|DU|D-U|D-U|D'], 'waltz',
    'An up for the pickup; half and quarter are two strokes; three quarters take two'],
  ['Ash Bucket', 'bass down', '2/4 1/4=88 G clef=bass', 'G,2D,2|B,,2G,,2|C,2E,C,|D,2D,,2|G,2D,2|B,,2D,2|C,D,E,F,|G,4|',
    ['DU|DU|DU-|DU|DU|DU|DUDU|D', 'DU|DU|DUh|DU|DU|DU|DUDU|D', 'DU|DU|D-U|DU|DU|DU|DUDU|D'], 'march',
    'Quarters come out; the bar of three puts its two eighths on one up'],
  ['Hearth and Hook', 'cello down', '3/4 1/4=96 G clef=bass', 'G,3A,B,2|D,3E,F,2|G,2F,2E,2|D,6|G,3A,B,2|C3B,A,2|G,2A,2F,2|G,6|',
    ['D-U|D-U|DUD|U|D-U|D-U|DU-|D', 'DhU|DhU|DUD|U|DhU|DhU|DU-|D', 'D-U|D-U|DU-|D|^D-U|D-U|DU-|D', 'DU-|DU-|DUD|U|DU-|DU-|DU-|D', 'DU-|DU-|DU-|D|^DU-|DU-|DU-|D', 'DhU|DhU|DUD|U|DhU|DhU|DUh|D'], 'dotted',
    'The dotted quarter takes its eighth along; the long note that ends the phrase may come up'],
  ['Second Kettle', 'violin down', '4/4 1/4=120 C', 'c2 ec G2 z2|A2 cA F2 z2|G2 AB c2 d2|c4 z4|',
    ['DUDU|^DUDU|DUDUD|^D', 'DUDU|DUDU|DU-DU|D', 'DUDU|^DUDU|DU-DU|D', 'DUDU|DUDU|DUhDU|D', 'DUDU|DUDU|DUDU-|D', 'DUDU|DUDU|DUDUD|U'], 'rest',
    'Four strokes a bar; the bar of five slurs its eighths'],
  // schools that leave it as it comes
  ['Gorse Lane', 'violin as-it-comes', '6/8 3/8=104 D', 'A|d2f edc|B2d A2F|GAB A2F|E3 E2A|d2f edc|B2d A2F|G2E C2E|D3-D2|',
    'U|DUDUD|UDUD|UDUDU|DUD|UDUDU|DUDU|DUDU|D', 'as-it-comes', 'One bow a note after an up pickup, whatever comes of it'],
  ['Slate Roof', 'cello as-it-comes', '4/4 1/4=100 C clef=bass', 'C,2E,2G,2E,2|F,D,(E,F,) G,4|A,2G,2F,E,D,2|C,8|',
    'DUDU|DUD-U|DUDUD|U', 'as-it-comes', 'The tune has one slur of its own, which is one stroke'],
  ['Empty Pail', 'bass as-it-comes', '3/4 1/4=120 F clef=bass', 'F,2A,2C2|F,4z2|B,,2D,2F,2|C,4z2|', 'DUD|U|DUD|U', 'as-it-comes', 'A rest does not turn the bow: it goes on as it comes'],
  ['Mop and Broom', 'viola separate', '4/4 1/4=80 D clef=alto', 'D2E2F2G2|A4A4|B2A2G2F2|E8|D2E2F2G2|A4F4|E2F2E2C2|D8|',
    'DUDU|DU|DUDU|D|UDUD|UD|UDUD|U', 'long-note', 'For a beginner every note has its own bow, in turn'],
  ['First Porridge', 'violin separate', '3/4 1/4=88 A', 'A2A2c2|e4z2|e2d2c2|B4z2|', ['DUD|U|DUD|U', 'DUD|U|DUD|U'], 'rest', 'In turn: nothing needs mending, each line starts down'],
  ['Warm Bench', 'cello separate', '2/4 1/4=72 G clef=bass', 'G,2G,2|A,2B,2|G,4|z4|D,2E,2|F,2D,2|G,4|', ['DU|DU|D||^DU|DU|D', 'DU|DU|D||UD|UD|U'], 'rest', 'A whole bar of rest sets the bow anew'],
  // by syllable
  ['Bread Song', 'violin syllable', '4/4 1/4=88 G', 'G2A2B2G2|A2BA G4|B2c2d2B2|A2GA G4|\nw: Bring the bread and but-ter_ home, lay the cloth and light the_ lamp.',
    'DUDU|DU-D|UDUD|UD-U', 'syllable', 'One bow a syllable; seven a line turn the bow, and the words do not mind'],
  ['Heron Hymn', 'cello syllable', '3/4 1/4=80 D clef=bass', 'A,2|D,2F,2A,2|B,2A,4|G,2F,E,D,2|E,4A,2|D,2F,2A,2|B,CD4|C2E2C2|D4|\nw: A grey bird on the wa-ter stands and_ still, he waits for the night_ to come with its moon.',
    'U|DUD|UD|UDU-|DU|DUD|U-D|UDU|D', 'syllable', 'A melisma is one bow'],
  ['Tin Cup Round', 'viola syllable', '2/4 1/4=96 C clef=alto', 'C2E2|GFE2|D2F2|E2z2|G2c2|BAG2|F2D2|C2z2|\nw: Fill it to_ brim, pass it on; one for me_ and one for you.',
    ['DU|D-U|DU|D|^DU|D-U|DU|D', 'DU|D-U|DU|D|UD|U-D|UD|U'], 'syllable', 'A syllable a bow; the rest after the line sets the bow anew, or not'],
  // groove patterns
  ['Pinewood Reel', 'violin pattern=1_3', '4/4 1/2=84 D', 'dfAf dfAf|egce egce|dfAf defg|agfe d4|', ['DU--DU--|DU--DU--|DU--DU--|DU--D', 'DU--DU--|DU--DU--|DU--DU--|DU-D-'], 'pattern', 'One and three: two strokes to each half bar'],
  ['Sawdust', 'viola pattern=2_1_1', '4/4 1/4=126 G clef=alto', 'GABG AGED|GABG A2D2|EGAB cBAG|FADF G4|', ['D-UDU-DU|D-UDUD|U-DUD-UD|U-DUD', 'D-UDU-DU|D-UDUD|UDUDU-DU|D-UDU', 'D-UDU-DU|DUDUDU|D-UDU-DU|D-UDU', 'D-UDU-DU|D-UDUD|U-DUD-UD|U-DUD'], 'pattern', 'Two slurred, two separate: six strokes a bar; two quarters stand for what they cover'],
  ['Even Furrow', 'cello pattern=2_2', '4/4 1/4=120 D clef=bass', 'D,E,F,G, A,F,D,F,|G,F,E,D, C,E,A,,C,|D,2F,A, B,A,G,F,|E,C,A,,C, D,4|', ['D-U-D-U-|D-U-D-U-|DU-D-U-|D-U-D'], 'pattern', 'Pairs: four strokes a bar; a quarter stands for a pair'],
  ['Cross Furrow', 'violin pattern=1_2_1', '4/4 1/2=80 A', 'A2ce fece|dcBA Bcde|f2ed cABc|A2AB A4|', ['DUDUD-U|DU-DUD-U|DUDUD-U|DUDU', 'DUDUD-U|DU-DUD-U|DUDUD-U|DU-D'], 'pattern', 'The slur lies over the half beat; after a quarter the two others stay apart'],
  ['Rolling Stile', 'violin pattern=3', '6/8 3/8=110 G', 'GBd gdB|cea gfe|dBG ABc|BAF G3|', ['D--U--|D--U--|D--U--|D--U'], 'pattern', 'A group of the jig to each bow'],
  ['Hen Run', 'violin pattern=2_1', '6/8 3/8=104 D', 'dfa agf|ecA ABc|d2A BAF|E2A D3|', ['D-UD-U|D-UD-U|DUD-U|DUD', 'D-UD-U|D-UD-U|DUD-U|DUD'], 'pattern', 'Two and one: the quarter stands for the pair'],
  // airs
  ['Low Meadow', 'violin phrase', '3/4 1/4=66 G', 'D2|G3AB2|d4B2|A3GE2|D4D2|G3AB2|d4e2|B2A2F2|G4|', ['U|D--|U-|D--|UD|U--|D-|U--|D', 'U|D--|U-|D--|U-|D--|U-|D--|U', 'U|D--|U-|D--|Uh|D--|U-|D--|U', 'U|D--|U-|D--|Uh|D--|U-|D-U|D', 'U|D--|U-|D--|UD|U--|D-|D--|U'], 'air', 'A bar to a bow is 2.7 s, which sings; the last note can die away'],
  ['Grey Causeway', 'viola phrase', '4/4 1/4=56 D clef=alto', 'D3EF2A2|G3FE4|F3GA2d2|B2A2A4|', ['D-U-|D-U|D-U-|D-U', 'D-U-|D-U|D-U-|D-U'], 'air', 'A bar is 4.3 s, too long for one bow: half bars'],
  ['Bell over Marsh', 'cello phrase', '6/8 3/8=44 G clef=bass', 'G,2A, B,2D|C2B, A,3|B,2G, A,2F,|G,3-G,3|', ['D-U-|D-U|D-U-|D', 'D---|U--|D---|U'], 'air', 'A bar lasts 2.7 s; on the cello half bars sing, and the whole bar is the most'],
  ['Wide Slow River', 'bass phrase', '4/4 1/4=60 G clef=bass', 'G,2B,2D2B,2|A,2F,2D,4|E,2G,2C,2E,2|D,4G,,4|', ['D-U-|D-U|D-U-|DU'], 'air', 'Two beats, two seconds, are what the thick strings bear'],
  // held back
  ['Copper Kettle Drum', 'violin down', '2/4 1/4=112 G', 'D|G2Bd|g>f d2|e2c2|d3D|G2Bd|g>f d2|c2A2|G3|',
    ['U|DU-|DhU|DU|DU|DU-|DhU|DU|D', 'U|DU-|D-U|DU|DU|DU-|D-U|DU|D', 'U|DUh|DhU|DU|DU|DUh|DhU|DU|D'], 'march', 'Two strokes to each bar, the dotted pair on one of them'],
  ['Skylight Waltz', 'viola down', '3/4 1/4=120 F clef=alto', 'F2A2c2|d4c2|B2A2G2|A4z2|F2A2c2|d4B2|A2G2E2|F4z2|',
    ['DU-|DU|DU-|D|^DU-|DU|DU-|D', 'DUh|DU|DUh|D|^DUh|DU|DUh|D', 'DU-|DU|DUD|U|DU-|DU|DU-|D'], 'waltz', 'Down, up, up; the rest gives the lift for the second phrase'],
  ['Crow Counting', 'violin down', '6/8 3/8=104 A', 'E|A2c ecA|d2f ecA|B2c d2B|G2E E2E|A2c ecA|d2f ecA|BcB G2E|A3-A2|',
    ['U|DUD-U|DUD-U|DUDU|DUDU|DUD-U|DUD-U|DUDU-|D', 'U|D-UDU|D-UDU|DUDU|DUDU|D-UDU|D-UDU|DUDU-|D', 'U|DUDU-|DUDU-|DUDU|DUDU|DUDU-|DUDU-|DUDU-|D', 'U|DUD-U|DUD-U|DUDU|DUDU|DUD-U|DUD-U|DUD-U|D'], 'jig', 'Five-note bars lend one note to its neighbour, the same way each time'],
  ['Granary Steps', 'cello down', '4/4 1/4=100 G clef=bass', 'G,,2B,,2D,2B,,2|C,2E,C, A,,2C,2|D,2F,2A,F,D,2|G,,4G,4|',
    ['DUDU|DU-DU|DUD-U|DU', 'DUDU|DUhDU|DUDhU|DU', 'DUDU|DU-DU|DUDU-|DU'], 'reel', 'Bars of five slur their two eighths'],
  ['Stairwell Shuffle', 'bass down', '4/4 1/4=104 A clef=bass', 'A,,C,2E,2C,2A,,|D,2F,2A,2F,2|E,2G,2B,2G,2|A,4z4|',
    ['DUDU-|DUDU|DUDU|D', 'DUDUh|DUDU|DUDU|D'], 'syncopation', 'The spare last eighth joins the up'],
  ['Thistle Hornpipe', 'viola down', '4/4 1/4=132 G clef=alto', 'D>E|G>BA>G E>GD>E|G>Bd>B (3cBA G>E|D>EG>A B>GA>F|G2B2G2|',
    ['Uh|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD', 'U-|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD', 'Uh|DUDUDUDU|DUDUDU-DU|DUDUDUDU|DUD', 'DU|DUDUDUDU|DUDUD-UDU|DUDUDUDU|DUD'], 'hornpipe', 'The triplet stands for a pair: two of its notes share a bow'],
  ['Eel Weir', 'cello as-it-comes', '3/4 1/4=108 G clef=bass', 'D,2|G,2B,2D2|C2A,4|B,2G,2E,2|D,4D,2|G,2A,2B,2|C2D2E2|D2F,2A,2|G,4|', 'U|DUD|UD|UDU|DU|DUD|UDU|DUD|U', 'as-it-comes', 'As it comes'],
  ['Button Song', 'violin syllable', '6/8 3/8=72 D', 'A|d2e f2d|e2c A2A|B2d cBA|d3-d2|\nw: Sew the but-ton on a shirt and so count_ the_ last stitch.', 'U|DUDU|DUDU|D-U-D|U', 'syllable', 'Each syllable a bow'],
  ['Brick Path', 'viola pattern=1_3', '4/4 1/4=120 C clef=alto', 'CEGE CEGE|DFAF DFAF|EGcG EGcG|DGBG c4|', ['DU--DU--|DU--DU--|DU--DU--|DU--D'], 'pattern', 'One and three'],
  ['Cobble Reel', 'cello pattern=2_1_1', '4/4 1/4=112 G clef=bass', 'G,B,DB, G,2B,D|CEDC B,2G,B,|A,CB,A, G,A,B,G,|F,A,D,F, G,4|', ['D-UDUDU|D-UDUDU|D-UDU-DU|D-UDU'], 'pattern', 'A quarter stands for the slurred pair: six strokes a bar'],
  ['Half Moon Air', 'viola phrase', '3/4 1/4=58 G clef=alto', 'G3AB2|c2B2A2|B3GE2|D6|G3AB2|c2d2e2|d2B2A2|G6|', ['D--|U--|D--|U|D--|U--|D--|U', 'D--|U--|D--|U|D--|U--|D-U|D', 'D--|U--|D--|U|D--|U--|DU-|D'], 'air', 'A bar of three seconds to a bow'],
  ['Slow Plough', 'cello phrase', '4/4 1/4=52 D clef=bass', 'D,3E,F,2A,2|G,4E,4|F,3G,A,2D2|C2A,2D,4|', ['D-U-|DU|D-U-|D-U'], 'air', 'Half bars of 2.3 s'],
  ['Plain Loaf', 'bass separate', '4/4 1/4=84 G clef=bass', 'G,2G,2D,2D,2|G,,4D,4|E,2D,2C,2B,,2|G,,8|', 'DUDU|DU|DUDU|D', 'separate', 'Every note its own bow'],
  ['Uneven Kettle', 'violin down', '7/8 1/8=220 D', 'D2F2AGF|G2B2AGF|E2G2Bcd|A2F2D3|',
    ['DUDU-|DUDU-|DUDU-|DUD', 'DUD-U|DUD-U|DUD-U|DUD', 'DUDU-|DUDU-|DUDU-|D-U', 'DUD-U|DUD-U|DUD-U|D-U'], 'uneven',
    'Two, two and three: the spare note is taken in within the three, so that every beat has its stroke'],
  ['Three and Four', 'viola down', '7/8 1/8=200 G clef=alto', 'GABd2B2|cBAG2D2|EFGA2B2|G3G4|', ['D-UDU|D-UDU|D-UDU|DU', 'DU-DU|DU-DU|DU-DU|DU'], 'uneven', 'The three comes first: two of its notes share a bow, the same way every time'],
  ['Dancing Bear', 'viola down', '2/4 1/4=112 D clef=alto', 'A2FA|d2AF|(3GABAG|F2D2|', ['DU-|DU-|D-UDU|DU', 'DUh|DUh|D-UDU|DU', 'DU-|DU-|DU-DU|DU', 'DUh|DUh|DU-DU|DU'], 'march', 'The eighths of a quarter bar on one up; the triplet counts as a pair'],
  ['Low Tide', 'cello down', '3/4 1/4=112 G clef=bass', 'D,2|G,4B,2|A,4D,2|B,2A,2G,2|F,4D,2|G,4|', ['U|DU|DU|DU-|DU|D', 'U|DU|DU|DUh|DU|D', 'U|DU|DU|D-U|DU|D'], 'waltz', 'Half and quarter are two strokes, so the three quarters take two as well'],
  ['Long Pier', 'cello phrase', '3/4 1/4=60 D clef=bass', 'D,4E,2|F,2G,2A,2|B,4A,2|A,6|', ['D-|U--|D-|U'], 'air', 'A bar of three seconds to a bow'],
  ['Snap the Twig', 'violin down', '4/4 1/4=116 A', 'A<Ac>Ae<cA2|d<df>de4|c<ea>ef<dB2|A<Ac>AA4|',
    ['DUDhUDU|DUDhU|DUDhUDU|DUDUD', 'DUDhUDU|DUDhU|DUDhUDU|DUDhU', 'DhUDUDU|DhUDU|DhUDUDU|DUDUD', 'DhUDUDU|DhUDU|DhUDUDU|DhUDU', 'DUD-UDU|DUD-U|DUD-UDU|DUDUD', 'DUD-UDU|DUD-U|DUD-UDU|DUD-U', 'DUDUD-U|DUD-U|DUDUD-U|DUDUD'], 'hornpipe',
    'Odd bars of snaps and dotted pairs: one pair stays on its bow, the same one in every bar, so that the first beat comes down'],
] // prettier-ignore

/** From here on the rows are held back. */
const FIRST_HELD = 'Copper Kettle Drum'

export const OWN_BOWINGS: readonly BowGolden[] = ROWS.map(
  ([name, where, head, music, want, rule, why], i) => {
    const [instrument, school, pattern] = where.split(/[ =]/)
    const [metre, tempo, ...key] = head.split(' ')
    const [first, ...also] = typeof want === 'string' ? [want] : want
    return {
      name,
      instrument: instrument as InstrumentId,
      school: school as BowSchool,
      ...(pattern && { pattern: pattern.replaceAll('_', ' ') }),
      metre: metre!,
      tempo: tempo!,
      key: key.join(' '),
      music,
      want: first!,
      also,
      rule,
      why,
      ...(i >= ROWS.findIndex(r => r[0] === FIRST_HELD) && { held: true as const }),
    }
  },
)
