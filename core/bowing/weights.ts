/**
 * The one table of weights of the bow, each with its reason. A unit is about what a teacher gives for one
 * added slur.
 */
export const WEIGHTS = {
  /** A first beat that comes up, under a school that wants it down: worth mending with almost anything. */
  upOnFirst: 3.4,
  /** Where one of two times through must come up, rather a later one: the first is what is practised. */
  laterTime: 0.8,
  /** A secondary strong beat up: a wish, no more. */
  upOnSecond: 0.12,
  /**
   * A line that starts the wrong way (up, or down on a pickup): dearer than a lift that pins force, so that
   * what comes before a pin stays.
   */
  wrongStart: 70,
  /** A pickup of several notes that begins down. */
  downPickup: 1.2,
  /** The last stroke of all, or a phrase, begun up. */
  lastUp: 0.5,
  phraseUp: 1.6,
  /** Up against a written direction. */
  againstMark: 12,

  /** A slur that is not written. */
  slur: 1,
  /** It hides the first beat of the next measure; a secondary beat; another beat. */
  slurOverBar: 3.2,
  slurOverSecond: 0.9,
  slurOverBeat: 0.35,
  /** The first beat is dulled when its note shares the bow. */
  slurFromFirst: 0.2,
  /** A long note takes its short one along, within a beat: what a player does unasked. */
  slurLongShort: -0.4,
  /** Two equal short notes of one beat. */
  slurEqual: -0.2,
  /** A short note slurred into a longer one lames the longer. */
  slurShortLong: 0.55,
  /** A pushed note keeps its own bow. */
  slurPushed: 1,
  /** Two notes of one pitch in one bow are heard as one. */
  slurSamePitch: 4,
  /** The bow has to cross, or skip, inside the slur. */
  slurCrossing: 0.3,
  slurSkip: 1.2,
  /** The end of a phrase should be heard. */
  slurOverPhrase: 2.5,
  /** Two of a triplet share a bow, so that it counts as a pair. */
  slurTriplet: -0.9,
  /** The short notes are slurred, not the long ones beside them: those bear the beat. */
  slurLonger: 0.5,
  /** A leap of an octave and more is no slur. */
  slurOctave: 1.5,
  /** Beyond a fifth the bow hardly stays quiet. */
  slurWide: 0.4,
  /** A slur of the tune made longer; two of them made one. */
  slurOntoWritten: 0.6,
  slurMerges: 4,
  /** Where a triplet of the tune lies in one bow, all of them do. */
  slurTripletAlike: -1.6,
  /** A slur that begins on a secondary beat dulls it a little. */
  slurFromSecond: 0.25,
  /** A measure's spare note is joined late in it, where the stroke before is done. */
  slurEarly: 0.12,
  /** More than two notes to an added slur. */
  slurMore: 0.55,
  /** A mend that differs from that of the measures with the same rhythm. */
  otherMend: 0.4,
  /** A phrase that begins otherwise than the one it is kin to. */
  otherBegin: 0.9,

  /** A hooked bow. */
  hook: 1.3,
  /** A dotted pair is hooked by habit. */
  hookDotted: -0.55,
  hookLongShort: -0.2,
  hookEqual: 0.1,
  hookShortLong: 0.6,
  /** Two notes of a pickup in one up bow. */
  hookPickup: -0.5,
  hookOverBar: 2.4,
  hookOverBeat: 0.3,
  hookFast: 0.8,
  /** A breath inside one bow, where a phrase begins. */
  hookAtPhrase: -0.5,

  /** The bow set anew: cheap in a rest, dear without time. */
  lift: 0.5,
  liftNoRest: 3,
  /** At the end of a phrase after a long note a breath is at hand. */
  liftAtPhrase: -1.3,
  liftUp: 0.8,
  /** A lift nobody allowed: only where pins leave no other way. */
  liftForced: 60,
  /**
   * The same between two written directions that do not alternate: such marks mean that the bow is set anew.
   */
  liftMarked: 4,

  /**
   * Parting a written slur; at the very end of a part, where it brings the last note down, it is what a
   * player does.
   */
  part: 1.6,
  partAtEnd: 0.4,
  /** The last note of a part that is repeated comes up. */
  partEndUp: 0.5,
  /** Against the groove: slurring what it parts, parting what it slurs. */
  patternSlur: 2.2,
  patternPart: 1.3,
  /**
   * A rhythm that has its habit, bowed otherwise: more than all first beats to come would ask for. What comes
   * up is then said, with its mends.
   */
  againstHabit: 60,
  /** By the phrase: every bow costs, and so does a turn off the beat. */
  phraseStroke: 0.55,
  phraseTurn: [1.5, 0.75, 0.2, 0] as readonly number[],
  phraseOver: 7,
  phraseJoinBar: 0.45,
  /** A pickup stays apart from the measure it leads into. */
  phraseFromPickup: 2.5,
} as const
