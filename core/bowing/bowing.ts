/**
 * How a tune is bowed: directions, what joins or parts the notes, and where on the bow each stroke happens, found together as one shortest path
 * ({@link searchBow}). What is written stands; what the school or the recipe lets Nokta add is told apart from it.
 */
import { groupBy } from '#core/groupBy'
import type { EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import { strokeCost, whyStroke } from './explain'
import { bowFindings } from './findings'
import { bowLine, type BowLine, type LineOptions, type Way } from './line'
import { searchBow, type BowSearch, type Found } from './search'
import {
  bearingOf,
  type AddedMark,
  type Bowing,
  type BowingOptions,
  type BowProblem,
  type Stroke,
} from './stroke'
import { bowTones, type BowTone } from './tones'
import { WEIGHTS as W } from './weights'

export const bowProblem = (tune: Tune, options: BowingOptions): BowProblem => ({
  tune,
  options,
  tones: bowTones(tune, options),
})

export function bowTune(tune: Tune, options: BowingOptions, before?: Bowing): Bowing {
  return solveBow(bowProblem(tune, options), before)
}

export function solveBow(problem: BowProblem, before?: Bowing): Bowing {
  const search = searchRepeats(problem, before?.search)
  const strokes = search.strokes.map(s => strokeOf(problem, search.line, s))
  const found = { problem, strokes, written: firstTimes(strokes) }
  return { ...found, search, findings: bowFindings(found) }
}

const lineOptions = ({ options: o }: BowProblem): LineOptions => ({
  instrument: o.instrument,
  planOf: o.planOf,
  may: o.may,
  pins: o.pins,
  joins: o.joins,
  phrases: new Set(o.phrases.keys()),
  stringOf: o.stringOf,
  bearing: bearingOf(o),
})

/** What is marked the first time through stands the second time too: where the first search would mark it otherwise, it is made to. */
function searchRepeats(problem: BowProblem, before?: BowSearch): BowSearch {
  const o = lineOptions(problem)
  const { tones } = problem
  const free = searchAlike(tones, o, before)
  if (tones.every(t => t.pass === 1)) return free
  const ways = waysOf(free, tones.length)
  const first = new Map<EventId, number>()
  let differs = false
  const fixed: (Way | undefined)[] = tones.map(() => undefined)
  tones.forEach((t, k) => {
    const earlier = first.get(t.id)
    if (earlier === undefined) first.set(t.id, k)
    else if (t.follows && tones[earlier]!.follows) {
      if (ways[k] !== ways[earlier]) differs = true
      fixed[k] = fixed[earlier] = ways[earlier]
    }
  })
  return differs ? searchBow(bowLine(tones, { ...o, ways: fixed }), free) : free
}

/** Measures of one rhythm are mended alike: after a first search the mend most of them took is made cheaper than the others. */
function searchAlike(tones: readonly BowTone[], o: LineOptions, before?: BowSearch): BowSearch {
  const line = bowLine(tones, o)
  const first = searchBow(line, before)
  const votes = alikeMends(tones, line, waysOf(first, tones.length))
  if (votes.length === 0) return first
  const again = { ...line, join: line.join.slice(), hook: line.hook.slice(), turn: line.turn.slice() }
  for (const { k, way } of votes) {
    if (way !== 'slur' && line.added[k]) again.join[k]! += W.otherMend
    if (way !== 'hook') again.hook[k]! += W.otherMend
    if (way !== 'turn') again.turn[k]! += W.otherMend
  }
  return searchBow(again, first)
}

interface Vote {
  readonly k: number
  /** What most measures of this rhythm do here, when they are mended. */
  readonly way: Way
}

/** For tones of measures whose rhythm comes more than once, and is mended: what most of these do at each place. */
function alikeMends(tones: readonly BowTone[], { added }: BowLine, ways: readonly Way[]): Vote[] {
  const measures = groupBy([...tones.keys()], k => `${tones[k]!.measureIndex}.${tones[k]!.pass}`)
  const rhythms = groupBy([...measures.values()], ks => ks.map(k => `${tones[k]!.at.n}/${tones[k]!.at.d}:${tones[k]!.length}`).join()) // prettier-ignore
  const out: Vote[] = []
  for (const group of rhythms.values()) {
    if (group.length < 2) continue
    const mends = group.map(ks => ks.map(k => (added[k] && ways[k] !== 'lift' ? ways[k]! : 'turn')))
    const mended = mends.filter(m => m.some(w => w !== 'turn'))
    if (mended.length === 0) continue
    const most = [...groupBy(mended, m => m.join()).values()].reduce((a, b) => (b.length > a.length ? b : a))[0]! // prettier-ignore
    for (const ks of group) ks.forEach((k, i) => out.push({ k, way: most[i]! }))
  }
  return out
}

/** What is done before each tone. */
export function waysOf({ strokes }: Pick<BowSearch, 'strokes'>, count: number): Way[] {
  const out: Way[] = new Array<Way>(count).fill('slur')
  for (const s of strokes) out[s.first] = s.way
  return out
}

function strokeOf(problem: BowProblem, line: BowLine, s: Found): Stroke {
  const { tones, options } = problem
  const own = tones.slice(s.first, s.end)
  const first = own[0]!
  const notes = own.flatMap(t => t.events)
  const strings: number[] = []
  for (const t of own) {
    const string = options.stringOf(t.id)
    if (!strings.includes(string)) strings.push(string)
  }
  return {
    notes,
    tones: own.map(t => t.id),
    seconds: own.reduce((sum, t) => sum + t.seconds, 0),
    restBefore: first.restBefore,
    loudness: first.loudness,
    accent: first.accent,
    strength: first.strength,
    measure: first.measure,
    measureIndex: first.measureIndex,
    pass: first.pass,
    direction: s.direction,
    from: s.from,
    to: s.to,
    way: s.way,
    lift: s.way === 'lift',
    hook: s.way === 'hook',
    added: addedMarks(own, s, options),
    strings,
    why: whyStroke(problem, line, s),
    cost: strokeCost(problem, line, s),
  }
}

function addedMarks(own: readonly BowTone[], s: Found, { pins, joins }: BowingOptions): AddedMark[] {
  const first = own[0]!
  const out: AddedMark[] = own
    .slice(1)
    .flatMap(t => (t.slurred ? [] : [{ note: t.id, way: 'slur' as const }]))
  if (s.way === 'hook' || s.way === 'lift') {
    const free = s.way === 'lift' && first.lifted
    if (pins[first.id]?.way !== s.way && !free && !first.hooked) out.unshift({ note: first.id, way: s.way })
  } else if (first.slurred && joins[first.id] !== false) out.unshift({ note: first.id, way: 'part' })
  return out
}

/** A slurred stroke over a repeat may differ the second time; the page shows the first. */
function firstTimes(strokes: readonly Stroke[]): Stroke[] {
  const seen = new Set<string>()
  return strokes.filter(s => {
    if (seen.has(s.notes[0]!)) return false
    s.notes.forEach(n => seen.add(n))
    return true
  })
}
