/** The one place where findings and their mends become English sentences. */
import { bowEditsWords } from './bow'
import type { Catalogue, PinWhy, SaidRule } from '#core/findings/catalogue'
import type { Finding, FindingCode, Mend } from '#core/findings/finding'
import { keyName } from '#core/music/key'
import { counted, ordinal, timesText } from '#core/counts'
import { capital, measureText, spanText } from './places'

const quarters = (length: string) => `${length} ${length === '1' ? 'quarter' : 'quarters'}`

/** What a teacher calls a rule for a stretch. */
export function ruleWords(rule: SaidRule): string {
  switch (rule.kind) {
    case 'string':
      return `stay on ${rule.string}`
    case 'noOpen':
      return 'no open string'
    case 'noFourth':
      return 'no fourth finger'
    case 'position':
      return 'one position'
    case 'places':
      return rule.school === 'home' ? 'rather first position' : 'kept in one position'
    case 'sound':
      return `a ${rule.sound} sound`
  }
}

function pinWhy(why: PinWhy): string {
  switch (why.is) {
    case 'below':
      return `${why.pitch} lies below the open string`
    case 'open':
      return 'it is the open string'
    case 'level':
      return `no hand position of level ${why.level} has it`
    case 'notThere':
      return `${why.pitch} is not there on this ${why.instrument}`
  }
}

