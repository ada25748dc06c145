import { setLetter } from '#core/music/edit/pitches'
import { STEPS } from '#core/music/pitch'
import { describe, expect, it } from 'vitest'
import { KNOWN_CODES, sentence } from '#core/findings/english'
import { readAbc } from '#core/formats/abc/readAbc'
import { readBackup, writeBackup } from '#core/formats/backup/backup'
import { sizeOf } from '#core/instruments/instruments'
import { parseKey } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import { readTuneDocument, type InstrumentId } from '#core/music/tune'
import { paginate } from '#core/tablature/pages'
import { tabModel } from '#core/tablature/tabModel'
import { tabText, valueText } from '#core/tablature/tabText'
import { demoSource } from '#demo/fillShelf'
import { derive, type DeriveCache } from './derive'
import { DEFAULT_SCHOOLS, newArrangement, readArrangement, type Arrangement } from './recipe'

const reel = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune
const recipe = (instrument: InstrumentId, changes: Partial<Arrangement> = {}): Arrangement => ({
  ...newArrangement(instrument, sizeOf(instrument).name),
  ...changes,
})
const firstPitch = (r: Arrangement) => formatPitch(derive(reel, r).fingering.notes[0]!.pitch)

describe('a recipe over a tune', () => {
  it('leaves a tune where it is on its own instrument and finds the octave on others', () => {
    expect(firstPitch(recipe('violin'))).toBe('E4')
    expect(firstPitch(recipe('viola'))).toBe('E3')
    expect(firstPitch(recipe('cello'))).toBe('E2')
    expect(firstPitch(recipe('cello', { octave: -1 }))).toBe('E3')
  })
  it('reads the instrument’s own clef', () => {
    expect(derive(reel, recipe('viola')).tune.clef).toBe('alto')
    expect(derive(reel, recipe('bass')).tune.clef).toBe('bass')
  })
  it('plays in another key with the same ids', () => {
    const d = derive(reel, recipe('violin', { key: parseKey('G') }))
    expect(formatPitch(d.fingering.notes[1]!.pitch)).toBe('G4')
    expect(d.fingering.notes.map(n => n.id)).toEqual(
      derive(reel, recipe('violin')).fingering.notes.map(n => n.id),
    )
  })
  it('gives the same result from a warm cache as from a cold one, whatever was asked before', () => {
    const cache: DeriveCache = {}
    const id = derive(reel, recipe('violin')).fingering.notes[3]!.id
    const pinned = { ...recipe('violin').pins, fingers: { [id]: { finger: 4 as const } } }
    const asked = [
      recipe('violin'),
      recipe('violin', { pins: pinned }),
      recipe('cello'),
      recipe('violin', { level: 1 }),
      recipe('violin'),
    ]
    for (const r of asked) {
      const [warm, cold] = [derive(reel, r, cache), derive(reel, r)]
      expect(warm.fingering.notes).toEqual(cold.fingering.notes)
      expect(warm.findings).toEqual(cold.findings)
    }
  })
  it('changes slurs by note, both ways', () => {
    const events = reel.measures[1]!.events
    const joins = { [events[1]!.id]: true }
    const d = derive(reel, recipe('violin', { pins: { ...recipe('violin').pins, joins } }))
    expect(d.bowing.strokes.find(s => s.notes.includes(events[1]!.id))!.notes).toEqual([
      events[0]!.id,
      events[1]!.id,
    ])
    expect(d.tune.slurs).toContainEqual({ from: events[0]!.id, to: events[1]!.id })
    const slurred = reel.slurs[0]!
    const parted = derive(
      reel,
      recipe('violin', { pins: { ...recipe('violin').pins, joins: { [slurred.to]: false } } }),
    )
    expect(parted.bowing.strokes.find(s => s.notes.includes(slurred.to))!.notes).toEqual([slurred.to])
    expect(parted.tune.slurs).toEqual([])
  })
})

