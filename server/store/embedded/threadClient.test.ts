import { afterAll, beforeAll, expect, it } from 'vitest'
import { DatabaseFault, ThreadClient } from './threadClient'

let client: ThreadClient
beforeAll(async () => {
  client = new ThreadClient(null)
  await client.query('create table said (word text primary key, at timestamptz default now(), more json)')
})
afterAll(() => client.close())

const words = async () =>
  (
    await client.query('select word from said order by word', [], { rowMode: 'array' })
  ).rows.flat() as unknown[] as string[]

it('works beside: the loop of whoever asks goes on turning', async () => {
  let [turns, asking] = [0, true]
  const turn = () => {
    turns++
    if (asking) setTimeout(turn)
  }
  setTimeout(turn)
  const { rows } = await client.query('select count(*)::int as n from generate_series(1, 2000000)')
  asking = false
  expect(rows).toEqual([{ n: 2_000_000 }])
  expect(turns).toBeGreaterThan(5)
})

it('takes a transaction back whole, and nothing that others asked in between', async () => {
  const transaction = client.transaction(async tx => {
    await tx.query('insert into said (word) values ($1)', ['inside'])
    const beside = client.query('insert into said (word) values ($1)', ['beside'])
    await tx.query('insert into said (word) values ($1)', ['inside too'])
    throw Object.assign(new Error('taken back'), { beside })
  })
  const fault = await transaction.catch((e: Error & { beside?: Promise<unknown> }) => e)
  expect(fault).toMatchObject({ message: 'taken back' })
  await (fault as { beside?: Promise<unknown> }).beside
  expect(await words()).toEqual(['beside'])
})

it('takes back nothing that was asked in the same breath', async () => {
  const fails = (n: number) =>
    client.transaction(tx =>
      tx
        .query('insert into said (word) values ($1)', [`no ${n}`])
        .then(() => Promise.reject(new Error('taken back'))),
    )
  const asks = (n: number) => client.query('insert into said (word) values ($1)', [`yes ${n}`])
  await Promise.allSettled([fails(1), asks(1), fails(2), fails(3), asks(2), asks(3), fails(4), asks(4)])
  expect((await words()).filter(w => w !== 'beside')).toEqual(['yes 1', 'yes 2', 'yes 3', 'yes 4'])
  await client.query("delete from said where word like 'yes%'")
})

it('keeps what a transaction did that went through, and gives its result', async () => {
  const result = await client.transaction(async tx => {
    await tx.query("insert into said (word) values ('one'), ('two')")
    return (await tx.query('select count(*)::int as n from said')).rows
  })
  expect(result).toEqual([{ n: 3 }])
  expect(await words()).toEqual(['beside', 'one', 'two'])
})

it('refuses what is asked of a transaction that is over', async () => {
  let late: (() => Promise<unknown>) | undefined
  await client.transaction(tx => {
    late = () => tx.query("insert into said (word) values ('late')")
    return tx.query('select 1')
  })
  await expect(late!()).rejects.toThrow('This transaction is over.')
  expect(await words()).toEqual(['beside', 'one', 'two'])
})

it('says why a question was refused, and answers the next', async () => {
  const again = client.query("insert into said (word) values ('one')")
  await expect(again).rejects.toBeInstanceOf(DatabaseFault)
  await expect(again).rejects.toMatchObject({ code: '23505' })
  await expect(client.query('select 1 from nowhere')).rejects.toMatchObject({ code: '42P01' })
  expect(await words()).toHaveLength(3)
})

it('leaves dates and documents as the text they are stored as', async () => {
  await client.query('insert into said (word, at, more) values ($1, $2, $3)', [
    'three',
    '2026-01-02T03:04:05Z',
    '{"a": [1,  2]}',
  ])
  const { rows } = await client.query("select at, more from said where word = 'three'")
  expect(rows).toEqual([{ at: expect.stringMatching(/^2026-01-02 03:04:05/), more: '{"a": [1,  2]}' }])
})

it('keeps nobody waiting who asks when it is closed, or after', async () => {
  const short = new ThreadClient(null)
  const before = short.query('select 1 as n')
  const closed = short.close()
  expect((await before).rows).toEqual([{ n: 1 }])
  await closed
  await expect(short.query('select 1')).rejects.toThrow('The database was closed.')
  await expect(short.transaction(tx => tx.query('select 1'))).rejects.toThrow('The database was closed.')
})

it('keeps nobody waiting when its thread ends in the middle of it', async () => {
  const short = new ThreadClient(null)
  await short.query('select 1')
  const slow = 'select count(*) from generate_series(1, 100000000)'
  const waiting = [short.query(slow), short.transaction(tx => tx.query(slow))]
  const answers = Promise.allSettled(waiting)
  await short['thread'].terminate()
  expect(await answers).toMatchObject(
    waiting.map(() => ({ status: 'rejected', reason: { message: 'The database was closed.' } })),
  )
})
