/**
 * What an edit costs at the desk with eight parts of one tune of 32 measures: the first look, another title,
 * one finger pinned. Medians in ms of so many runs, and as a share of the first look.
 */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { forInstrument, pinned, withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { Desk } from '#core/desk/desk'
import { pack } from '#core/desk/packed'
import { readAbc } from '#core/formats/abc/readAbc'
import { INSTRUMENT_IDS } from '#core/music/tune'

const RUNS = 9
const phrase = 'D2FA d2fd|B2GB A2FA|G2BG F2AF|E2GE D2DE|'
const { tune } = readAbc(`X:1\nT:Eight parts\nM:4/4\nL:1/8\nK:D\n${phrase.repeat(8)}`).tunes[0]!
const violin = newArrangement('violin', 'full')
const recipes = INSTRUMENT_IDS.flatMap(i =>
  ([null, 3] as const).map(level => withPlayed(forInstrument(violin, i), { level })),
)

function timed(work: () => void): number {
  const began = performance.now()
  work()
  return performance.now() - began
}
const median = (list: readonly number[]) => list.toSorted((a, b) => a - b)[list.length >> 1]!

const runs = Array.from({ length: RUNS }, (_, run) => {
  const desk = new Desk()
  const parts = recipes.map((_, i) => ({ tune: 1, context: 2, recipe: 10 + i }))
  let stamps: number[] = []
  const first = timed(() => {
    desk.put(
      [[1, pack(tune)], [2, pack(ASSUMED_HANDS)], ...recipes.map((r, i) => [10 + i, pack(r)] as const)],
      [],
    )
    stamps = parts.map(p => desk.derive(p, []).stamp)
  })
  const title = timed(() => {
    desk.put([[3, pack({ ...tune, title: `Another title ${run}` })]], [1])
    for (const p of parts) desk.derive({ ...p, tune: 3 }, stamps)
  })
  const pin = timed(() => {
    const id = tune.measures[3]!.events[2]!.id
    desk.put([[30, pack(pinned(recipes[0]!, 'fingers', id, { finger: 2 }))]], [])
    for (const [i, p] of parts.entries())
      desk.derive({ ...p, tune: 3, recipe: i === 0 ? 30 : p.recipe }, stamps)
  })
  return { first, title, pin }
})
const of = (what: 'first' | 'title' | 'pin') => median(runs.map(r => r[what]))
const first = of('first')
for (const what of ['first', 'title', 'pin'] as const)
  console.log(`${what.padEnd(6)} ${of(what).toFixed(1).padStart(8)} ms  ${(of(what) / first).toFixed(3)}`)
