/** The budgets of the store, part of `npm run bench`: 5,000 tunes listed, searched, read and saved. */
import { randomUUID } from 'node:crypto'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { melodyPrint } from '#core/melody/print'
import { composedAbc } from '#core/music/composed'
import { shelfQuerySchema } from '#contract/documents'
import { openEmbedded } from '../server/store/embedded/open'
import { openPostgres } from '../server/store/postgres'
import { Shelf } from '../server/store/shelf'

const COUNT = 5000
const tuneOf = (n: number) => readAbc(composedAbc(n)).tunes[0]!.tune
const median = async (work: (i: number) => Promise<unknown>, runs = 15) => {
  const took: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    await work(i)
    took.push(performance.now() - began)
  }
  return took.sort((a, b) => a - b)[runs >> 1]!
}
const database = process.argv[2] ? await openPostgres(process.argv[2]) : await openEmbedded(null)
const shelf = new Shelf(database.db, randomUUID)
const ids: string[] = []
const began = performance.now()
for (let i = 0; i < COUNT; i += 100)
  ids.push(
    ...(await shelf.createAll(
      Array.from({ length: 100 }, (_, k) => ({
        source: null,
        tune: tuneOf(i + k + 1),
        arrangements: [{ id: '0', arrangement: newArrangement('violin', '4/4') }],
      })),
    )),
  )
console.log('import', ((performance.now() - began) / 1000).toFixed(1), 's')
const ask = (q: object) => shelf.page(shelfQuerySchema.parse(q))
console.log('first page, cold', (await median(() => ask({}), 1)).toFixed(1))
console.log('first page', (await median(() => ask({}))).toFixed(1))
console.log('last page', (await median(() => ask({ offset: 4800 }))).toFixed(1))
console.log('search', (await median(i => ask({ search: `tune ${i}` }))).toFixed(1))
console.log('filter and sort', (await median(() => ask({ kind: 'jig', sort: 'changed' }))).toFixed(1))
console.log('alike', (await median(i => shelf.alike([melodyPrint(tuneOf(i + 7))]))).toFixed(1))
console.log('kin', (await median(i => shelf.kinOf(ids[i * 11]!, {}))).toFixed(1))
console.log('read, cold', (await median(i => shelf.packed(ids[i * 17 + 3]!))).toFixed(1))
console.log('read, again', (await median(() => shelf.packed(ids[3]!))).toFixed(1))
const save = async (i: number) => {
  const t = (await shelf.get(ids[i]!))!
  return shelf.save(t.id, {
    tune: { version: t.version, source: null, tune: { ...t.tune, title: `Tune ${i} anew` } },
    arrangements: [],
    removed: [],
  })
}
console.log('read and save', (await median(save)).toFixed(1))
console.log('save and first page', (await median(i => save(i + 100).then(() => ask({})))).toFixed(1))
await database.close()
