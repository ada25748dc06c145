/**
 * What a version pays for, each weight with its musical reason. One unit is about what a note between the
 * beats is worth. Set on the versions of others named in `goldens/`; a third of those tunes is only read.
 */
export const VERSION_WEIGHTS = {
  /**
   * A note between the beats that is heard no more: what is left may be plainer, but every note less is a
   * little of the tune.
   */
  lostOffbeat: 0.5,
  /** A pushed note that is heard on its beat instead. */
  lostTied: 0.1,
  /** A note on a beat that is heard no more: the beats carry the tune. */
  lostBeat: 1,
  /**
   * A beat takes a note that comes later in the tune: by the weight of the beat, since what stands on a
   * strong beat is heard as the tune.
   */
  later: [0.3, 0.6, 1.4, 1.7],
  /** … where nothing begins: of a dotted pair evened out the short note comes sooner. */
  early: 0.15,
  /** A short note that the tune has not, in the first months: quarters and halves come first. */
  madeShort: 0.6,
  /** … or one that came before and was passed over. */
  earlier: [0.45, 0.9, 1.7, 2],
  /** A rest nobody wrote, where a long note ends on the beat before. */
  rest: 0.4,
  /** A tied note that changes on the way. */
  untied: 2,
  /** A held note struck again. */
  restruck: 0.8,
  /** Another note than any the tune has there, by the weight of the beat. */
  replaced: [1, 1.5, 2.2, 2.6],
  /** The last note of a phrase is its goal: another one there is another ending. */
  goalReplaced: 2,
  /** … and so is one that is left out, though what is left of the beat is the tune's own. */
  endingLost: 0.8,
  /** Each step away from the note it stands for. */
  step: 0.4,
  /** The same letter without its sign is no step away, but contradicts the chord that asked for the sign. */
  signLost: 2.2,
  /** A note foreign to the chord is heard, on a strong beat more. */
  foreign: [0.5, 0.9, 1.4, 1.6],
  /** One note alone an octave away leaps twice: what was meant to be kept is lost. */
  octaveAlone: 2.4,
  /** The peak of a phrase is what a listener waits for; its low point less so. */
  peakLost: 1.3,
  lowLost: 0.3,
  /** A note above the phrase's own peak is a peak in the wrong place. */
  newPeak: 1.4,
  /** The same pitch again where the tune moved on: stuck. */
  stuck: 1.5,
  /** … and on the way into the goal it takes the ending away before it is there. */
  endingTaken: 1.5,
  /** The line goes up where the tune went down. */
  turned: 0.7,
  /** It moves where the tune repeats. */
  wandering: 0.3,
  /** Each half step of a leap beyond a fourth, or beyond what the tune had. */
  wider: 0.22,
  /** Beyond an octave the tune never had. */
  overOctave: 3,
  /** A note that stands for another leads on best by step: each half step beyond a third. */
  apart: 0.05,
  /** The way into the goal by step (7-1, 2-1) is given up. */
  cadenceLeap: 0.9,
  /** A held note in the place of one that is out of reach: calmer than a wrong one. */
  held: 1.1,
  /**
   * … and where a phrase comes to rest on that very note it is a breath, and costs half of what it leaves
   * out.
   */
  breath: 0.1,
  /** Three and more notes of a beat become one: a dance is not reduced to bare beats. */
  bare: 0.6,
  /** A rhythm that is not the tune's own. */
  otherRhythm: 0.12,
  /** Measures of one rhythm are eased alike: for each beat that is not. */
  unlikeKin: 0.7,
  /** A phrase an octave away from its neighbours, and each of its notes. */
  folded: 3,
  foldedNote: 0.12,
  /** What the hand or the bow could not do when it was tried. */
  refused: 6,
} as const

/**
 * By level, 1 first: what short notes cost a learner (running on over the beat, crossing strings, several in
 * a beat). Beyond the list they cost nothing.
 */
export const LOAD = {
  running: [0.8, 0.25, 0.24, 0.04],
  crossing: [0.6, 0.36, 0.3, 0.06],
  crowded: [0.45, 0.06, 0.03, 0],
} as const

/** Thick strings speak late and lie far apart. */
export const HEAVINESS = { violin: 1, viola: 1.1, cello: 1.25, bass: 1.5 } as const

/**
 * By level, 1 first: a phrase that runs on into the next without a long note. A half cadence is where a
 * learner breathes and looks ahead.
 */
export const BREATHLESS = [1, 0.8, 0.3, 0] as const
