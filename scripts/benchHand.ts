/** `npm run bench:hand`: how far the fingers agree with a teacher's, note by note and passage by passage, for each instrument and each rule. */
import { ALL_PASSAGES, SETS } from '#core/fingering/goldens/all'
import type { Passage } from '#core/fingering/goldens/passages'
import { fingered, placesOf } from '#core/fingering/testing'

const results = ALL_PASSAGES.map(passage => {
  const found = fingered(passage.abc, passage.options)
  const [wanted, got] = [placesOf(passage.fingers), placesOf(found)]
  const right = wanted.filter((w, i) => got[i] === w).length
  return { passage, found, right, notes: wanted.length, whole: found === passage.fingers }
})

function line(name: string, of: (p: Passage) => boolean) {
  const own = results.filter(r => of(r.passage))
  const notes = own.reduce((n, r) => n + r.notes, 0)
  const right = own.reduce((n, r) => n + r.right, 0)
  const whole = own.filter(r => r.whole).length
  console.log(`${((100 * right) / notes).toFixed(0).padStart(4)} %  ${`${right}/${notes}`.padStart(8)}  ${`${whole}/${own.length}`.padStart(7)}   ${name}`) // prettier-ignore
}

console.log('      of notes      whole')
for (const id of ['violin', 'viola', 'cello', 'bass']) line(id, p => p.options.instrument === id)
for (const rule of new Set(ALL_PASSAGES.map(p => p.rule))) line(rule, p => p.rule === rule)
for (const { name, passages } of SETS) line(name, p => passages.includes(p))
line(`all ${ALL_PASSAGES.length}`, () => true)
for (const r of results.filter(x => !x.whole)) console.log(`\n${r.passage.name}\n  teacher  ${r.passage.fingers}\n  found    ${r.found}\n  ${r.passage.why}`) // prettier-ignore
