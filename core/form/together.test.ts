import { noteId } from '#core/music/ids'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { analyseForm } from '#core/form/form'
import { readAbc } from '#core/formats/abc/readAbc'
import { alikeNotes } from '#core/teach/handReport'
import { togetherOf } from './together'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune

describe('notes that belong together', () => {
  it('are those at the same place of phrases that are kin, pickups aside', () => {
    const tune = tuneOf('|:DFAF GFED|FAdA BAF2|GBAG FEDE|FAGE D4|DFAF GFED|FAdA BAF2|GBAG FEDC|E2 C2 D4:|')
    const form = analyseForm(tune)
    const { phrases, repeats } = togetherOf(form)
    expect(phrases!.size).toBe(form.phrases.length)
    const ids = tune.measures.map(m => m.events.map(e => e.id))
    expect(repeats!.get(ids[4]![0]!)).toBe(ids[0]![0])
    expect(repeats!.get(ids[6]![6]!)).toBe(ids[2]![6])
    // C sharp for E: not the same note.
    expect(repeats!.has(ids[6]![7]!)).toBe(false)
  })

  it('get the same fingers, and a pin can go to all of them', () => {
    const tune = tuneOf('|:DFAF GFED|FAdA BAF2|GBAG FEDE|FAGE D4|DFAF GFED|FAdA BAF2|GBAG FEDC|E2 C2 D4:|')
    const d = derive(tune, newArrangement('violin', 'full'), ASSUMED_HANDS)
    const at = new Map(d.fingering.notes.map(n => [n.id, `${n.string}${n.finger}`]))
    for (const [id, earlier] of togetherOf(d.form).repeats!) expect(at.get(id)).toBe(at.get(earlier))
    const first = tune.measures[0]!.events[2]!.id
    const [one, two] = [first, tune.measures[4]!.events[2]!.id].map(id => noteId(id, 0))
    expect(alikeNotes(d, one!)).toEqual([one, two])
  })

  it('are alone in a tune of one phrase', () => {
    const d = derive(tuneOf('DFAF GFED|E2 C2 D4|'), newArrangement('violin', 'full'), ASSUMED_HANDS)
    const id = noteId(d.tune.measures[0]!.events[0]!.id, 0)
    expect(alikeNotes(d, id)).toEqual([id])
  })
})
