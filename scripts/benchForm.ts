/**
 * `npm run bench:form`: how far the analysis of form agrees with a teacher's pencil, tune by tune; the held
 * part was not tuned on.
 */
import { agreement, f1, sum, type Agreement } from '#core/form/goldens/agreement'
import { analyseForm } from '#core/form/form'
import { TUNED, type AnalysedTune } from '#core/form/goldens/analysed'
import { HELD } from '#core/form/goldens/held'
import { readAnalysed } from '#core/form/goldens/read'

const percent = (x: number) => `${(100 * x).toFixed(0)}%`.padStart(6)
const line = (a: readonly Agreement[], name: string) => {
  const relations = a.reduce((n, x) => ({ right: n.right + x.relations.right, of: n.of + x.relations.of }), {
    right: 0,
    of: 0,
  })
  const scores = [sum(a.map(x => x.boundaries)), sum(a.map(x => x.parts)), sum(a.map(x => x.kinship))].map(
    s => percent(f1(s)),
  )
  console.log(`${scores.join('    ')}    ${`${relations.right}/${relations.of}`.padStart(6)}   ${name}`)
}

console.log('  F1 of')
console.log('phrases     parts   kinship   named')
const all: Agreement[] = []
const sets: readonly (readonly [string, readonly AnalysedTune[]])[] = [
  ['tuned on', TUNED],
  ['held back', HELD],
]
for (const [name, list] of sets) {
  const found = list.map(golden => {
    const expected = readAnalysed(golden)
    const a = agreement(expected, analyseForm(expected.tune))
    line([a], golden.name)
    for (const fault of a.faults) console.log(`${' '.repeat(47)}${fault}`)
    return a
  })
  line(found, `ALL ${list.length} ${name.toUpperCase()}`)
  all.push(...found)
}
line(all, `ALL ${all.length}`)
