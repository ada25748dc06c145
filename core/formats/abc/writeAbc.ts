/** A tune as ABC text. What ABC cannot hold is named in the findings. */
import { hasCrossingSlurs } from '../crossing'
import { finding, type Finding } from '#core/findings/finding'
import { div, equal, frac, mul, type Fraction } from '#core/music/fraction'
import { alterations, keyCode, type Key } from '#core/music/key'
import { formatTempo, metreName, onBeat } from '#core/music/metre'
import { diatonic, type Pitch, type Step } from '#core/music/pitch'
import { placeEvents, placeMeasures, type Placed, type PlacedMeasure } from '#core/music/timeline'
import type { Mark, NoteEvent, Tune, TuneEvent } from '#core/music/tune'
import { FORMAT_NAMES } from '../fileKinds'
import { spellAbc, spellWithout } from './text'

const MEASURES_PER_LINE = 4
const MARK_TEXT: Partial<Record<Mark, string>> = {
  staccato: '.',
  tenuto: '!tenuto!',
  accent: '!accent!',
  fermata: '!fermata!',
  trill: '!trill!',
  turn: '!turn!',
  mordent: '!mordent!',
  upperMordent: '!uppermordent!',
  roll: '!roll!',
  slide: '!slide!',
  upbow: '!upbow!',
  downbow: '!downbow!',
  open: '!open!',
  comma: '!breath!',
  lift: '!shortphrase!',
  pizzicato: '!+!',
  harmonic: '!harmonic!',
}

export interface WrittenAbc {
  readonly text: string
  readonly findings: readonly Finding[]
}

/**
 * Writes one tune; `number` is its X: field. Reading the text again gives the same tune but for ids and what
 * the findings name.
 */
export function writeAbc(tune: Tune, number = 1): WrittenAbc {
  const line = (letter: string, text: string) => (text ? [`${letter}:${spellAbc(text)}`] : [])
  const head = [
    `X:${number}`,
    ...[tune.title, ...tune.otherTitles].flatMap(t => line('T', t)),
    ...line('C', tune.composer),
    ...line('R', tune.kind),
    ...line('S', tune.learnedFrom),
    ...tune.notes.split('\n').flatMap(t => line('N', t)),
    `M:${metreName(tune.metre)}`,
    'L:1/8',
    ...line('P', orderOf(tune) ?? ''),
    ...(tune.tempo ? [`Q:${formatTempo(tune.tempo)}`] : []),
    `K:${keyCode(tune.key)}${tune.clef === 'treble' ? '' : ` clef=${tune.clef}`}`,
  ]
  return { text: [...head, ...musicLines(tune)].join('\n') + '\n', findings: losses(tune) }
}

/** The order of the parts by their letters; null where there is none, or no letters tell them apart. */
function orderOf({ play, measures }: Tune): string | null {
  const labels = measures.flatMap(m => (m.label === undefined ? [] : [m.label]))
  const letters = new Set(labels.map(l => l[0]))
  if (!play.parts || letters.size < labels.length || !labels.every(l => /^[A-Za-z]/.test(l))) return null
  return play.parts.map(p => p.charAt(0)).join('')
}

/** In quotes; a chord symbol that begins as a remark does is spelled. */
const quoted = (text: string) => `"${spellWithout(text, /"|^[\^_<>@]/g)}"`

function losses(tune: Tune): Finding[] {
  const notes = tune.measures.flatMap(m => m.events).filter(e => e.kind === 'note')
  const what = [
    tune.tags.length > 0 && 'tags',
    tune.rights !== 'unknown' && 'rights',
    notes.some(e => e.optional) && 'optional notes',
    notes.some(e => e.marks?.includes('cut')) && 'cuts',
    notes.some(e => e.string !== undefined) && 'strings',
    tune.notToBeConfusedWith.length > 0 && 'what it is not to be confused with',
    (tune.play.struck.length > 0 || tune.play.times > 1) && 'how often it is played',
    tune.play.parts !== undefined && orderOf(tune) === null && 'the order of its parts',
    tune.instrument !== undefined && 'its instrument',
    tune.settings !== undefined && 'which tunes are settings of it',
    hasCrossingSlurs(tune) && 'slurs that cross each other',
  ].filter(w => w !== false)
  return what.map(w => finding('file.notCarried', 'note', {}, { format: FORMAT_NAMES.abc, what: w }))
}

