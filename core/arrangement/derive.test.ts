import { ASSUMED_HANDS } from '#core/arrangement/context'
import { setLetter } from '#core/music/edit/pitches'
import { STEPS } from '#core/music/pitch'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { LEFT_OUT, readBackup, writeBackup } from '#core/formats/backup/backup'
import { sizeOf } from '#core/instruments/instruments'
import { parseKey } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import { tuneSchema, type InstrumentId } from '#core/music/tune'
import { readDocument } from '#core/documents/versioned'
import { tabModel } from '#core/tablature/tabModel'
import { tabText, valueText } from '#core/tablature/tabText'
import { demoSource } from '#demo/fillShelf'
import { derive, DeriveMemory } from './derive'
import { withPlayed, withShown } from './edits'
import { arrangementSchema, newArrangement, NO_PINS, type Arrangement, type Played } from './recipe'

const reel = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune
const recipe = (instrument: InstrumentId, played: Partial<Played> = {}): Arrangement =>
  withPlayed(newArrangement(instrument, sizeOf(instrument).name), played)
const firstPitch = (r: Arrangement) => formatPitch(derive(reel, r, ASSUMED_HANDS).fingering.notes[0]!.pitch)

describe('a recipe over a tune', () => {
  it('leaves a tune where it is on its own instrument and finds the octave on others', () => {
    expect(firstPitch(recipe('violin'))).toBe('E4')
    expect(firstPitch(recipe('viola'))).toBe('E3')
    expect(firstPitch(recipe('cello'))).toBe('E2')
    expect(firstPitch(recipe('cello', { octave: -1 }))).toBe('E3')
  })
  it('reads the instrument’s own clef', () => {
    expect(derive(reel, recipe('viola'), ASSUMED_HANDS).tune.clef).toBe('alto')
    expect(derive(reel, recipe('bass'), ASSUMED_HANDS).tune.clef).toBe('bass')
  })
  it('plays in another key with the same ids', () => {
    const d = derive(reel, recipe('violin', { key: parseKey('G') }), ASSUMED_HANDS)
    expect(formatPitch(d.fingering.notes[1]!.pitch)).toBe('G4')
    expect(d.fingering.notes.map(n => n.id)).toEqual(
      derive(reel, recipe('violin'), ASSUMED_HANDS).fingering.notes.map(n => n.id),
    )
  })
  it('gives the same result from a warm cache as from a cold one, whatever was asked before', () => {
    const cache = new DeriveMemory()
    const id = derive(reel, recipe('violin'), ASSUMED_HANDS).fingering.notes[3]!.id
    const pinned = { ...NO_PINS, fingers: { [id]: { finger: 4 as const } } }
    const asked = [
      recipe('violin'),
      recipe('violin', { pins: pinned }),
      recipe('cello'),
      recipe('violin', { level: 1 }),
      recipe('violin'),
    ]
    for (const r of asked) {
      const [warm, cold] = [derive(reel, r, ASSUMED_HANDS, cache), derive(reel, r, ASSUMED_HANDS)]
      expect(warm.fingering.notes).toEqual(cold.fingering.notes)
      expect(warm.findings).toEqual(cold.findings)
    }
  })
  it('changes slurs by note, both ways', () => {
    const events = reel.measures[1]!.events
    const joins = { [events[1]!.id]: true }
    const d = derive(reel, recipe('violin', { pins: { ...NO_PINS, joins } }), ASSUMED_HANDS)
    expect(d.bowing.strokes.find(s => s.notes.includes(events[1]!.id))!.notes).toEqual([
      events[0]!.id,
      events[1]!.id,
    ])
    expect(d.tune.slurs).toContainEqual({ from: events[0]!.id, to: events[1]!.id })
    const slurred = reel.slurs[0]!
    const parted = derive(
      reel,
      recipe('violin', { pins: { ...NO_PINS, joins: { [slurred.to]: false } } }),
      ASSUMED_HANDS,
    )
    expect(parted.bowing.strokes.find(s => s.notes.includes(slurred.to))!.notes).toEqual([slurred.to])
    expect(parted.tune.slurs).toEqual([])
  })
})

describe('the page of tablature', () => {
  const d = derive(reel, recipe('violin'), ASSUMED_HANDS)
  const model = tabModel(d, recipe('violin'))
  it('has a digit for every note and a line for every string, highest on top', () => {
    const digits = model.measures.flatMap(m => m.events).flatMap(e => e.digits)
    expect(model.lineLabels).toEqual(['E', 'A', 'D', 'G'])
    expect(digits).toHaveLength(d.fingering.notes.filter(n => !n.tiedFrom).length)
  })
  it('writes low, high and reached fingers with our marks, strings by number when wanted', () => {
    expect(tabText('', model)).toContain('3›')
    expect(tabText('', tabModel(derive(reel, recipe('cello'), ASSUMED_HANDS), recipe('cello')))).toContain(
      'x4',
    )
    const numbered = withShown(recipe('violin'), { strings: 'numbers' })
    expect(tabModel(d, numbered).lineLabels).toEqual(['I', 'II', 'III', 'IV'])
  })
  it('shows the rhythm: values, dots, and tuplets by their written value', () => {
    expect(valueText({ duration: { n: 3, d: 2 } })).toBe('q.')
    expect(valueText({ duration: { n: 1, d: 3 }, tuplet: { group: 't', actual: 3, normal: 2 } })).toBe('e')
  })
})

it('an edited tune with what was kept from before comes to the same as one derived afresh', () => {
  const cache = new DeriveMemory()
  const violin = recipe('violin')
  let tune = reel
  for (const [i, m] of reel.measures.slice(0, 6).entries()) {
    tune = setLetter(tune, m.events[0]!.id, STEPS[(i * 3) % 7]!).tune
    for (const r of [violin, withPlayed(violin, { level: 2 }), recipe('cello')])
      expect(derive(tune, r, ASSUMED_HANDS, cache).fingering.notes).toEqual(
        derive(tune, r, ASSUMED_HANDS).fingering.notes,
      )
  }
})

describe('documents', () => {
  it('are refused with the path of their first fault', () => {
    expect(readDocument(tuneSchema, { ...reel, version: 99 })).toMatchObject({ error: { path: 'version' } })
    expect(readDocument(arrangementSchema, recipe('violin', { octave: 2.5 }))).toMatchObject({
      error: { path: 'played.octave' },
    })
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
      backup: { format: 'nokta', version: 2, leftOut: LEFT_OUT, tunes: stored },
    })
  })
})
