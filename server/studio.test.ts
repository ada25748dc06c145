import { describe, expect, it } from 'vitest'
import { newLearner } from '#core/instruments/learner'
import { newStudio } from '#core/instruments/studio'
import { running } from './testing'

const { call } = running()

const learner = { ...newLearner('h1', 'M.', 'cello', '1/2'), span: 118 }

describe('the studio’s document', () => {
  it('begins empty, with our assumptions about hands', async () => {
    expect(await call('GET', '/api/v1/studio')).toMatchObject({ status: 200, json: { version: 1, studio: newStudio() } }) // prettier-ignore
  })

  it('keeps what is saved; a stale save changes nothing and gets what is stored', async () => {
    const studio = { ...newStudio(), learners: [learner], tensions: { violin: [82, null, 47, 44] } }
    expect(await call('PUT', '/api/v1/studio', { version: 1, studio })).toMatchObject({ json: { version: 2 } }) // prettier-ignore
    const stale = await call('PUT', '/api/v1/studio', { version: 1, studio: newStudio() })
    expect(stale).toMatchObject({ status: 409, json: { error: { code: 'conflict' }, current: { version: 2, studio } } }) // prettier-ignore
    expect((await call('GET', '/api/v1/studio')).json).toMatchObject({ version: 2, studio })
  })

  it('erases a learner for good', async () => {
    await call('PUT', '/api/v1/studio', { version: 2, studio: newStudio() })
    expect(JSON.stringify((await call('GET', '/api/v1/studio')).json)).not.toContain('M.')
  })

  it.each([
    ['a span no hand has', { learners: [{ ...learner, span: 900 }] }, 'studio.learners.0.span'],
    ['a colour that is none', { tapes: { violin: { 2: 'reddish' } } }, 'studio.tapes.violin.2'],
    ['a tension below nothing', { tensions: { bass: [-4] } }, 'studio.tensions.bass.0'],
  ])('names the place of %s', async (_what, wrong, where) => {
    const answer = await call('PUT', '/api/v1/studio', { version: 3, studio: { ...newStudio(), ...wrong } })
    expect(answer).toMatchObject({ status: 400, json: { error: { where } } })
  })
})
