/**
 * `npm run bench:bow`: how far the bow agrees with a teacher's marks: share of notes with the same direction,
 * and share of bow changes at the same places, against the nearest of the answers, everything allowed. Three
 * kinds of figures: own passages the weights were set on, own passages held back, and passages others wrote;
 * these were read before some of the rules were written, so their figure is no blind one. Then the first
 * beats of the demo tunes, with nothing and with everything allowed.
 */
import { readdirSync } from 'node:fs'
import { agreement, marksOf, percent, tuneOf, type Agreement } from '#core/bowing/goldens/marks'
import { bowedAs, marksDone } from '#core/bowing/goldens/bowed'
import { INDEPENDENT_BOWINGS } from '#core/bowing/goldens/independent'
import { OWN_BOWINGS } from '#core/bowing/goldens/own'
import { MAY_ALL, MAY_NOTHING } from '#core/bowing/schools'
import { readAbc } from '#core/formats/abc/readAbc'
import { writtenFor } from '#core/instruments/instruments'
import { demoSource } from '#demo/fillShelf'

interface Row {
  readonly school: string
  readonly rule: string
  readonly instrument: string
  readonly a: Agreement
}
const own = (held: boolean): Row[] =>
  OWN_BOWINGS.filter(g => (g.held ?? false) === held).map(g => ({
    ...g,
    a: agreement(marksDone(bowedAs(tuneOf(g), g)), [g.want, ...(g.also ?? [])].map(marksOf)),
  }))
const others: Row[] = INDEPENDENT_BOWINGS.map(g => ({
  ...g,
  a: agreement(marksDone(bowedAs(readAbc(g.abc).tunes[0]!.tune, g)), [g.want, ...g.also]),
}))

function table(title: string, rows: readonly Row[]) {
  console.log(`\n${title}\n   both   directions  changes   passages`)
  const share = (list: readonly Row[], of: (a: Agreement) => number) =>
    ((100 * list.reduce((n, r) => n + of(r.a), 0)) / list.reduce((n, r) => n + r.a.notes, 0)).toFixed(1)
  const line = (name: string, list: readonly Row[]) =>
    console.log(
      `${percent(list.map(r => r.a))
        .toFixed(1)
        .padStart(
          6,
        )}%  ${share(list, a => a.directions).padStart(8)}%  ${share(list, a => a.changes).padStart(6)}%  ${String(list.length).padStart(6)}   ${name}`,
    )
  for (const by of ['school', 'instrument', 'rule'] as const)
    for (const name of new Set(rows.map(r => r[by])))
      line(
        name,
        rows.filter(r => r[by] === name),
      )
  line('all', rows)
}
table('Own passages, set by', own(false))
table('Own passages, held back', own(true))
table('Passages others wrote', others)

console.log('\nFirst beats that come up in the demo tunes under “down on the beat”')
for (const [name, may] of [
  ['nothing allowed', MAY_NOTHING],
  ['everything allowed', MAY_ALL],
] as const) {
  let [up, all] = [0, 0]
  for (const file of readdirSync(new URL('../demo/tunes', import.meta.url))) {
    const tune = readAbc(demoSource(file)).tunes[0]!.tune
    const firsts = bowedAs(tune, { instrument: writtenFor(tune), school: 'down', may }).strokes.filter(
      s => s.strength === 3,
    )
    all += firsts.length
    up += firsts.filter(s => s.direction === 'up').length
  }
  console.log(`   ${name}: ${up} of ${all} (${((100 * (all - up)) / all).toFixed(1)}% down)`)
}