const SENTENCES: { readonly [C in FindingCode]: (v: Catalogue[C]) => string } = {
  'arrange.rebowed': () =>
    'The directions written in the tune belong to its own strokes; this version has others and is bowed anew.',
  'arrange.changeLost': v =>
    v.why === 'all'
      ? 'Nothing would be left of the tune: its last part is played all the same.'
      : v.why === 'gone'
        ? `A change of this arrangement (${v.kind}) is for notes that are not in the tune now; nothing follows it.`
        : `A change of this arrangement (${v.kind}) no longer lasts as long as the notes it stands for; it is left out.`,
  'abc.empty': () => 'There is nothing here yet. Paste or type a tune.',
  'abc.tooLong': v =>
    `The text is ${v.length} characters long; the limit is ${v.limit}. Split the book into smaller files.`,
  'abc.binary': () =>
    'This is not text: a character that no tune holds stands here. Was the file saved as something else?',
  'abc.noNotes': () => 'No notes were found. A tune needs a line of music after its K: field.',
  'abc.notAbc': () =>
    'This reads as words, not as a tune in ABC. A tune begins with fields such as X:1, T:, M: and K:.',
  'abc.unreadable': () => 'The text of this tune is damaged: the reader could make no sense of it.',
  'abc.noKey': () => 'There is no K: field; C major is assumed.',
  'abc.badKey': v => `The key “${v.key}” is not understood. Write it as K:D, K:Edor or K:Bb.`,
  'abc.noMetre': () => 'There is no M: field; 4/4 is assumed.',
  'abc.badMetre': v => `The metre ${v.metre} is not understood; the one before it stays.`,
  'abc.syntax': v => (v.near ? `${v.message} near “${v.near}”.` : `${v.message}.`),
  'abc.voices': v => `There is more than one voice; voice ${v.taken} is taken. Also here: ${v.others}.`,
  'abc.overlay': () => 'A second voice overlaid in the bar is left out.',
  'abc.openSlur': () => 'A slur begins here and never ends.',
  'abc.endSlur': () => 'A slur ends here that never began.',
  'abc.badEnding': v => `The ending “${v.ending}” has no number we can read.`,
  'abc.badLength': () => 'This note has no usable length.',
  'abc.decoration': v => `The mark “${v.name}” is not kept.`,
  'abc.keySignature': () => 'The key signature has alterations of its own; they are written on the notes.',
  'abc.tooManyBars': v => `This tune has more bars than Nokta keeps (${v.limit}); it was not read.`,
  'abc.partOrder': v =>
    `The order of the parts, “${v.order}”, cannot be followed; they are kept as they are written.`,
  'abc.tempoPlain': v => `The tempo ${v.tempo} names no note value: quarter notes are taken.`,
  'abc.tempoUnread': v => `The tempo “${v.tempo}” gives no number that can be read; say one.`,
  'abc.tempoChange': () => 'A change of tempo within the tune is not kept.',
  'abc.atWritten': v => `“${v.said}”: the notes are taken at the pitch that is written.`,
  'abc.clefOctave': v =>
    `“${v.said}”: the notes are taken ${counted(Math.abs(v.octaves), 'octave')} ${v.octaves > 0 ? 'higher' : 'lower'} than their letters, as they sound.`,
  'abc.octaveAccidental': v =>
    v.counts
      ? `The accidental before counts for every ${v.letter} of its bar, in other octaves too, as this version of the standard says.`
      : `The accidental before counts for the ${v.letter} of its own octave alone; write one here too if this note is meant.`,
  'abc.symbol': v => `No note is left on this line for “${v.symbol}”.`,
  'abc.wordsLeft': v => `No note is left on the line above for these words: “${v.words}”.`,
  'abc.microtone': v => `The accidental “${v.accidental}” is not kept; the note is taken at its plain pitch.`,
  'file.kind': v =>
    `Nokta can’t tell what kind of file “${v.name}” is. It reads ABC (.abc), MusicXML (.musicxml, .xml, .mxl), MIDI (.mid), string-and-finger text (.txt) and its own .nokta.json.`,
  'file.tooLong': v =>
    `The file is larger than Nokta takes (${Math.round(Number(v.limit) / 1_000_000)} million characters). Split it.`,
  'file.noNotes': () => 'There are no notes in this file.',
  'file.encoding': v =>
    `The text is not UTF-8 and does not say what it is: it was read as ${v.taken}. Look at its accents.`,
  'file.cut': v => `More than a tune holds: ${v.what}; at most ${v.limit} are kept.`,
  'file.badValue': v => `A value in the file is outside what a tune can hold: ${v.where} (${v.message}).`,
  'file.others': v => `Only ${v.taken} was taken. Also in the file: ${v.others}.`,
  'file.tooManyMeasures': v => `The file has more than ${v.limit} measures; the rest was left out.`,
  'file.openSlur': () => 'A slur begins or ends nowhere; it is left out.',
  'file.badLength': () => 'A note here has no usable length; it is left out.',
  'file.rounded': () => 'A length here is no written value; the nearest one stands.',
  'file.badKey': () => 'A key here is not understood; the one before it stays.',
  'file.badMetre': () => 'A metre here is not understood; the one before it stays.',
  'file.badEnding': () => 'An ending here has no number we can read.',
  'file.overlap': () => 'Notes of this voice overlap; the later one is left out.',
  'file.touched': () =>
    'A harmonic is written where the string is touched: its note is taken as it is written, though another one sounds.',
  'file.transposed': v =>
    `The part sounds ${counted(Math.abs(v.by), 'half step')} ${v.by < 0 ? 'lower' : 'higher'} than it is written: the notes are taken as they are written.`,
  'file.notKept': v => `Not kept: ${v.what}.`,
  'file.notCarried': v => `${v.format} does not carry ${v.what}: only the saved tune does.`,
  'file.protected': () =>
    'The rights in this tune are protected: share or print the file only as far as they allow.',
  'xml.entities': () =>
    'The file declares entities of its own; such files are not read, because they can grow without end.',
  'xml.deep': v => `The file is nested more than ${v.limit} levels deep; no score is.`,
  'xml.broken': v => `The file is not well-formed XML: ${v.message}.`,
  'xml.notAScore': v => `This is XML, but not a MusicXML score: its first element is “${v.root}”.`,
  'xml.noPart': v => `There is no part ${v.part} in this file.`,
  'zip.broken': () => 'The packed file can’t be opened; it is damaged or not a .mxl file.',
  'zip.noScore': () => 'There is no score in the packed file.',
  'backup.away': v =>
    `${v.count === 1 ? 'One tune in the file was' : `${v.count} tunes in the file were`} archived: left out here; “npm run restore” brings them too.`,
  'backup.versions': v =>
    `${v.count} named earlier ${v.count === 1 ? 'version' : 'versions'} in the file: left out here; “npm run restore” brings them too.`,
  'backup.studio': () =>
    'The studio’s own settings in the file are not taken over; “npm run restore” brings them into a new data folder.',
  'midi.broken': v => `This is not a MIDI file we can read: ${v.message}.`,
  'midi.tooMany': v => `The MIDI file has ${v.count} notes; the limit is ${v.limit}.`,
  'midi.time': () => 'This MIDI file counts time in film frames, not in beats; it can’t be written as music.',
  'midi.quantised': v =>
    `Notes were moved to the nearest ${v.grid}; the furthest by ${v.furthest} of a beat.`,
  'midi.moved': v => `This note was moved to the grid by ${v.by} of a beat: look at its rhythm.`,
  'midi.drums': () => 'This track is drums; no tune is in it.',
  'midi.tempoChange': () => 'The tempo changes in the file; the first one is taken.',
  'midi.assumedKey': v => `The file names no key; ${v.key} fits its notes best.`,
  'midi.assumedMetre': () => 'The file names no metre; 4/4 is assumed.',
  'midi.held': v =>
    `Notes that began together and ended apart are held as long as the longest of them, ${timesText(v.count)}.`,
  'midi.unended': v =>
    v.count === 1
      ? 'One note has no end: it is taken to last to the end of its track.'
      : `${v.count} notes have no end: they are taken to last to the end of their track.`,
  'midi.cut': v => `${v.count} notes that sounded into the next one were cut short.`,
  'midi.heard': () =>
    'MIDI holds only what is heard: repeats are written out; slurs, words, chords, fingers and marks stay in the saved tune.',
  'spoken.unknown': v =>
    `“${v.text}” is not understood here. Say a string (A), then fingers 0 to 4; < and > lower and raise them.`,
  'spoken.whichString': v => `Which string is “${v.text}” on? Say the string first, for example A ${v.text}.`,
  'spoken.noString': v => `There is no string “${v.text}” on this ${v.instrument}.`,
  'spoken.noFinger': v => `Finger ${v.finger} is not used in this position of the ${v.instrument}.`,
  'spoken.noHarmonic': v =>
    `There is no natural harmonic where “${v.text}” is touched: it sounds a fourth, a fifth and an octave above the open string.`,
  'spoken.badPosition': v => `There is no position “${v.text}”. Write @half, @1, @3 or @<2.`,
  'spoken.badField': v => `“${v.value}” is not understood as ${v.field}.`,
  'spoken.nothingToHold': () => 'There is no note here to hold on.',
  'spoken.unfingered': () => 'This note has no finger on this instrument; it is a rest in the text.',
  'spoken.openSlur': () => 'A slur bracket has no partner.',
  'spoken.openTuplet': () =>
    'A bracket “{” is never closed: all notes after it are counted as its tuplet. Write “}” after its last note.',
  'spoken.oneString': v => `“${v.text}” asks for two fingers on one string at the same time.`,
  'tune.barLong': v => `This bar is too long: ${quarters(v.length)} instead of ${v.expected}.`,
  'tune.barShort': v => `This bar is too short: ${quarters(v.length)} instead of ${v.expected}.`,
  'tune.repeatNotEnded': () => 'A repeat begins here and is never closed.',
  'tune.repeatNotStarted': () =>
    'A repeat closes here that was not opened; it goes back to the end of the one before.',
  'tune.neverPlayed': v =>
    `${capital(spanText(v.from, v.to))} ${v.from === v.to ? 'is' : 'are'} never played: no repeat, jump or order of parts leads there.`,
  'tune.tieToNothing': () => 'A tie begins here but the next note is another one.',
  'finger.tooLow': v => `${v.pitch} lies below the lowest string of this ${v.instrument} (${v.lowest}).`,
  'finger.tooHigh': v => `${v.pitch} lies above what this ${v.instrument} can reach (${v.highest}).`,
  'finger.noDoubleStop': v =>
    `${v.pitches} can't be held together on this ${v.instrument}; only the top note is fingered.`,
  'finger.levelReach': v => `${v.pitch} is out of reach at level ${v.level}: ${v.why}.`,
  'finger.pinUnmet': v =>
    `The pin on this note (${[v.string, v.finger].filter(x => x !== null).join(' ')}) can't be met: ${pinWhy(v.why)}.`,
  'finger.spanReach': v =>
    `${v.pitch} is out of reach: it is further than this hand reaches (${v.span} mm from 1 to 4).`,
  'finger.tooBig': v =>
    `This ${v.instrument} is too big for this hand (${v.span} mm from 1 to 4): even first position is beyond its reach. ${v.fits ? `A ${v.fits} would fit.` : 'No size fits.'} Until then it stays at home; no pain, short turns, rests.`,
  'finger.spanNear': v =>
    `${v.count} ${v.count === 1 ? 'note asks' : 'notes ask'} for nearly all this hand can span, ${v.pitch} the most (${v.percent}%). No pain, short turns, rests; a teacher or health professional decides.`,
  'finger.pinsContradict': v =>
    `“${ruleWords(v.rule)}” contradicts what is fixed on ${v.pitch}; the pin stands there.`,
  'finger.ruleGone': v =>
    `“${ruleWords(v.rule)}” is for notes that are not in the tune now, or off the instrument; nothing follows it.`,
  'finger.ruleUnmet': v => `“${ruleWords(v.rule)}” can't be kept at ${v.pitch}; it is waived for this note.`,
  'finger.loneNote': v =>
    `${v.pitch} is the one note of this tune that does not lie at home: ${v.shifts} shifts are made for it${v.times > 1 ? ` (it comes ${v.times} times)` : ''}. With another note there the hand could stay.`,
  'finger.shiftFast': v => `This shift of ${v.mm} mm has ${v.seconds} s; it is playable up to ${v.ceiling}.`,
  'bow.hairRunsOut': v =>
    `The bow runs out towards the ${v.end}: ${v.given} cm are left for a stroke that wants ${v.wanted} cm.`,
  'bow.otherBow': v =>
    `${v.part === null ? 'This part' : `Part ${v.part}`} starts ${v.second} bow the second time (${v.first} the first).`,
  'bow.pinUnmet': v =>
    `The ${v.direction} bow pinned here can't be met: it lies inside a slur or tie, or another pin contradicts it.`,
  'bow.wayUnmet': v => `The ${v.way} pinned here can't be met: the note lies inside a slur or tie.`,
  'bow.slurOverRest': () => 'A slur pinned here would go over a rest; the bow stops there.',
  'bow.firstBeatUp': v => `The first beat comes up${v.pass > 1 ? ` the ${ordinal(v.pass)} time` : ''}.`,
  'bow.kinOtherBow': v =>
    `This phrase starts ${v.second} bow; the one like it in ${measureText(v.like)} starts ${v.first}.`,
  'bow.endsUp': () => 'The tune ends on an up bow.',
  'bow.wrongEnd': v =>
    `This long note begins near the ${v.end}: ${v.given} cm are left, it wants ${v.wanted} cm.`,
  'bow.fastReturn': v =>
    `This short note has to bring the bow back ${v.times} times as fast as it sounds by itself; it will stick out.`,
  'bow.drifts': v =>
    `Left to itself the bow drifts ${v.cm} cm from ${measureText(v.from)} on and reaches the ${v.end} here.`,
  'bow.tooLong': v =>
    `This note lasts ${v.seconds} s, longer than a bow sings; take ${v.bows} bows, changed where nobody listens.`,
  'bow.slurSkips': () => 'The bow has to skip a string inside this slur.',
  'bow.crowded': v => `${v.notes} notes in ${v.seconds} s are more than one bow bears here.`,
  'bow.swings': v =>
    `${v.strokes} strokes swing to and fro between two strings; let the hand turn, not the arm, and practise it slowly.`,
  'bow.sparedCrossing': v => `The fourth finger on ${v.string} would spare the bow two crossings.`,
  'bow.liftNoTime': () => 'There is no time for this lift.',
  'bow.accentUpTip': () => 'The accent falls on an up bow at the tip, where the bow has no weight.',
  'bow.noPattern': () => 'Choose the pattern to bow by.',
  'bow.patternLong': v => `The pattern spans ${v.pattern} units, the tune only ${v.tune}.`,
  'tuning.up': v =>
    `${v.string} is tuned up: about ${v.percent}% more tension. It can snap or pull the bridge over: tune slowly, keep the face away, watch the bridge, prefer tuning down or strings made for it, and ask a luthier.`,
}

