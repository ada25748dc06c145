/**
 * The budgets of the store, part of `npm run bench`: 5,000 tunes listed, searched, read and saved. With the
 * address of a PostgreSQL server, there: `npm run bench:store -- postgres://…`.
 */
import { randomUUID } from 'node:crypto'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { melodyPrint } from '#core/melody/print'
import { composedAbc } from '#core/music/composed'
import { shelfQuerySchema } from '#contract/documents'
import { openEmbedded } from '../server/store/embedded/open'
import { openPostgres } from '../server/store/postgres'
import { Stores } from '../server/store/stores'
import { middle, row } from './benchRows'

const COUNT = 5000
const BOOK = 200
const RUNS = 15
const tuneOf = (n: number) => readAbc(composedAbc(n)).tunes[0]!.tune
const recipe = newArrangement('violin', '4/4')

const connection = process.argv[2] ? await openPostgres(process.argv[2]) : await openEmbedded(null)
const shelf = new Stores(connection, randomUUID).shelf({ studio: randomUUID() })
const ids: string[] = []
for (let i = 0; i < COUNT; i += 100) {
  const some = Array.from({ length: 100 }, (_, k) => tuneOf(i + k + 1))
  const made = some.map(tune => ({ source: null, tune, arrangements: [{ id: '0', arrangement: recipe }] }))
  ids.push(...(await shelf.createAll(made)))
}

/** A row with the median; the ratio is to reading a tune that is ready, in the same run. */
async function measure(name: string, budget: string, work: (i: number) => Promise<unknown>, runs = RUNS) {
  const took: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    await work(i)
    took.push(performance.now() - began)
  }
  const ms = middle(took)
  row(name, `${ms.toFixed(1)} ms`, unit === null ? null : ms / unit, budget)
  return ms
}
let unit: number | null = null
const ask = (q: object) => shelf.page(shelfQuerySchema.parse(q))
async function save(i: number) {
  const t = (await shelf.get(ids[i]!))!
  const tune = { version: t.version, source: null, tune: { ...t.tune, title: `Tune ${i} anew` } }
  return shelf.save(t.id, { tune, arrangements: [], removed: [] })
}
const book = Array.from({ length: BOOK }, (_, i) => melodyPrint(tuneOf(i + 7)))

await shelf.packed(ids[3]!)
unit = await measure('a tune that is ready', '–', () => shelf.packed(ids[3]!))
await measure('a tune read and packed', '–', i => shelf.packed(ids[i * 17 + 4]!))
await measure('first page, cold', '–', () => ask({}), 1)
await measure('first page', '50 ms', () => ask({}))
await measure('last page', '50 ms', () => ask({ offset: 4800 }))
await measure('search', '50 ms', i => ask({ search: `tune ${i}` }))
await measure('filter and sort', '50 ms', () => ask({ kind: 'jig', sort: 'changed' }))
await measure('melodies, cold', '–', () => shelf.alike([book[0]!]), 1)
await measure('tunes that sound like one', '50 ms', i => shelf.alike([book[i]!]))
await measure(`tunes that sound like any of ${BOOK}`, '–', () => shelf.alike(book), 3)
await measure('kin of a tune', '50 ms', i => shelf.kinOf(ids[i * 11]!, {}))
await measure('read and save', '–', save)
await measure('save, then the first page', '–', i => save(i + 100).then(() => ask({})))
await connection.close()
