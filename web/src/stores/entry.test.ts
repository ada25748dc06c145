import { afterEach, describe, expect, it, vi } from 'vitest'
import { frac } from '#core/music/fraction'
import { formatPitch, parsePitch } from '#core/music/pitch'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { runWriteKey, COMMANDS, WRITE_COMMANDS } from '../bench/keys'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { useEntry } from './entry'
import type { PartDocuments } from '#core/desk/part'
import { settled, stage, straightDesk } from './testing'

const served = vi.hoisted(() => ({ tune: null as unknown }))
vi.mock('../api/client', () => ({
  api: {
    tune: () => Promise.resolve(served.tune),
    save: () => Promise.resolve({ tune: 2, arrangements: [] }),
  },
  ApiError: class extends Error {},
}))
vi.mock('../worker/client', async importOriginal => ({
  ...(await importOriginal<object>()),
  askPart: (...asked: Parameters<typeof desk.askPart>) => desk.askPart(...asked),
  derivedOf: (part: PartDocuments) => desk.derivedOf(part),
}))
const desk = straightDesk()
afterEach(() => void vi.unstubAllGlobals())

async function open(...given: Parameters<typeof stage>) {
  served.tune = stage(...given)
  const [docs, part, entry] = [useDocuments(), useParts().inUse, useEntry()]
  await docs.open('t')
  await settled()
  entry.writing = true
  const music = () =>
    writeAbc(docs.documents!.tune)
      .text.split(/\nK:.*\n/)[1]!
      .trim()
      .replace(/\s+/g, ' ')
  const ids = () => docs.documents!.tune.measures.flatMap(m => m.events.map(e => e.id))
  /** Presses keys one after another; "^" before a key holds Control, "+" Shift. */
  async function press(...keys: string[]) {
    for (const k of keys) {
      const shift = k.length > 1 && k.startsWith('+')
      const ctrl = k.length > 1 && k.startsWith('^')
      const key = shift || ctrl ? k.slice(1) : k
      runWriteKey({ docs, part }, entry, {
        key,
        shiftKey: shift,
        ctrlKey: ctrl,
        metaKey: false,
        altKey: false,
      } as KeyboardEvent)
      await settled()
    }
  }
  return { docs, part, entry, music, ids, press }
}

describe('writing by key', () => {
  it('goes on after the last note, bar by bar', async () => {
    const { music, press } = await open('D E F G |')
    await press('a', 'b', '1', 'c', 'd', '2', 'z', '4', 'd')
    expect(music()).toBe('D2 E2 F2 G2 | A2 B2 cd z2 | d4 |')
  })

  it('goes on after the note that is chosen, and leaves the cursor on what was written', async () => {
    const { part, music, press, ids } = await open('D E F |')
    part.selectEvent(ids()[0]!)
    await press('g')
    expect(music()).toBe('D2 G2 E2 F2 |')
    expect(part.caret).toBe(ids()[1])
    expect(formatPitch(parsePitch(part.selectedNote!.pitch)!)).toBe('G4')
  })

  it('corrects one note after another', async () => {
    const { part, entry, music, press, ids } = await open('D E F G |')
    part.selectEvent(ids()[1]!)
    entry.mode = 'correct'
    await press('f', 'g')
    expect(music()).toBe('D2 F2 G2 G2 |')
    await press('3')
    expect(music()).toBe('D2 F2 G2 G3 |')
    // Lengths that are no whole number of eighths too: the buttons have a sixteenth.
    entry.take(frac(1, 4))
    expect(music()).toBe('D2F2G2G/2 |')
  })

  it('is undone and done again, note by note', async () => {
    const { docs, music, press } = await open('D E |')
    await press('f', 'g')
    docs.undo()
    expect(music()).toBe('D2 E2 F2 |')
    docs.undo()
    docs.undo()
    expect(music()).toBe('D2 E2 |')
    docs.redo()
    expect(music()).toBe('D2 E2 F2 |')
  })

  it('makes double stops, triplets, ties from either side, slurs over what is chosen', async () => {
    const { part, music, press, ids } = await open('D E |')
    part.selectEvent(ids()[0]!)
    await press('+A')
    expect(music()).toBe('[D2A2] E2 |'.replace('[D2A2]', '[DA]2'))
    part.selectEvent(ids()[1]!)
    await press('1', 'y', 'f', 'g', 'a', 'y', '2', 'a', 't')
    expect(music()).toBe('[DA]2 E2 (3:2:3FGA- A2 |')
    part.selectEvent(ids()[0]!)
    await press('+ArrowRight', 's')
    expect(music()).toBe('([DA]2 E2) (3:2:3FGA- A2 |')
  })

  it('copies, cuts and pastes, and takes out', async () => {
    const { docs, part, music, press, ids } = await open('D E F G | A4 |')
    part.selectEvent(ids()[0]!)
    await press('m', '^c')
    part.selectEvent(ids()[4]!)
    await press('^v')
    expect(music()).toBe('D2 E2 F2 G2 | A8 | D2 E2 F2 G2 |')
    part.selectEvent(ids()[4]!)
    await press('^x')
    expect(music()).toBe('D2 E2 F2 G2 | D2 E2 F2 G2 |')
    await press('^a', 'Delete')
    expect(docs.documents!.tune.measures).toEqual([])
  })

  it('writes what is seen when the arrangement lies in another key and octave', async () => {
    const { docs, part, press } = await open('D E F |', {
      key: { step: 'A', alter: 0, mode: 'major' },
      octave: 1,
    })
    await press('a')
    const shown = part.result!.notes.at(-1)!.pitch
    expect(shown[0]).toBe('A')
    expect(docs.documents!.tune.measures[0]!.events.at(-1)).toMatchObject({
      heads: [{ pitch: { step: 'D' } }],
    })
  })

  it('leaves keys it does not know to the bench', async () => {
    const { docs, part, entry } = await open('D |')
    const key = (k: string, ctrl = false) =>
      runWriteKey({ docs, part }, entry, {
        key: k,
        shiftKey: false,
        ctrlKey: ctrl,
        metaKey: false,
        altKey: false,
      } as KeyboardEvent)
    expect([key('q'), key('z', true), key('?')]).toEqual([false, false, false])
  })
})