/** The sentence of a finding, without its place. */
export const sentence = (f: Finding): string =>
  (SENTENCES[f.code] as (v: Finding['values']) => string)(f.values)

/** What a button that carries out a mend says. */
export function mendWords(m: Mend): string {
  switch (m.kind) {
    case 'stroke':
      return `Lift before the repeat: ${m.direction} each time`
    case 'bow':
      return bowEditsWords(m.edits)
    case 'finger':
      return m.finger === 4
        ? 'Fourth finger instead of the open string'
        : 'Open string instead of the fourth finger'
    case 'join':
      return m.slurred ? 'Slur it to the note before' : 'Part the slur here'
    case 'unpin':
      return 'Take the pin off'
    case 'dropRule':
      return 'Take the rule off'
    case 'dropChange':
      return 'Take the change out'
    case 'key':
      return `All of it in ${keyName(m.key)}`
    case 'octave':
      return `All of it an octave ${m.by > 0 ? 'higher' : 'lower'}`
    case 'moveNote':
      return `This note an octave ${m.octaves > 0 ? 'higher' : 'lower'}`
  }
}

/** "line 3, column 7", "measure 4", "the pickup" or "". */
export function placeText(f: Finding): string {
  const { line, column, measure } = f.where
  if (line !== undefined) return column === undefined ? `line ${line}` : `line ${line}, column ${column}`
  return measure === undefined ? '' : measureText(measure)
}

export const KNOWN_CODES = Object.keys(SENTENCES) as FindingCode[]
