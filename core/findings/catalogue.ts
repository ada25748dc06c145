/**
 * Every finding there is: its code, and the values its sentence is made of. Words for them are in core/words,
 * one file a language.
 */
/** A finding whose place says it all. */
export type None = Readonly<Record<string, never>>

/** A rule for a stretch of the tune, as it is spoken of. */
export type SaidRule =
  | { readonly kind: 'string'; readonly string: string }
  | { readonly kind: 'noOpen' | 'noFourth' | 'position' }
  | { readonly kind: 'places'; readonly school: 'home' | 'position' }
  | { readonly kind: 'sound'; readonly sound: 'clear' | 'round' | 'ringing' | 'covered' }

/** Why a pin can't be met. */
export type PinWhy =
  | { readonly is: 'below' | 'open'; readonly pitch: string }
  | { readonly is: 'level'; readonly level: number }
  | { readonly is: 'notThere'; readonly pitch: string; readonly instrument: string }

export interface Catalogue {
  'abc.empty': None
  'abc.tooLong': { readonly length: number; readonly limit: number }
  'abc.binary': None
  'abc.noNotes': None
  'abc.notAbc': None
  'abc.unreadable': None
  'abc.noKey': None
  'abc.badKey': { readonly key: string }
  'abc.noMetre': None
  'abc.badMetre': { readonly metre: string }
  'abc.syntax': { readonly near?: string; readonly message: string }
  'abc.voices': { readonly taken: number; readonly others: string }
  'abc.overlay': None
  'abc.openSlur': None
  'abc.endSlur': None
  'abc.badEnding': { readonly ending: string }
  'abc.badLength': None
  'abc.decoration': { readonly name: string }
  'abc.keySignature': None
  'abc.tooManyBars': { readonly limit: number }
  'abc.partOrder': { readonly order: string }
  'abc.tempoPlain': { readonly tempo: string }
  'abc.tempoUnread': { readonly tempo: string }
  'abc.tempoChange': None
  'abc.atWritten': { readonly said: string }
  'abc.clefOctave': { readonly said: string; readonly octaves: number }
  'abc.octaveAccidental': { readonly letter: string; readonly counts: boolean }
  'abc.symbol': { readonly symbol: string }
  'abc.wordsLeft': { readonly words: string }
  'abc.microtone': { readonly accidental: string }
  'file.kind': { readonly name: string }
  'file.tooLong': { readonly limit: number }
  'file.noNotes': None
  'file.encoding': { readonly taken: string }
  'file.cut': { readonly what: string; readonly limit: number }
  'file.badValue': { readonly where: string; readonly message: string }
  'file.others': { readonly taken: string; readonly others: string }
  'file.tooManyMeasures': { readonly limit: number }
  'file.openSlur': None
  'file.badLength': None
  'file.rounded': None
  'file.badKey': None
  'file.badMetre': None
  'file.badEnding': None
  'file.overlap': None
  'file.touched': None
  'file.transposed': { readonly by: number }
  'file.notKept': { readonly what: string }
  'file.notCarried': { readonly format: string; readonly what: string }
  'file.protected': None
  'xml.entities': None
  'xml.deep': { readonly limit: number }
  'xml.broken': { readonly message: string }
  'xml.notAScore': { readonly root: string }
  'xml.noPart': { readonly part: number }
  'zip.broken': None
  'zip.noScore': None
  'backup.away': { readonly count: number }
  'backup.versions': { readonly count: number }
  'backup.studio': None
  'midi.broken': { readonly message: string }
  'midi.tooMany': { readonly count: number; readonly limit: number }
  'midi.time': None
  'midi.quantised': { readonly grid: string; readonly furthest: string }
  'midi.moved': { readonly by: string }
  'midi.drums': None
  'midi.tempoChange': None
  'midi.assumedKey': { readonly key: string }
  'midi.assumedMetre': None
  'midi.unended': { readonly count: number }
  'midi.cut': { readonly count: number }
  'midi.held': { readonly count: number }
  'midi.heard': None
  'spoken.unknown': { readonly text: string }
  'spoken.whichString': { readonly text: string }
  'spoken.noString': { readonly text: string; readonly instrument: string }
  'spoken.noFinger': { readonly finger: string; readonly instrument: string }
  'spoken.noHarmonic': { readonly text: string }
  'spoken.badPosition': { readonly text: string }
  'spoken.badField': { readonly value: string; readonly field: string }
  'spoken.nothingToHold': None
  'spoken.unfingered': None
  'spoken.openSlur': None
  'spoken.openTuplet': None
  'spoken.oneString': { readonly text: string }
  'tune.barLong': { readonly length: string; readonly expected: string }
  'tune.barShort': { readonly length: string; readonly expected: string }
  'tune.repeatNotEnded': None
  'tune.repeatNotStarted': None
  'tune.neverPlayed': { readonly from: number; readonly to: number }
  'tune.tieToNothing': None
  'finger.tooLow': { readonly pitch: string; readonly instrument: string; readonly lowest: string }
  'finger.tooHigh': { readonly pitch: string; readonly instrument: string; readonly highest: string }
  'finger.noDoubleStop': { readonly pitches: string; readonly instrument: string }
  'finger.levelReach': { readonly pitch: string; readonly level: number; readonly why: string }
  'finger.pinUnmet': { readonly string: string | null; readonly finger: string | null; readonly why: PinWhy }
  'finger.spanReach': { readonly pitch: string; readonly span: number }
  /** `fits`: the size that would do; empty when none does. */
  'finger.tooBig': { readonly instrument: string; readonly span: number; readonly fits: string }
  'finger.spanNear': { readonly count: number; readonly pitch: string; readonly percent: number }
  'finger.pinsContradict': { readonly rule: SaidRule; readonly pitch: string }
  'finger.ruleGone': { readonly rule: SaidRule }
  'finger.ruleUnmet': { readonly rule: SaidRule; readonly pitch: string }
  'finger.loneNote': { readonly pitch: string; readonly times: number; readonly shifts: number }
  'finger.shiftFast': { readonly mm: number; readonly seconds: string; readonly ceiling: string }
  'bow.hairRunsOut': { readonly end: 'tip' | 'frog'; readonly given: number; readonly wanted: number }
  'bow.otherBow': {
    readonly part: string | null
    readonly first: 'down' | 'up'
    readonly second: 'down' | 'up'
  }
  'bow.pinUnmet': { readonly direction: 'down' | 'up' }
  'bow.wayUnmet': { readonly way: 'hook' | 'lift' | 'turn' }
  'bow.slurOverRest': None
  'bow.firstBeatUp': { readonly pass: number }
  /** `like`: the measure where the phrase it is kin to begins. */
  'bow.kinOtherBow': {
    readonly like: number
    readonly first: 'down' | 'up'
    readonly second: 'down' | 'up'
  }
  'bow.endsUp': None
  'bow.wrongEnd': { readonly end: 'tip' | 'frog'; readonly given: number; readonly wanted: number }
  'bow.fastReturn': { readonly times: number }
  /** `from`: the measure where the bow was last set down. */
  'bow.drifts': { readonly end: 'tip' | 'frog'; readonly cm: number; readonly from: number }
  /** `bows`: how many it takes. */
  'bow.tooLong': { readonly seconds: number; readonly bows: number }
  'bow.slurSkips': None
  'bow.crowded': { readonly notes: number; readonly seconds: number }
  'bow.swings': { readonly strokes: number }
  'bow.sparedCrossing': { readonly string: string }
  'bow.liftNoTime': None
  'bow.accentUpTip': None
  'bow.noPattern': None
  /** Both in units of the pattern. */
  'bow.patternLong': { readonly pattern: number; readonly tune: number }
  'tuning.up': { readonly string: string; readonly percent: number }
  'arrange.rebowed': None
  'arrange.changeLost': { readonly kind: string; readonly why: 'gone' | 'length' | 'all' }
}
