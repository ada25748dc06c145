import { describe, expect, it } from 'vitest'
import { newLearner } from '#core/instruments/learner'
import { newStudio, PART_FIELDS, partOf, STUDIO_PARTS } from '#core/instruments/studio'
import { running } from './testing'

const { call } = running()
const STUDIO = '/api/v1/studio'
const learner = { ...newLearner('h1', 'M.', 'cello', '1/2'), span: 118 }
const save = (version: number, doc: object) => call('PUT', STUDIO, { version, doc })

describe('what a studio entered', () => {
  it('has each of its fields in one part, and in one alone', () => {
    const fields = Object.values(PART_FIELDS).flat()
    expect([...fields].sort()).toEqual(
      Object.keys(newStudio())
        .filter(f => f !== 'version')
        .sort(),
    )
    const back = Object.assign({}, ...STUDIO_PARTS.map(p => partOf(newStudio(), p))) as Record<
      string,
      unknown
    >
    expect({ ...back, part: undefined, version: newStudio().version }).toEqual({
      ...newStudio(),
      part: undefined,
    })
  })

  it('begins empty, with our assumptions about hands', async () => {
    const versions = Object.fromEntries(STUDIO_PARTS.map(p => [p, 0]))
    expect(await call('GET', STUDIO)).toMatchObject({ status: 200, json: { versions, studio: newStudio() } })
  })

  it('keeps a part that is saved; a stale save changes nothing and gets what is stored', async () => {
    expect(await save(0, { part: 'learners', learners: [learner] })).toMatchObject({ json: { version: 1 } })
    for (const stale of [0, 2, 7])
      expect(await save(stale, { part: 'learners', learners: [] })).toMatchObject({
        status: 409,
        json: {
          error: { code: 'conflict' },
          current: { versions: { learners: 1 }, studio: { learners: [learner] } },
        },
      })
    expect((await call('GET', STUDIO)).json).toMatchObject({ studio: { learners: [learner] } })
  })

  it('parts do not stand in each other’s way', async () => {
    expect(await save(0, { part: 'ladder', levels: {}, levelNames: ['first'] })).toMatchObject({
      json: { version: 1 },
    })
    expect(await save(1, { part: 'learners', learners: [] })).toMatchObject({ json: { version: 2 } })
    expect((await call('GET', STUDIO)).json).toMatchObject({
      versions: { ladder: 1, learners: 2, styles: 0 },
      studio: { levelNames: ['first'], learners: [] },
    })
    expect(JSON.stringify((await call('GET', STUDIO)).json)).not.toContain('M.')
  })

  it.each([
    [
      'a span no hand has',
      { part: 'learners', learners: [{ ...learner, span: 900 }] },
      'doc.learners.0.span',
    ],
    [
      'a colour that is none',
      { part: 'tapes', tapes: { violin: { 2: 'reddish' } }, tensions: {}, leftHanded: false },
      'doc.tapes.violin.2',
    ],
    [
      'a tension below nothing',
      { part: 'tapes', tapes: {}, tensions: { bass: [-4] }, leftHanded: false },
      'doc.tensions.bass.0',
    ],
    ['a part that is none', { part: 'secrets' }, 'doc.part'],
    ['a field of another part', { part: 'words', countWords: ['e', 'and', 'a'], learners: [] }, 'doc'],
  ])('names the place of %s', async (_what, doc, where) => {
    expect(await save(2, doc)).toMatchObject({ status: 400, json: { error: { where } } })
  })
})