function musicLines(tune: Tune): string[] {
  const measures = placeMeasures(tune)
  const events = placeEvents(tune)
  const starts = new Map<string, number>()
  const ends = new Map<string, number>()
  for (const s of tune.slurs) {
    starts.set(s.from, (starts.get(s.from) ?? 0) + 1)
    ends.set(s.to, (ends.get(s.to) ?? 0) + 1)
  }
  const held: Held = new Map()
  const out: string[] = []
  for (let i = 0; i < measures.length; i += MEASURES_PER_LINE) {
    const group = measures.slice(i, i + MEASURES_PER_LINE)
    const placed = events.filter(p => p.measure.index >= i && p.measure.index < i + MEASURES_PER_LINE)
    const texts = group.map(m => {
      const own = placed.filter(p => p.measure.index === m.index)
      return (
        opening(m, measures[m.index - 1]) +
        measureText(m, own, { starts, ends }, held) +
        ' ' +
        closing(m, measures[m.index + 1])
      )
    })
    out.push(texts.join('').trim(), ...wordLines(placed))
  }
  return out
}

function opening(m: PlacedMeasure, before: PlacedMeasure | undefined): string {
  const { measure } = m
  const first = !before && measure.endings ? `|${measure.endings.join(',')}` : ''
  return [
    measure.repeatStart ? '|:' : first,
    measure.label ? `[P:${spellWithout(measure.label, /\]/g)}]` : '',
    measure.key ? `[K:${keyCode(measure.key)}]` : '',
    measure.metre ? `[M:${metreName(measure.metre)}]` : '',
  ]
    .filter(Boolean)
    .map(x => x + ' ')
    .join('')
}

function closing(m: PlacedMeasure, after: PlacedMeasure | undefined): string {
  const { repeatEnd, barline, endings } = m.measure
  const next = after?.measure.endings
  const leaves = endings && !next && after && !after.measure.repeatStart
  const { fine, toCoda, jump, repeatTimes = 2 } = m.measure
  const signs = [fine && '!fine!', toCoda && '!dacoda!', jump && (jump === 'dc' ? '!D.C.!' : '!D.S.!')]
    .filter(Boolean)
    .join('')
  const bar = repeatEnd
    ? `${':'.repeat(repeatTimes - 1)}|`
    : barline === 'final'
      ? '|]'
      : barline === 'double' || leaves
        ? '||'
        : '|'
  const opens = next && next.join() !== endings?.join() ? next.join(',') : ''
  return signs + bar + opens + ' '
}

type SlurMaps = { starts: ReadonlyMap<string, number>; ends: ReadonlyMap<string, number> }

function measureText(m: PlacedMeasure, placed: readonly Placed[], slurs: SlurMaps, held: Held): string {
  const spell = speller(m.key, held)
  let text = ''
  let group = ''
  placed.forEach((p, i) => {
    const { event } = p
    if (i > 0 && (onBeat(m.felt, p.inMeasure) || event.kind === 'rest')) text += ' '
    if (event.tuplet && event.tuplet.group !== group) {
      const count = placed.filter(q => q.event.tuplet?.group === event.tuplet!.group).length
      text += `(${event.tuplet.actual}:${event.tuplet.normal}:${count}`
    }
    group = event.tuplet?.group ?? ''
    const body =
      event.kind === 'rest'
        ? (event.hidden ? 'x' : 'z') + lengthText(written(p))
        : noteText(event, written(p), spell)
    hold(held, event)
    text +=
      '('.repeat(slurs.starts.get(event.id) ?? 0) +
      (i === 0 ? (m.measure.segno ? '!segno!' : '') + (m.measure.coda ? '!coda!' : '') : '') +
      decorations(p) +
      body +
      ')'.repeat(slurs.ends.get(event.id) ?? 0)
  })
  return text
}

