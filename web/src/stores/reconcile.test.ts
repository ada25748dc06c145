import { describe, expect, it } from 'vitest'
import type { SaveDocuments, TuneWithArrangements } from '#contract/documents'
import { documentsOf, rebased, reconcile, sameDocument, secondTitle } from './reconcile'
import { stage } from './testing'

const server = stage('D E F G |') as unknown as TuneWithArrangements
const [first] = server.arrangements
const held = (changes: Partial<TuneWithArrangements> = {}): TuneWithArrangements => ({
  ...server,
  arrangements: [first!, { ...first!, id: 'b', arrangement: { ...first!.arrangement, name: 'For cello' } }],
  ...changes,
})
const nothing: SaveDocuments = { tune: null, arrangements: [], removed: [] }
const fingers = (name: string, version: number | null = 1, id = 'a') => ({
  id,
  version,
  arrangement: { ...first!.arrangement, name },
})
const titled = (title: string, version = 1) => ({
  version,
  source: server.source,
  tune: { ...server.tune, title },
})
const names = (r: { docs: { arrangements: readonly { arrangement: { name: string } }[] } }) =>
  r.docs.arrangements.map(a => a.arrangement.name)
const newId = () => 'new'

describe('what one window changed and what the server holds', () => {
  it('what only I changed stands as I have it, what only they changed as they have it', () => {
    const theirs = held({
      version: 2,
      tune: { ...server.tune, title: 'Theirs' },
    })
    const r = reconcile(theirs, { ...nothing, arrangements: [fingers('Mine')] }, [], newId)
    expect([r.docs.tune.title, names(r)]).toEqual(['Theirs', ['Mine', 'For cello']])
    expect([r.second, r.beside, r.changed]).toEqual([null, [], true])
  })

  it('an arrangement both changed is there twice, mine under a name of its own', () => {
    const [own, other] = held().arrangements
    const theirs = held({
      arrangements: [{ ...own!, version: 2, arrangement: fingers('Theirs').arrangement }, other!],
    })
    const r = reconcile(theirs, { ...nothing, arrangements: [fingers('Mine')] }, [], newId)
    expect(names(r)).toEqual(['Theirs', 'Mine (second version)', 'For cello'])
    expect(r.beside).toEqual([{ id: 'new', name: 'Mine (second version)', of: 'a' }])
    expect(r.second).toBeNull()
  })

  it('a tune both changed is there twice, mine with all arrangements as I have them', () => {
    const theirs = held({ version: 2, tune: { ...server.tune, title: 'Theirs' } })
    const mine = { tune: titled('Mine'), arrangements: [fingers('Mine')], removed: [] }
    const r = reconcile(theirs, mine, [], newId)
    expect(r.docs).toEqual(documentsOf(theirs))
    expect(r.second?.tune.title).toBe('Mine')
    expect(r.second?.arrangements.map(a => a.arrangement.name)).toEqual(['Mine', 'For cello'])
    expect(r.changed).toBe(false)
  })

  it('the same change made twice is no clash, in whatever order its fields came', () => {
    const turned = Object.fromEntries(Object.entries(server.tune).reverse()) as typeof server.tune
    const theirs = held({ version: 2, tune: { ...turned, title: 'Same' } })
    const r = reconcile(theirs, { ...nothing, tune: titled('Same') }, [], newId)
    expect([r.second, r.changed]).toEqual([null, false])
  })

  it('what was sent and never answered is mine when the server holds it', () => {
    const theirs = held({ version: 2, tune: { ...server.tune, title: 'First' } })
    const mine = { ...nothing, tune: titled('Second') }
    expect(reconcile(theirs, mine, [], newId).second).not.toBeNull()
    const r = reconcile(theirs, mine, [{ ...nothing, tune: titled('First') }], newId)
    expect([r.second, r.docs.tune.title, r.changed]).toEqual([null, 'Second', true])
  })

  it('what I took away goes, unless they changed it meanwhile; what they took away and I changed stays', () => {
    const removed = { ...nothing, removed: [{ id: 'b', version: 1 }] }
    expect(names(reconcile(held(), removed, [], newId))).toEqual([first!.arrangement.name])
    const [own, other] = held().arrangements
    const changed = held({ arrangements: [own!, { ...other!, version: 2 }] })
    expect(names(reconcile(changed, removed, [], newId))).toEqual([first!.arrangement.name, 'For cello'])
    const gone = held({ arrangements: [own!] })
    const r = reconcile(gone, { ...nothing, arrangements: [fingers('Mine', 1, 'b')] }, [], newId)
    expect(names(r)).toEqual([first!.arrangement.name, 'Mine'])
  })

  it('undoing my edits does not take back those of others', () => {
    const stored = documentsOf(held())
    const own = (name: string) => ({
      ...stored,
      arrangements: [{ id: 'a', arrangement: fingers(name).arrangement }, stored.arrangements[1]!],
    })
    const theirs = documentsOf(
      held({
        tune: { ...server.tune, title: 'Theirs' },
        arrangements: [first!, { ...first!, id: 'c', arrangement: fingers('Of theirs').arrangement }],
      }),
    )
    const before = rebased(own('Before'), stored, theirs)
    expect(before.tune.title).toBe('Theirs')
    expect(before.arrangements.map(a => a.arrangement.name)).toEqual(['Before', 'Of theirs'])
    expect(rebased(stored, stored, theirs)).toEqual(theirs)
  })

  it('a title as long as it may be still has room for what the other is called', () => {
    const title = secondTitle('x'.repeat(400))
    expect([title.length, title.endsWith('x (second version)')]).toEqual([400, true])
  })

  it('a field that is undefined is none', () => {
    expect(sameDocument({ a: 1, b: undefined }, { a: 1 })).toBe(true)
    expect(sameDocument({ a: [1, 2] }, { a: [2, 1] })).toBe(false)
  })
})