describe('the page of tablature', () => {
  const d = derive(reel, recipe('violin'))
  const model = tabModel(d, recipe('violin'))
  it('has a digit for every note and a line for every string, highest on top', () => {
    const digits = model.systems
      .flat()
      .flatMap(m => m.events)
      .flatMap(e => e.digits)
    expect(model.lineLabels).toEqual(['E', 'A', 'D', 'G'])
    expect(digits).toHaveLength(d.fingering.notes.filter(n => !n.tiedFrom).length)
  })
  it('writes low, high and reached fingers with our marks, strings by number when wanted', () => {
    expect(tabText(model)).toContain('3›')
    expect(tabText(tabModel(derive(reel, recipe('cello')), recipe('cello')))).toContain('x4')
    const numbered = recipe('violin', { schools: { ...DEFAULT_SCHOOLS, strings: 'numbers' } })
    expect(tabModel(d, numbered).lineLabels).toEqual(['I', 'II', 'III', 'IV'])
  })
  it('shows the rhythm: values, dots, and tuplets by their written value', () => {
    expect(valueText({ duration: { n: 3, d: 2 } })).toBe('q.')
    expect(valueText({ duration: { n: 1, d: 3 }, tuplet: { group: 't', actual: 3, normal: 2 } })).toBe('e')
  })
  it('breaks lines by four measures and pages by height, losing nothing', () => {
    expect(model.systems.map(s => s.filter(m => m.number > 0).length)).toEqual([4, 4, 4, 4, 2])
    const pages = paginate([...Array(17).keys()], 'Letter', () => 40)
    expect(pages.flat()).toEqual([...Array(17).keys()])
    expect(pages[0]!.length).toBeLessThanOrEqual(pages[1]!.length)
    expect(paginate([1], 'A4', () => 900)).toEqual([[1]])
  })
})

it('an edited tune with what was kept from before comes to the same as one derived afresh', () => {
  const cache = {}
  const violin = recipe('violin')
  let tune = reel
  for (const [i, m] of reel.measures.slice(0, 6).entries()) {
    tune = setLetter(tune, m.events[0]!.id, STEPS[(i * 3) % 7]!).tune
    for (const r of [violin, { ...violin, level: 2 as const }, recipe('cello')]) expect(derive(tune, r, cache).fingering.notes).toEqual(derive(tune, r).fingering.notes) // prettier-ignore
  }
})

describe('documents', () => {
  it('are refused with the path of their first fault', () => {
    expect(readTuneDocument({ ...reel, version: 99 })).toMatchObject({ error: { path: 'version' } })
    expect(readArrangement({ ...recipe('violin'), octave: 2.5 })).toMatchObject({ error: { path: 'octave' } })
    const broken = JSON.parse(writeBackup([{ id: 'a', source: null, tune: reel, arrangements: [] }])) as {
      tunes: { tune: { title: unknown } }[]
    }
    broken.tunes[0]!.tune.title = 5
    expect(readBackup(JSON.stringify(broken))).toMatchObject({
      error: { code: 'format', path: 'tunes.0.tune.title' },
    })
    expect(readBackup('{"format":')).toMatchObject({ error: { code: 'json' } })
  })
  it('come back from a backup as they went in', () => {
    const stored = [
      { id: 'a', source: 'X:1', tune: reel, arrangements: [{ id: 'b', arrangement: recipe('bass') }] },
    ]
    expect(readBackup(writeBackup(stored))).toEqual({
      backup: { format: 'nokta', version: 1, tunes: stored },
    })
  })
})

it('every kind of finding has a sentence, and an unknown one is our own mistake', () => {
  for (const code of KNOWN_CODES)
    expect(sentence({ code, severity: 'note', where: {}, values: {} })).toMatch(/[.?]$/)
  expect(() => sentence({ code: 'no.such', severity: 'note', where: {}, values: {} })).toThrow()
})
