import express from 'express'
import { describe, expect, it } from 'vitest'
import { errorsTo, logged } from './errors'
import { isDiskFull } from './store/limits'
import { SILENT } from './log'

const coded = (code: string, cause?: Error) => Object.assign(new Error('secret', { cause }), { code })

/** What a client is told when a request fails so. */
async function answerTo(error: unknown) {
  const app = express()
  app.get('/', () => {
    throw error
  })
  app.use(errorsTo(SILENT))
  const server = app.listen(0, '127.0.0.1')
  await new Promise(ready => server.once('listening', ready))
  const { port } = server.address() as { port: number }
  const answer = await fetch(`http://127.0.0.1:${port}/`)
  const { error: told } = (await answer.json()) as { error: { code: string; message: string } }
  await new Promise(closed => server.close(closed))
  return { status: answer.status, ...told }
}

describe('errors as they are told', () => {
  it.each([
    ['the system', coded('ENOSPC')],
    ['a quota', coded('EDQUOT')],
    ['the database, within a failed query', new Error('query', { cause: coded('53100') })],
  ])('a full disk, said by %s, is said as one', async (_, error) => {
    expect(isDiskFull(error)).toBe(true)
    expect(await answerTo(error)).toMatchObject({
      status: 507,
      code: 'diskFull',
      message: expect.stringContaining('full: nothing was saved') as string,
    })
  })
  it('our own mistakes tell nothing but that there was one', async () => {
    expect(isDiskFull(coded('23505'))).toBe(false)
    const told = await answerTo(coded('23505'))
    expect(told).toMatchObject({ status: 500, code: 'internal' })
    expect(JSON.stringify(told)).not.toContain('secret')
  })
  it.each([
    ['entity.too.large', 413, 'tooLarge'],
    ['entity.parse.failed', 400, 'badRequest'],
    ['charset.unsupported', 400, 'badRequest'],
  ])('%s is the request’s own fault', async (type, status, code) => {
    expect(await answerTo(Object.assign(new Error('body'), { type }))).toMatchObject({ status, code })
  })
  it('a request that can’t be read keeps its 400, whatever kind it was', async () => {
    expect(await answerTo(Object.assign(new Error('bad escape'), { status: 404 }))).toMatchObject({
      status: 400,
      code: 'badRequest',
    })
    expect(await answerTo(Object.assign(new Error('odd'), { status: 302 }))).toMatchObject({ status: 500 })
  })
})

describe('what is logged of a fault', () => {
  it('is its name, its code and where, and no word of what it was about', () => {
    const text = logged(new Error('Amsel in G', { cause: coded('53100') }))
    expect(text).toMatch(/^Error 53100\n\s+at /)
    expect(text).not.toContain('Amsel')
    expect(logged(new Error('Amsel in G'))).toMatch(/^Error\n\s+at /)
    expect(logged('Amsel in G')).toBe('an error that is none')
  })
})
