import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { melodyPrint } from '#core/melody/print'
import { transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { errorSchema, urlOf } from '#contract/api'
import {
  alikeSchema,
  duplicatesSchema,
  importedSchema,
  kinSchema,
  tuneListSchema,
  tuneWithArrangementsSchema,
  versionItemSchema,
  versionListSchema,
  versionSchema,
  type TuneList,
} from '#contract/documents'
import { demoSource, fillShelf } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { running } from './testing'

const { call } = running(() => ({ seed: fillShelf }))
const shelf = async (query: Record<string, string | number> = {}): Promise<TuneList> =>
  tuneListSchema.parse((await call('GET', urlOf('shelf', {}, query))).json)
const titles = async (query: Record<string, string | number>) => (await shelf(query)).tunes.map(t => t.title)
const tune = readAbc(demoSource('heron-on-saltmarsh-lane.abc')).tunes[0]!.tune
const arrangement = newArrangement('violin', 'full')
const post = async (t: Tune) =>
  tuneWithArrangementsSchema.parse(
    (await call('POST', urlOf('createTune'), { source: null, tune: t, arrangement })).json,
  )

describe('looking for a tune', () => {
  it('by any words of title, composer, kind, key, metre, tag or instrument, with accents or without', async () => {
    const { id } = await post({
      ...tune,
      title: 'Café Öre',
      otherTitles: ['The Tin Whistle Hen'],
      tags: ['ball'],
    })
    expect(await titles({ search: 'cafe ore' })).toEqual(['Café Öre'])
    expect(await titles({ search: 'tin hen' })).toEqual(['Café Öre'])
    expect(await titles({ search: 'BALL dorian' })).toEqual(['Café Öre'])
    expect(await titles({ search: 'zzz' })).toEqual([])
    await call('DELETE', urlOf('tune', { id: id }))
    expect(await titles({ search: 'cafe' })).toEqual([])
  })

  it('by filters, alone and together', async () => {
    expect(await titles({ kind: 'reel' })).toContain('The Crooked Stile')
    for (const t of (await shelf({ instrument: 'bass' })).tunes) expect(t.instruments).toContain('bass')
    expect(await titles({ tuning: 'cross' })).toEqual(['The Ninepin Ring'])
    expect(await titles({ level: 3 })).toEqual(['Four Corners of Ostrey'])
    expect(await titles({ tuning: 'cross', kind: 'reel', key: 'C minor' })).toEqual([])
  })

  it('in the order asked for, a page at a time, with the counts for the filters', async () => {
    const all = await shelf()
    expect([all.total, all.shelf, all.tunes.length]).toEqual([
      DEMO_TUNES.length,
      DEMO_TUNES.length,
      DEMO_TUNES.length,
    ])
    const up = await titles({ sort: 'measures' })
    expect(await titles({ sort: 'measures', order: 'down' })).toEqual([...up].reverse())
    const page = await shelf({ offset: 3, limit: 4 })
    expect(page.tunes).toEqual(all.tunes.slice(3, 7))
    expect(all.facets.kind.reduce((n, f) => n + f.count, 0)).toBe(all.tunes.filter(t => t.kind).length)
  })

  it('with a bad question is told which part is wrong', async () => {
    const answer = await call('GET', urlOf('shelf', {}, { limit: 5000 }))
    expect([answer.status, errorSchema.parse(answer.json).error.where]).toEqual([400, 'limit'])
  })
})

describe('many tunes at once', () => {
  it('come in together or not at all', async () => {
    const before = (await shelf()).total
    const many = Array.from({ length: 5 }, (_, i) => ({
      source: null,
      tune: { ...tune, title: `Taken in ${i}` },
      arrangements: [{ id: 'a', arrangement }],
    }))
    const { ids } = importedSchema.parse((await call('POST', urlOf('importTunes'), { tunes: many })).json)
    expect([ids.length, (await shelf()).total]).toEqual([5, before + 5])
    const broken = await call('POST', urlOf('importTunes'), {
      tunes: [
        ...many,
        { source: null, tune: { ...tune, title: 7 }, arrangements: [{ id: 'a', arrangement }] },
      ],
    })
    expect([broken.status, errorSchema.parse(broken.json).error.where]).toEqual([400, 'tunes.5.tune.title'])
    expect((await shelf()).total).toBe(before + 5)
    for (const id of ids) await call('DELETE', urlOf('tune', { id: id }))
  })
})

describe('the same melody', () => {
  it('is known in another key and under another title', async () => {
    const moved = transposeTune({ ...tune, title: 'Quite Another Name' }, { letters: 3, semitones: 5 })
    const { alike } = alikeSchema.parse(
      (await call('POST', urlOf('alike'), { prints: [melodyPrint(moved), []] })).json,
    )
    expect(alike).toMatchObject([[{ title: 'The Heron on Saltmarsh Lane', likeness: 1 }], []])
    const { id } = await post(moved)
    const { pairs } = duplicatesSchema.parse((await call('GET', urlOf('duplicates'))).json)
    expect(pairs.map(p => [p.a.title, p.b.title].sort())).toEqual([
      ['Quite Another Name', 'The Heron on Saltmarsh Lane'],
    ])
    await call('DELETE', urlOf('tune', { id: id }))
    expect(duplicatesSchema.parse((await call('GET', urlOf('duplicates'))).json).pairs).toEqual([])
  })
})

describe('a phrase', () => {
  const own = readAbc(
    'X:1\nT:Own\nM:4/4\nL:1/8\nK:G\nG2BG dGBG|A2cA eAcA|B2dB gBdB|cBAG F2D2|b2ag f2e2|dcBA G2F2|E2G2 F2A2|G8|]',
  ).tunes[0]!.tune
  const kinOf = async (id: string) =>
    kinSchema.parse((await call('POST', urlOf('kin', { id: id }), { boundaries: {} })).json).tunes
  it('is known from another tune, in another key too', async () => {
    const other = readAbc(
      'X:1\nT:Other\nM:4/4\nL:1/8\nK:D\nf2ed c2B2|A2F2 D4|E2G2 F2E2|D8|D2FD ADFD|E2GE BEGE|F2AF dFAF|GFED C2A,2|]',
    ).tunes[0]!.tune
    const mine = await post(own)
    const theirs = await post(other)
    const found = (await kinOf(mine.id)).find(t => t.id === theirs.id)
    expect(found).toMatchObject({
      title: 'Other',
      kin: [{ phrase: 'A1', of: 'A2', relation: 'transposed', moved: { semitones: 5, exact: true } }],
    })
    for (const t of [mine, theirs]) await call('DELETE', urlOf('tune', { id: t.id }))
  })
  it('of a tune that is not there is an error that says so', async () => {
    expect(await call('POST', urlOf('kin', { id: 'nowhere' }), { boundaries: {} })).toMatchObject({
      status: 404,
    })
    expect(await call('POST', urlOf('kin', { id: 'nowhere' }), { boundaries: 3 })).toMatchObject({
      status: 400,
    })
  })
})

describe('versions', () => {
  const versionsOf = async (id: string) =>
    versionListSchema.parse((await call('GET', urlOf('versions', { id: id }))).json).versions

  it('are kept before the first save, then not with every save, and by name at once', async () => {
    const { id } = await post(tune)
    await call('PUT', urlOf('saveDocuments', { id }), {
      tune: { version: 1, source: null, tune: { ...tune, title: 'Second' } },
      arrangements: [],
      removed: [],
    })
    await call('PUT', urlOf('saveDocuments', { id }), {
      tune: { version: 2, source: null, tune: { ...tune, title: 'Third' } },
      arrangements: [],
      removed: [],
    })
    expect(await versionsOf(id)).toMatchObject([{ name: '', kept: false }])
    const named = versionItemSchema.parse(
      (await call('POST', urlOf('versions', { id: id }), { name: 'For the ball' })).json,
    )
    expect((await versionsOf(id)).map(v => v.name)).toEqual(['For the ball', ''])
    const kept = versionSchema.parse((await call('GET', urlOf('version', { id: named.id }))).json)
    expect([kept.tune.title, kept.arrangements.map(a => a.arrangement)]).toEqual(['Third', [arrangement]])
    const [, first] = await versionsOf(id)
    expect(
      versionSchema.parse((await call('GET', urlOf('version', { id: first!.id }))).json).tune.title,
    ).toBe(tune.title)
    expect((await call('PUT', urlOf('version', { id: first!.id }), { name: 'As it was' })).status).toBe(204)
    expect((await versionsOf(id))[1]).toMatchObject({ name: 'As it was', kept: true })
  })

  it('of a stale save are not kept', async () => {
    const { id } = await post(tune)
    await call('PUT', urlOf('saveDocuments', { id }), {
      tune: { version: 7, source: null, tune },
      arrangements: [],
      removed: [],
    })
    expect(await versionsOf(id)).toEqual([])
  })

  it('that are not there say so', async () => {
    expect((await call('GET', urlOf('version', { id: 'none' }))).status).toBe(404)
    expect((await call('PUT', urlOf('version', { id: 'none' }), { name: 'x' })).status).toBe(404)
    expect((await call('POST', urlOf('versions', { id: 'none' }), { name: 'x' })).status).toBe(404)
  })
})
