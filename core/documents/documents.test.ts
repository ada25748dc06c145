import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { arrangementSchema, ARRANGEMENT_VERSION } from '#core/arrangement/recipe'
import { BACKUP_VERSION, backupSchema } from '#core/formats/backup/backup'
import { STUDIO_VERSION, studioSchema } from '#core/instruments/studio'
import { TUNE_VERSION, tuneSchema } from '#core/music/tune'
import { isObject, readDocument, versioned } from './versioned'

const folder = new URL('./examples/', import.meta.url)
const example = (name: string) => JSON.parse(readFileSync(new URL(name, folder), 'utf8')) as unknown
/** Every kind of document: its schema, and the number it is at. */
const KINDS: Readonly<Record<string, readonly [z.ZodType, number]>> = {
  tune: [tuneSchema, TUNE_VERSION],
  arrangement: [arrangementSchema, ARRANGEMENT_VERSION],
  studio: [studioSchema, STUDIO_VERSION],
  backup: [backupSchema, BACKUP_VERSION],
}
const cases = Object.entries(KINDS).flatMap(([kind, [schema, current]]) =>
  Array.from({ length: current }, (_, i) => [kind, i + 1, schema, current] as const),
)

describe('documents of every version', () => {
  it.each(cases)('%s of version %i is read as it is now', (kind, version, schema, current) => {
    const doc = example(`${kind}.v${version}.json`)
    expect(doc).toMatchObject({ version })
    const read = readDocument(schema, doc)
    expect(read).toMatchObject({ doc: { version: current } })
    // What is read is written and read again as the same.
    const { doc: now } = read as { doc: unknown }
    expect(readDocument(schema, JSON.parse(JSON.stringify(now)))).toEqual({ doc: now })
  })

  it('have an example each, and no example is of a kind nobody reads', () => {
    expect(readdirSync(folder).sort()).toEqual(cases.map(([kind, v]) => `${kind}.v${v}.json`).sort())
  })

  it('an arrangement in one piece is parted with nothing lost', () => {
    const read = readDocument(arrangementSchema, example('arrangement.v1.json'))
    expect(read).toEqual(readDocument(arrangementSchema, example('arrangement.v2.json')))
  })

  it('a measured hand becomes a learner of whom nothing else is known', () => {
    expect(readDocument(studioSchema, example('studio.v1.json'))).toMatchObject({
      doc: {
        learners: [
          {
            name: 'M.',
            instrument: 'cello',
            size: '1/2',
            span: 118,
            level: 1,
            skills: {},
            fastest: null,
            notes: '',
          },
        ],
        levels: {},
      },
    })
  })

  it('a pinned direction becomes a pin that can say more, and nothing may be added until somebody says so', () => {
    const read = readDocument(arrangementSchema, example('arrangement.v2.json'))
    expect(read).toMatchObject({
      doc: {
        played: {
          pins: { strokes: { n3: { direction: 'up' } }, joins: { n4: true } },
          bow: {
            may: { slur: false, hook: false, lift: false, part: false },
            habits: { dotted: 'written', triplets: 'written' },
            groove: null,
            passages: [],
          },
        },
      },
    })
  })
})

/** Every object in a document, with its path. */
function objectsIn(
  value: unknown,
  path: readonly (string | number)[] = [],
): (readonly (string | number)[])[] {
  if (Array.isArray(value)) return value.flatMap((v, i) => objectsIn(v, [...path, i]))
  if (!isObject(value)) return []
  return [path, ...Object.entries(value).flatMap(([k, v]) => objectsIn(v, [...path, k]))]
}
function withUnknown(doc: unknown, path: readonly (string | number)[]): unknown {
  const copy = structuredClone(doc) as Record<string | number, never>
  let at: Record<string | number, unknown> = copy
  for (const step of path) at = at[step] as typeof at
  at['nobody knows'] = 1
  return copy
}
/** Objects that are records by id: there any name is a name. */
const RECORDS =
  /(fingers|strokes|joins|boundaries|kin|names|lines|remarks|phraseNames|tensions|tapes|tapes\.\w+)$/

describe('a field nobody knows', () => {
  it.each(cases)(
    'in any object of a %s of version %i is an error with its place',
    (kind, version, schema) => {
      const doc = example(`${kind}.v${version}.json`)
      const places = objectsIn(doc).filter(p => !RECORDS.test(p.join('.')))
      expect(places.length).toBeGreaterThan(1)
      for (const path of places) {
        const read = readDocument(schema, withUnknown(doc, path))
        expect(read, path.join('.')).toHaveProperty('error')
      }
    },
  )
})

describe('the ladder', () => {
  const schema = versioned(z.strictObject({ version: z.literal(3), sum: z.number() }), [
    d => ({ version: 2, a: d.a, b: 0 }),
    d => ({ version: 3, sum: Number(d.a) + Number(d.b) }),
  ])
  it('is climbed from wherever a document stands', () => {
    expect(readDocument(schema, { version: 1, a: 4 })).toEqual({ doc: { version: 3, sum: 4 } })
    expect(readDocument(schema, { version: 2, a: 4, b: 3 })).toEqual({ doc: { version: 3, sum: 7 } })
    expect(readDocument(schema, { version: 3, sum: 1 })).toEqual({ doc: { version: 3, sum: 1 } })
  })
  it('ends where we are: a later document is refused with that reason', () => {
    expect(readDocument(schema, { version: 4, sum: 1 })).toMatchObject({
      error: { path: 'version', message: expect.stringContaining('newer Nokta (version 4') as string },
    })
    for (const wrong of [{ version: 0 }, { version: 'one' }, {}, null, [], 'text'])
      expect(readDocument(schema, wrong)).toHaveProperty('error')
  })
})
