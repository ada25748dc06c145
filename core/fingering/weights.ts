/**
 * What the fingering solver weighs, in one table. The unit is "an ordinary nuisance": one is about a plain
 * shift. Every figure has its musical reason beside it.
 */
export const WEIGHTS = {
  /**
   * A move of the hand by itself, however small: aim, release, settle. Dominates distance: fewer, larger
   * moves beat many small ones.
   */
  shift: 0.912,
  /** Per decimetre of travel: of two moves the nearer one, whatever finger lands. */
  shiftDistance: 0.186,
  /**
   * Per 400 mm/s of hand speed beyond the first 400, which is a comfortable pace: what breaks first at tempo.
   */
  shiftSpeed: 0.136,
  /**
   * The least time a hand needs is more than there is: the shift breaks in this tempo, and crossing strings
   * instead does not.
   */
  shiftBreaks: 2.5,
  /** A slide under a slur is heard. */
  shiftSlurred: 1.159,
  /** The same finger slides to a new place: fine when slow, smeared when quick. */
  sameFinger: 0.132,
  sameFingerQuick: 0.747,
  /** On the bass a half step has two fingers: one that slides it in tempo smears. */
  sameFingerLow: 0.5,
  /** But from first finger to first finger the hand knows its way. */
  firstFinger: -0.046,
  /**
   * The ear hides a shift on a half step, on a strong beat; the hand has all the time of a rest or an open
   * string.
   */
  halfStepShift: 0.003,
  strongBeatShift: -0.082,
  restShift: 0.5,
  openShift: 0.529,
  /** Going up, the hand lands on another finger than the first. */
  landing: 0.22,
  /** Going down, it leaves from another finger than the first: the fingers below were not used. */
  leaving: 0.282,
  /** Share of how hard a place is to find that half a second there costs, and that finding it costs once. */
  stay: 0.548,
  arrival: 0.866,
  /** The laid thumb moves as a whole; away from the octave it has no landmark. */
  thumbMove: 0.5,
  thumbLaid: 0.675,
  thumbAway: 0.2,
  thumbBelow: 0.2,
  thumbLower: 0.175,
  thumbBass: 0.8,
  /** Home again: the hand knows the way. */
  homing: -0.025,
  /** Nobody asked for a harmonic, and the hand would travel for it. */
  harmonicFetched: 1.5,
  /**
   * Nobody asked for a harmonic, and the next string has the note at home: a harmonic crowns a line on the
   * highest string.
   */
  harmonicBelow: 0.6,
  /** The note is marked as a harmonic, and pressed. */
  harmonicMarked: 6,
  /**
   * Share of the trust in landing and leaving that remains on cello and bass, where the hand moves as one.
   */
  solidHand: 0.448,
  /** An octave on two strings by other fingers than first and fourth. */
  octaveFrame: 1.5,
  /** Each note elsewhere than where its phrase lies whole: at home, in one position, under the thumb. */
  needless: 0.15,
  /** The hand moves out of the place that holds the whole phrase, or back into it. */
  needlessShift: 0.6,
  /** The hand begins away from home; and each semitone further. */
  startAway: 0.55,
  startHalf: 0.361,
  /** Violin and viola: in quick notes the first finger reaches back, and the hand does not go with it. */
  halfQuick: 0.65,
  halfShift: 0.8,
  startFar: 0.094,
  /** The bow goes to a neighbouring string; more when notes are quick; more again under a slur. */
  crossing: 0.192,
  crossingQuick: 0.268,
  crossingSlurred: 1.544,
  /** The line turns there, so that the bow must come right back. */
  crossingBack: 0.16,
  /**
   * Share of it where the line leaps a fifth or more: broken chords lie across the strings, where they ring.
   */
  crossingLeap: 0.6,
  /**
   * And on cello and bass, where no fourth finger has the open string's note at home, to an open string and
   * back: it is the pivot of the figure.
   */
  crossingPivot: 0.7,
  /**
   * On violin and viola, between two fingers that stay down, over and back: the bow rocks on a chord that is
   * held.
   */
  crossingHeld: 0.8,
  /** A string is skipped. */
  skip: 0.536,
  /**
   * One finger jumps to the neighbouring string at another place; a block (same place, one finger over two
   * strings) is laid in advance.
   */
  hop: 0.75,
  hopQuick: 0.8,
  block: 0.048,
  /** A finger slides by a semitone or a tone within the hand. */
  slide: 0.014,
  slideQuick: 0.168,
  /** Under a slur the slide is heard. */
  slideSlurred: 0.35,
  /**
   * A half-step neighbour and back leans; in a chromatic run a finger that slides smears where one move of
   * the hand would do.
   */
  slideNeighbour: 0.3,
  slideRun: 1,
  /** A run goes hand after hand: up, each begins with its first finger; down, each ends with it. */
  runHand: 0.6,
  /** And a new hand falls on a beat. */
  runBeat: -0.25,
  closeInRun: 0.05,
  openInRun: 0.6,
  /** On cello and bass every half step has a finger of its own: sliding one is a makeshift. */
  slideLow: 0.5,
  /** Fingers further apart, or closer, than they stand in one hand. */
  stretch: 1.5,
  /** Violin and viola: two notes whose fingers do not stand for their letters, as in a chromatic run. */
  letters: 0.259,
  /** Violin and viola: a note that is another finger's by its letter in this position. */
  otherLetter: 0.33,
  /**
   * Per semitone far up a lower string, on the bass, whose thick strings speak late there, more; and the
   * thumb on the string.
   */
  farUp: 0.067,
  farUpBass: 0.054,
  thumb: 0.077,
  /**
   * A cello hand opens with the first finger as its hinge, or with the upper fingers already down, which
   * moves the thumb.
   */
  openHand: 0.269,
  openHandLate: 0.638,
  /** Second, third and fourth finger further apart than half steps, or closer: no hand does. */
  torn: 4,
  closeHand: 0.45,
  closeBack: 0.243,
  /** A shift that arrives in an open hand on another finger than the first. */
  arriveOpen: 0.9,
  /** The same note comes again right after the next, and its finger can stay down for it. */
  holdKept: -0.05,
  /** Each note in an open hand, by school: rather shift, or rather reach. */
  openHandShift: 2.5,
  openHandExtend: -0.18,
  /** Each note in an open hand away from first position, where it is learned late. */
  openHandAway: 0.046,
  /**
   * The same note is fingered otherwise nearby: open here and stopped there, at another place in this phrase,
   * or in a phrase that is kin.
   */
  openInPhrase: 0.2,
  otherInPhrase: 0.1,
  otherInKin: 0.3,
  /** Another finger or string for the note just played. */
  substitution: 1.3,
  /** A note held under a melody changes its string or finger, and so is let go. */
  heldMoved: 6,
  /** Share of a finger's cost that a repeated note does not pay again: the finger is down already. */
  repeated: 0.75,
  /** Third and fourth finger in turn, quickly. */
  weakPair: 0.011,
  /** A long tone on an open string cannot be warmed: it is left as it lies, or rather stopped, by school. */
  sustainedOpen: 0.076,
  sustainedStopped: 1.2,
  /** A wished sound: each semitone from where the string sounds so, and an open string. */
  soundStep: 0.3,
  soundOpen: 0.6,
  /** An open string while the hand lies away from home: it is for getting there and back. */
  openAway: 0.25,
  openAwayLow: 0.1,
  /** School "open first". */
  openFirst: -1.6,
  /** School "by cost": an open string whose string nobody else needs here. */
  openAlone: -0.059,
  /** School "fourth": where 4 lies in the frame, and where it must be fetched by a shift. */
  openFourth: 2,
  openFourthAlone: 4,
  openFourthShared: 0.2,
} as const

/** Seconds: longer tones are sustained. */
export const SUSTAINED = 1.5

/** Seconds: a tone this long, or longer, away from home counts whole. */
export const LASTING = 0.5

/** Millimetres a second at which a hand travels in comfort. */
export const COMFORTABLE = 400