describe('tapping the fingerboard', () => {
  it('writes the pitch in the key and pins string and finger, unless told not to', async () => {
    const { part, entry, music } = await open('D |')
    entry.tap(1, 3)
    await settled()
    expect(music()).toBe('D2 =c2 |')
    const id = part.caret!
    expect(part.recipe!.played.pins.fingers[id]).toEqual({ string: 1, finger: 2 })
    expect(part.selectedNote).toMatchObject({ string: 1, finger: 2 })
    entry.keepPins = false
    entry.tap(2, 7)
    await settled()
    expect(part.recipe!.played.pins.fingers[part.caret!]).toBeUndefined()
  })

  it('adds to the note before when asked', async () => {
    const { part, entry, music, ids } = await open('A |')
    part.selectEvent(ids()[0]!)
    entry.tap(2, 0, true)
    await settled()
    expect(music()).toBe('[DA]2 |')
  })
})

describe('the bench', () => {
  it('keeps facts and text together', async () => {
    const { docs } = await open('D E F G |')
    docs.editFacts({ title: 'Renamed', composer: 'Odile Farrant' })
    expect(docs.documents!.source).toMatch(/T:Renamed\nC:Odile Farrant/)
    docs.undo()
    expect(docs.documents!.source).toMatch(/T:Staged/)
  })

  it('walks over rests too, and chooses stretches in either direction', async () => {
    const { part, ids } = await open('D z F G |')
    part.selectEvent(ids()[0]!)
    part.walkEvents(1, false)
    expect([part.caret, part.selected]).toEqual([ids()[1], null])
    part.walkEvents(1, false)
    part.walkEvents(-1, true)
    part.walkEvents(-1, true)
    expect(part.selection).toEqual(ids().slice(0, 3))
  })

  it('brings an earlier state back without losing arrangements made since', async () => {
    const { docs, part } = await open('D E F G |')
    const before = docs.documents!
    part.rename('Changed')
    docs.restoreVersion({ source: before.source, tune: before.tune, arrangements: [] })
    expect(docs.arrangements.map(a => a.arrangement.name)).toEqual(['Changed'])
  })
})

describe('the tables of keys', () => {
  it('give no key two meanings', () => {
    for (const table of [COMMANDS, WRITE_COMMANDS]) {
      const keys = table.flatMap(c => c.keys)
      expect(new Set(keys).size).toBe(keys.length)
    }
  })
})
