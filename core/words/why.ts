/** Why a note has its finger, in one plain sentence. */
import { numberWord, timesText } from '#core/counts'
import { whyAt, type Why } from '#core/fingering/explain'
import type { MoveTime, PlainComponent, Reason } from '#core/fingering/reasons'
import { digitText } from '#core/instruments/digits'
import { formatTempo } from '#core/music/metre'
import { valueName } from '#core/music/valueName'
import { fingerText } from './fingers'

/** The reason of tone `i`, said; parameters as of {@link whyAt}. */
export const whySentence = (...asked: Parameters<typeof whyAt>): string => whyWords(whyAt(...asked))

function whyWords({ chosen, because }: Why): string {
  const { finger, mark, harmonic, letter } = chosen
  const start = finger === 0 ? `Open ${letter}` : `${digitText(finger, mark, harmonic)} on ${letter}`
  switch (because.kind) {
    case 'pinned':
      return `${start}: pinned by you.`
    case 'withLead':
      return `${start}: in one hand with ${fingerText(because.lead.finger, because.lead.letter)} above it.`
    case 'onlyPlace':
      return `${start}: the only place for it.`
    case 'nothingNear':
      return `${start}: its place in this position; nothing else comes near.`
    case 'other': {
      const { other, reason, slight } = because
      const the = `${other.finger === 0 ? 'the ' : ''}${fingerText(other.finger, other.letter)}${other.under ? ' under it' : ''}`
      if (!reason) return `${start}: ${the} would do as well.`
      return `${start}: ${the} ${reasonWords(reason)}${slight ? ', though only a little' : ''}.`
    }
  }
}

/** "once", "twice", "three times". */
const times = (n: number) => (n <= 2 ? timesText(n) : `${numberWord(n)} times`)

/** "in an eighth note at 1/4=96"; in seconds what no single note lasts, and a note with a rest after it. */
function timeWords({ seconds, rest, duration, tempo }: MoveTime): string {
  const name = valueName(duration)
  if (/\d/.test(name) || rest) return `in ${seconds.toFixed(2)} s`
  return `in ${/^[aeio]/.test(name) ? 'an' : 'a'} ${name} note at ${formatTempo(tempo)}`
}

const figures = ({ mm, time }: { mm: number; time: MoveTime }) => `(${Math.round(mm)} mm ${timeWords(time)})`

const PLAIN: Readonly<Record<PlainComponent, string>> = {
  open: 'goes against the open-string choice made for this passage',
  slide: 'would slide one finger from note to note',
  stretch: 'would stretch the hand',
  handShape: 'would open or close the hand again',
  hold: 'would lift a finger that can stay down',
  substitution: 'would change finger on the same note',
  consistency: 'would finger the same note otherwise than nearby',
  taste: 'would be against what you chose elsewhere',
  sound: 'would not have the sound wished for here',
}

/** What another way would make worse: "would need one shift more (46 mm in 1.36 s)". */
function reasonWords(r: Reason): string {
  switch (r.kind) {
    case 'shiftElsewhere':
      return 'would put a shift at a worse place'
    case 'moreShifts':
      return `would need ${r.more === 1 ? 'one shift more' : `${numberWord(r.more)} shifts more`} ${figures(r)}`
    case 'furtherShift':
      return `would shift further ${figures(r)}`
    case 'landsOn':
      return `would land on ${r.finger} ${figures(r)}`
    case 'worseMoment':
      return `would shift at a worse moment ${figures(r)}`
    case 'crossingElsewhere':
      return 'would cross strings at a worse moment'
    case 'moreCrossings': {
      const often = r.first ? times(r.more) : r.more === 1 ? 'once more' : `${times(r.more)} more`
      return `would cross strings ${often}, ${timeWords(r.time)}`
    }
    case 'awayFromHome':
      return 'would keep the hand away from home longer'
    case 'position':
      return `would take the hand to ${r.position} position`
    case 'opensFurther':
      return 'asks the hand to open further'
    case 'drawnBack':
      return 'asks the finger to be drawn back'
    case 'stretchedUp':
      return 'asks the finger to stretch up'
    case 'fourthForNothing':
      return 'uses the fourth finger where nothing asks for it'
    case 'weakerFinger':
      return 'asks for a weaker or stretched finger'
    case 'ringsOpen':
      return `would leave a tone of ${r.seconds.toFixed(1)} s ringing open, where it can’t be warmed`
    case 'jumps':
      return 'would make one finger jump between strings'
    case 'liesOver':
      return `would make finger ${r.finger} lie over ${r.strings[0]} and ${r.strings[1]}`
    case 'hops':
      return `would make finger ${r.finger} hop between ${r.strings[0]} and ${r.strings[1]}`
    case 'component':
      return PLAIN[r.component]
  }
}
