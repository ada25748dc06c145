/**
 * `npm run bench:hand`: how far the fingers agree with a teacher's, note by note and passage by passage.
 * Three kinds of figures: own passages the weights were tuned on, own passages held back, and passages
 * fingered independently, which the weights were fitted on. `-- --cross` fits anew without each tenth of
 * these in turn (about a quarter of an hour), so that no figure comes from weights that saw its passage.
 */
import { SETS } from '#core/fingering/goldens/all'
import { INDEPENDENT } from '#core/fingering/goldens/independent'
import { fingered, placesOf } from '#core/fingering/testing'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { crossValidate, judge, prepareIndependent, prepareOwn } from './fitHand'

interface Row {
  readonly name: string
  readonly rule: string
  readonly why: string
  readonly instrument: string
  /** The wanted fingering leaves first position. */
  readonly shifting: boolean
  readonly want: readonly (readonly string[])[]
  readonly got: readonly string[]
}
const right = (r: Row) => r.want.filter((w, i) => w.includes(r.got[i]!)).length
const whole = (r: Row) => right(r) === r.want.length
const total = (list: readonly Row[], of: (r: Row) => number) => list.reduce((n, r) => n + of(r), 0)

function line(name: string, list: readonly Row[]) {
  if (list.length === 0) return
  const [hits, notes] = [total(list, right), total(list, r => r.want.length)]
  console.log(
    `${((100 * hits) / notes).toFixed(1).padStart(6)}%  ${`${hits}/${notes}`.padStart(9)}  ${`${list.filter(whole).length}/${list.length}`.padStart(7)}   ${name}`,
  )
}
function table(title: string, list: readonly Row[], rules: boolean) {
  console.log(`\n${title}\n     of notes                whole`)
  for (const id of INSTRUMENT_IDS)
    line(
      id,
      list.filter(r => r.instrument === id),
    )
  line(
    'with a shift',
    list.filter(r => r.shifting),
  )
  line(
    'without',
    list.filter(r => !r.shifting),
  )
  if (rules)
    for (const rule of new Set(list.map(r => r.rule)))
      line(
        rule,
        list.filter(r => r.rule === rule),
      )
  line('all', list)
}

const bare = (said: string) => said.replace(/[‹›x]/g, '')
const ownRows = (held: boolean): Row[] =>
  SETS.filter(s => s.held === held).flatMap(s =>
    s.passages.map(p => {
      const want = placesOf(p.fingers)
      return {
        name: p.name,
        rule: p.rule,
        why: p.why,
        instrument: p.options.instrument,
        shifting: p.rule === 'shift',
        want: want.map(w => [w]),
        got: placesOf(fingered(p.abc, p.options)),
      }
    }),
  )
const prepared = INDEPENDENT.map(prepareIndependent)
const independentRows = (judged: readonly { readonly got: readonly string[] }[]): Row[] =>
  INDEPENDENT.map((p, i) => ({
    ...p,
    shifting: /position|shift|thumb|harmonic|pivot|walking|arpeggio/.test(p.rule),
    got: judged[i]!.got,
  }))

const [tuned, held] = [ownRows(false), ownRows(true)]
table('Own passages, tuned on', tuned, true)
table('Own passages, held back: no weight has seen them', held, true)
const weighed = independentRows(prepared.map(p => judge(p)))
table('Independent passages, as the weights are now, which were fitted on them', weighed, false)
const both = total(weighed, r => r.want.length)
const agree = INDEPENDENT.reduce((n, p) => n + p.first.filter((f, i) => f === p.second[i]).length, 0)
console.log(
  `\nThe two answers to the independent passages agree with each other in ${((100 * agree) / both).toFixed(1)}% of the notes.`,
)
const crossed: Row[] = []
if (process.argv.includes('--cross')) {
  const log = (text: string) => (text.startsWith('fold') ? console.error(text) : undefined)
  crossed.push(...independentRows(crossValidate(prepared, prepareOwn(false), { sweeps: 2, log })))
  table(
    'Independent passages, tenfold cross-validation: no figure from weights that saw its passage',
    crossed,
    true,
  )
}
const named = crossed.map(r => ({ ...r, name: `${r.name}, cross-validated` }))
for (const r of [...tuned, ...held, ...weighed, ...named].filter(x => !whole(x))) {
  const told = r.got.map((g, i) => (r.want[i]?.includes(g) ? bare(g) : `[${bare(g)}]`)).join(' ')
  console.log(
    `\n${r.name}\n  teacher  ${r.want.map(w => w.join('|')).join(' ')}\n  found    ${told}\n  ${r.why}`,
  )
}