/** The written length: a tuplet's sounding length times actual / normal. */
const written = (p: Placed): Fraction =>
  p.event.tuplet
    ? mul(p.event.duration, frac(p.event.tuplet.actual, p.event.tuplet.normal))
    : p.event.duration

function lengthText(quarters: Fraction): string {
  const eighths = div(quarters, frac(1, 2))
  if (equal(eighths, frac(1))) return ''
  return (eighths.n === 1 ? '' : String(eighths.n)) + (eighths.d === 1 ? '' : `/${eighths.d}`)
}

function decorations({ event }: Placed): string {
  const parts = [
    event.chord ? quoted(event.chord) : '',
    ...(event.remarks ?? []).map(r => `"^${quoted(r).slice(1)}`),
  ]
  if (event.kind === 'note') {
    if (event.dynamic) parts.push(`!${event.dynamic}!`)
    parts.push(...(event.marks ?? []).map(m => MARK_TEXT[m] ?? ''))
    if (event.finger !== undefined) parts.push(`!${event.finger}!`)
  }
  return parts.join('')
}

function noteText(event: NoteEvent, length: Fraction, spell: (p: Pitch) => string): string {
  const grace = event.grace ? `{${event.grace.map(spell).join('')}}` : ''
  if (event.heads.length === 1) {
    const h = event.heads[0]!
    return grace + spell(h.pitch) + lengthText(length) + (h.tied ? '-' : '')
  }
  const heads = event.heads.map(h => spell(h.pitch) + (h.tied ? '-' : '')).join('')
  return `${grace}[${heads}]${lengthText(length)}`
}

const ACCIDENTAL = { [-2]: '__', [-1]: '_', 0: '=', 1: '^', 2: '^^' } as Record<number, string>

/** Alterations of what is tied on, by height: a reader takes them for the next note of that height too. */
type Held = Map<number, number>
function hold(held: Held, event: TuneEvent) {
  held.clear()
  if (event.kind === 'note')
    for (const { pitch, tied } of event.heads) if (tied) held.set(diatonic(pitch), pitch.alter)
}

/**
 * Spells the pitches of one measure: an accidental only where key and bar do not give it already, or a tie would
 * carry another one over.
 */
function speller(key: Key, held: Held): (p: Pitch) => string {
  const byKey: Record<Step, number> = alterations(key)
  const inBar = new Map<number, number>()
  return p => {
    const height = diatonic(p)
    const given = inBar.get(height) ?? byKey[p.step]
    if (given !== p.alter) inBar.set(height, p.alter)
    const letter =
      p.octave >= 5 ? p.step.toLowerCase() + "'".repeat(p.octave - 5) : p.step + ','.repeat(4 - p.octave)
    const plain = given === p.alter && (held.get(height) ?? p.alter) === p.alter
    return (plain ? '' : ACCIDENTAL[p.alter]) + letter
  }
}

function wordLines(placed: readonly Placed[]): string[] {
  const notes = placed.flatMap(p => (p.event.kind === 'note' ? [p.event] : []))
  const verses = Math.max(0, ...notes.map(n => n.syllables?.length ?? 0))
  return Array.from({ length: verses }, (_, v) => {
    const words = notes.map(n => {
      const s = n.syllables?.[v]
      return s?.text.trim()
        ? spellWithout(s.text, /[-*_|~]/g).replace(/ /g, '~') + (s.hyphen ? '-' : ' ')
        : '* '
    })
    return 'w: ' + words.join('').trim()
  })
}
