import { expect, it } from 'vitest'
import { sql } from 'drizzle-orm'
import { openDatabase } from './storage/database'
import { Turns } from './turns'

it('come one after another, in order, and a failure keeps nobody from theirs', async () => {
  const turns = new Turns()
  const said: string[] = []
  const work = (name: string) => async () => {
    said.push(`${name} begins`)
    await Promise.resolve()
    said.push(`${name} ends`)
    if (name === 'b') throw new Error('b fails')
    return name
  }
  const all = await Promise.allSettled(['a', 'b', 'c'].map(name => turns.take(work(name))))
  expect(said).toEqual(['a begins', 'a ends', 'b begins', 'b ends', 'c begins', 'c ends'])
  expect(all.map(r => (r.status === 'fulfilled' ? r.value : 'failed'))).toEqual(['a', 'failed', 'c'])
})

it('let the loop turn in between, however much work waits', async () => {
  const turns = new Turns()
  let [done, beats] = [0, 0]
  const beat = setInterval(() => beats++, 0)
  const busy = () => {
    const until = performance.now() + 4
    while (performance.now() < until);
    done++
  }
  await Promise.all(Array.from({ length: 20 }, () => turns.take(busy)))
  clearInterval(beat)
  expect(done).toBe(20)
  expect(beats).toBeGreaterThan(5)
})

it('let the loop turn within a transaction too: between any two of its questions', async () => {
  const { db, close } = await openDatabase({ memory: true })
  let others = 0
  let asking = true
  const other = () => {
    others++
    if (asking) setImmediate(other)
  }
  setImmediate(other)
  await db.transaction(async tx => {
    for (let i = 0; i < 10; i++) await tx.execute(sql`select 1`)
  })
  asking = false
  expect(others).toBeGreaterThanOrEqual(10)
  await close()
})
