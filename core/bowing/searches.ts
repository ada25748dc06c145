/**
 * From a line to its bowing: searched free, then with measures of one rhythm alike, then with the second time
 * through marked as the first.
 */
import { groupBy } from '#core/groupBy'
import type { EventId } from '#core/music/ids'
import { bowLine, type BowLine, type Direction, type LineOptions, type Way } from './line'
import { searchBow, type BowSearch, type Searches } from './search'
import { bearingOf, type BowProblem } from './stroke'
import type { BowTone } from './tones'
import { WEIGHTS as W } from './weights'

/** Each search goes on from the one of its kind before. */
export function searchLine(problem: BowProblem, before?: Searches): Searches {
  const { tones } = problem
  const o = lineOptions(problem)
  const line = bowLine(tones, o, before?.free.line)
  const free = searchBow(line, before?.free)
  const alike = searchAlike(tones, free, beginnings(problem, free), before?.alike)
  const ways = repeatedWays(tones, waysOf(alike, tones.length))
  const final = ways ? searchBow(bowLine(tones, { ...o, ways }), before?.final) : alike
  return { free, alike, final }
}

export const lineOptions = ({ options: o }: BowProblem): LineOptions => ({
  planOf: o.planOf,
  may: o.may,
  habits: o.habits,
  pins: o.pins,
  joins: o.joins,
  phrases: new Set(o.phrases.keys()),
  stringOf: o.stringOf,
  bearing: bearingOf(o),
  ...(o.taste && { taste: o.taste }),
})

/**
 * What is marked the first time through stands the second time too: what is to be done at each tone, or null
 * where that is so already.
 */
function repeatedWays(tones: readonly BowTone[], ways: readonly Way[]): (Way | undefined)[] | null {
  if (tones.every(t => t.pass === 1)) return null
  const first = new Map<EventId, number>()
  const fixed: (Way | undefined)[] = tones.map(() => undefined)
  let differs = false
  tones.forEach((t, k) => {
    const earlier = first.get(t.id)
    if (earlier === undefined) first.set(t.id, k)
    else if (t.follows && tones[earlier]!.follows) {
      if (ways[k] !== ways[earlier]) differs = true
      fixed[k] = fixed[earlier] = ways[earlier]
    }
  })
  return differs ? fixed : null
}

interface Beginning {
  readonly k: number
  readonly direction: Direction
}

/** Phrases that begin otherwise than the one they are kin to, with the direction that one begins in. */
function beginnings({ tones, options }: BowProblem, { strokes }: BowSearch): Beginning[] {
  const direction = new Map(strokes.map(s => [s.first, s.direction]))
  const at = new Map<EventId, number>()
  tones.forEach((t, k) => at.has(t.id) || at.set(t.id, k))
  return [...options.phrases].flatMap(([phrase, kin]) => {
    const [k, first] = [at.get(phrase), kin === null ? undefined : at.get(kin)]
    if (k === undefined || first === undefined) return []
    const [own, other] = [direction.get(k), direction.get(first)]
    return own && other && own !== other ? [{ k, direction: other }] : []
  })
}

/**
 * Measures of one rhythm are mended alike: after a first search the mend most of them took is made cheaper
 * than the others. Phrases alike begin alike.
 */
function searchAlike(
  tones: readonly BowTone[],
  first: BowSearch,
  begin: readonly Beginning[],
  before?: BowSearch,
): BowSearch {
  const { line } = first
  const ways = waysOf(first, tones.length)
  const mended = ways.some((w, k) => line.added[k] && (w === 'slur' || w === 'hook'))
  const votes = mended ? alikeMends(tones, line, ways) : []
  if (begin.length === 0 && votes.every(v => ways[v.k] === v.way || !line.added[v.k])) return first
  const again: BowLine = {
    ...line,
    start: line.start.slice(),
    join: line.join.slice(),
    hook: line.hook.slice(),
    turn: line.turn.slice(),
  }
  for (const { k, way } of votes) {
    if (way !== 'slur' && line.added[k]) again.join[k]! += W.otherMend
    if (way !== 'hook') again.hook[k]! += W.otherMend
    if (way !== 'turn') again.turn[k]! += W.otherMend
  }
  for (const { k, direction } of begin) again.start[2 * k + (direction === 'up' ? 0 : 1)]! += W.otherBegin
  return searchBow(again, before)
}

interface Vote {
  readonly k: number
  /** What most measures of this rhythm do here, when they are mended. */
  readonly way: Way
}

/**
 * For tones of measures whose rhythm comes more than once, and is mended: what most of these do at each
 * place.
 */
function alikeMends(tones: readonly BowTone[], { added }: BowLine, ways: readonly Way[]): Vote[] {
  const out: Vote[] = []
  for (const group of sameRhythm(tones)) {
    const mends = group.map(ks => ks.map(k => (added[k] && ways[k] !== 'lift' ? ways[k]! : 'turn')))
    const mended = mends.filter(m => m.some(w => w !== 'turn'))
    if (mended.length === 0) continue
    const most = [...groupBy(mended, m => m.join()).values()].reduce((a, b) =>
      b.length > a.length ? b : a,
    )[0]!
    for (const ks of group) ks.forEach((k, i) => out.push({ k, way: most[i]! }))
  }
  return out
}

const RHYTHMS = new WeakMap<readonly BowTone[], readonly (readonly number[])[][]>()

/**
 * Measures of one rhythm that comes more than once, each as the indices of its tones. Kept with the tones,
 * which many searches share.
 */
function sameRhythm(tones: readonly BowTone[]): readonly (readonly number[])[][] {
  const known = RHYTHMS.get(tones)
  if (known) return known
  const measures = groupBy([...tones.keys()], k => `${tones[k]!.measureIndex}.${tones[k]!.pass}`)
  const rhythms = groupBy([...measures.values()], ks =>
    ks.map(k => `${tones[k]!.at.n}/${tones[k]!.at.d}:${tones[k]!.length}`).join(),
  )
  const found = [...rhythms.values()].filter(group => group.length > 1)
  RHYTHMS.set(tones, found)
  return found
}

/** What is done before each tone. */
export function waysOf({ strokes }: Pick<BowSearch, 'strokes'>, count: number): Way[] {
  const out: Way[] = new Array<Way>(count).fill('slur')
  for (const s of strokes) out[s.first] = s.way
  return out
}
