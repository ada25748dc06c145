/** The names MusicXML gives to what our model holds: read and written from the same tables. */
import type { Clef, Dynamic, Mark } from '#core/music/tune'

/** Where a mark stands inside <notations>. */
export const MARK_PLACES: readonly (readonly [Mark, group: string, name: string])[] = [
  ['staccato', 'articulations', 'staccato'],
  ['tenuto', 'articulations', 'tenuto'],
  ['accent', 'articulations', 'accent'],
  ['comma', 'articulations', 'breath-mark'],
  ['trill', 'ornaments', 'trill-mark'],
  ['turn', 'ornaments', 'turn'],
  ['mordent', 'ornaments', 'mordent'],
  ['upperMordent', 'ornaments', 'inverted-mordent'],
  ['upbow', 'technical', 'up-bow'],
  ['downbow', 'technical', 'down-bow'],
  ['open', 'technical', 'open-string'],
  ['harmonic', 'technical', 'harmonic'],
]

/** Marks the format has no name for stand as "other-…" with our word. */
export const OTHER_MARKS: readonly (readonly [Mark, group: string, name: string])[] = [
  ['lift', 'articulations', 'other-articulation'],
  ['roll', 'ornaments', 'other-ornament'],
  ['cut', 'ornaments', 'other-ornament'],
  ['slide', 'articulations', 'scoop'],
  ['pizzicato', 'technical', 'other-technical'],
]

export const CLEFS: readonly (readonly [Clef, sign: string, line: number])[] = [
  ['treble', 'G', 2],
  ['alto', 'C', 3],
  ['tenor', 'C', 4],
  ['bass', 'F', 4],
]

export const TYPES: readonly (readonly [name: string, quarters: number])[] = [
  ['breve', 8],
  ['whole', 4],
  ['half', 2],
  ['quarter', 1],
  ['eighth', 0.5],
  ['16th', 0.25],
  ['32nd', 0.125],
  ['64th', 0.0625],
]

/** Chord suffixes as played, with the format's kinds. The first of a kind is the one it is read as. */
export const CHORD_KINDS: readonly (readonly [suffix: string, kind: string])[] = [
  ['', 'major'],
  ['m', 'minor'],
  ['7', 'dominant'],
  ['maj7', 'major-seventh'],
  ['m7', 'minor-seventh'],
  ['dim', 'diminished'],
  ['aug', 'augmented'],
  ['+', 'augmented'],
  ['dim7', 'diminished-seventh'],
  ['m7b5', 'half-diminished'],
  ['6', 'major-sixth'],
  ['m6', 'minor-sixth'],
  ['sus4', 'suspended-fourth'],
  ['sus', 'suspended-fourth'],
  ['sus2', 'suspended-second'],
  ['9', 'dominant-ninth'],
  ['maj9', 'major-ninth'],
  ['m9', 'minor-ninth'],
  ['5', 'power'],
  ['min', 'minor'],
  ['M7', 'major-seventh'],
  ['mmaj7', 'major-minor'],
]

export const DYNAMICS: readonly Dynamic[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff']
/** Elements that are read, or that say nothing about the music itself. */
export const KNOWN_NOTATIONS = new Set([
  'tied',
  'slur',
  'tuplet',
  'ornaments',
  'technical',
  'articulations',
  'fermata',
  'dynamics',
  'slide',
  'glissando',
  'accidental-mark',
])
