import { describe, expect, it } from 'vitest'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { analyseForm } from '#core/form/form'
import { sizeOf } from '#core/instruments/instruments'
import { midi, parsePitch, pitchOfMidi } from '#core/music/pitch'
import { isNote } from '#core/music/timeline'
import { easier } from './easier'
import { foldsOf } from './fold'

const tuneFrom = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nQ:1/4=80\nK:D\n${music}\n`).tunes[0]!.tune // prettier-ignore
/** A low part, and one that turns about the upper D, which first position has not got. */
const LOW = 'DFAF|GBAG|FAdA|FGA2|'
const HIGH = "fd'c'd'|bd'af|gbd'b|afd2|"
const tune = tuneFrom(`${LOW}${HIGH}${LOW}`)
const pitches = (t: typeof tune) => t.measures.map(m => m.events.flatMap(e => (e.kind === 'note' ? [midi(e.heads[0]!.pitch)] : []))) // prettier-ignore
const ease = (refused?: ReadonlySet<string>) => easier(tune, newArrangement('violin', sizeOf('violin').name), { level: 2, context: ASSUMED_HANDS, ...(refused && { refused }) }) // prettier-ignore

describe('a phrase that lies out of the hand', () => {
  it('goes down an octave as a whole: its line stays what it is', () => {
    const made = ease()
    const version = applyChanges(tune, playedChanges(made.recipe.played)).tune
    const [before, after] = [pitches(tune), pitches(version)]
    expect(after.slice(0, 4)).toEqual(before.slice(0, 4))
    expect(after.slice(4, 8)).toEqual(before.slice(4, 8).map(m => m.map(n => n - 12)))
    expect(after.slice(8)).toEqual(before.slice(8))
    expect(new Set(made.changes.map(c => c.kind))).toEqual(new Set(['fold']))
    expect(made.blocked).toEqual([])
  })
  it('stays where it is when the teacher will not have one of its notes there', () => {
    const [first] = ease().changes
    const made = ease(new Set([first!.id]))
    expect(made.changes.map(c => c.kind)).not.toContain('fold')
    expect(made.changes.map(c => c.kind)).toContain('replace')
  })

  it('that is most of the tune takes all of it to another octave: one low note is changed, not forty high ones', () => {
    const high = readAbc('X:1\nT:t\nM:3/4\nL:1/8\nQ:1/4=120\nK:Em\ne2fef2|a3ga2|a2ged2|E4C2|e2fef2|a3ga2|a2ged2|E6|B2cde2|a2afg2|a3ga2|e6|\n').tunes[0]!.tune // prettier-ignore
    const made = easier(high, newArrangement('bass', sizeOf('bass').name), { level: 4, context: ASSUMED_HANDS }) // prettier-ignore
    expect(made.recipe.played.octave).toBeTypeOf('number')
    expect(made.changes.map(c => [c.kind, c.measure])).toEqual([['replace', 4]])
    expect(made.blocked.length + made.off.length).toBe(0)
  })
  it('so does one written for the instrument', () => {
    const made = easier(tuneFrom(HIGH + HIGH), newArrangement('violin', sizeOf('violin').name), { level: 2, context: ASSUMED_HANDS }) // prettier-ignore
    expect(made.recipe.played.octave).toBe(-1)
    expect(made.changes).toEqual([])
  })

  it('takes the upbeat after it along, which would be left above alone', () => {
    const jig = readAbc('X:1\nT:t\nM:6/8\nL:1/8\nQ:3/8=116\nK:Em\nB,|:EFG FED|B,^DF B2A|GFE FE^D|E^DE B,2B,|EFG FED|B,^DF B2A|GFE F^DB,|E3 E2:|\n|:e|eBe g2e|fBf a2f|gfe f^de|BAB ^d2e|E^DE GFE|B,^DF A2G|FE^D B,^DF|E3 E2:|\n').tunes[0]!.tune // prettier-ignore
    const made = easier(jig, newArrangement('cello', sizeOf('cello').name), { level: 2, context: ASSUMED_HANDS }) // prettier-ignore
    const version = applyChanges(jig, playedChanges(made.recipe.played)).tune
    const second = pitches(version).slice(9).flat()
    const leaps = second.slice(1).map((n, i) => Math.abs(n - second[i]!))
    expect(made.changes.map(c => c.kind)).toContain('fold')
    expect(Math.max(...leaps)).toBeLessThan(12)
  })

  it('leaves the first measure of the next phrase to it: that is no upbeat', () => {
    const next = tuneFrom(`${LOW}${HIGH}f2f2|FAdA|GBAG|FGA2|`)
    const { phrases } = derive(next, newArrangement('violin', 'full'), ASSUMED_HANDS).form
    const line = phrases.flatMap(p => p.notes.filter(isNote))
    const high = (n: (typeof line)[number]) => midi(n.event.heads[0]!.pitch) > midi(parsePitch('B5')!)
    const out = new Set(line.filter(n => high(n) || n.measure.number === 9).map(n => n.event.id))
    const [fold, ...more] = foldsOf(phrases, out, hand('G3', 'B5'))
    expect(more).toEqual([])
    expect(new Set(line.filter(n => fold!.notes.includes(n.event.id)).map(n => n.measure.number))).toEqual(new Set([5, 6, 7, 8])) // prettier-ignore
  })

  const { form } = derive(tune, newArrangement('violin', 'full'), ASSUMED_HANDS)
  const notes = form.phrases.flatMap(p => p.notes.filter(isNote))
  const above = (name: string) => new Set(notes.filter(n => midi(n.event.heads[0]!.pitch) > midi(parsePitch(name)!)).map(n => n.event.id)) // prettier-ignore
  const hand = (from: string, to: string) =>
    Array.from({ length: midi(parsePitch(to)!) - midi(parsePitch(from)!) + 1 }, (_, i) => pitchOfMidi(midi(parsePitch(from)!) + i)) // prettier-ignore
  it('goes where all but a note or two of it lies in the hand', () => {
    expect(foldsOf(form.phrases, above('B5'), hand('G3', 'B5')).map(f => f.by)).toEqual([-1])
    expect(foldsOf(form.phrases, above('B5'), hand('A4', 'B5'))).toEqual([])
  })
  it('is left alone for a note or two', () => {
    expect(foldsOf(form.phrases, new Set([...above('B5')].slice(0, 2)), hand('G3', 'B5'))).toEqual([])
  })
  it('goes up where that is nearer', () => {
    const low = tuneFrom('G,A,B,G,|A,B,A,G,|B,A,G,A,|G,4|')
    const { phrases } = analyseForm(low)
    const all = new Set(phrases.flatMap(p => p.notes.filter(isNote).map(n => n.event.id)))
    expect(foldsOf(phrases, all, hand('D4', 'B5')).map(f => f.by)).toEqual(phrases.map(() => 1))
  })
  it('does not leap out of its neighbours’ reach to get there', () => {
    const far = tuneFrom("a2b2|abc'a|b2c'2|a4|d'c'd'b|c'd'bc'|d'2c'2|b4|a2b2|abc'a|b2c'2|a4|")
    const { phrases } = analyseForm(far)
    expect(foldsOf(phrases, new Set(phrases[1]!.notes.map(n => n.event.id)), hand('G3', 'G4'))).toEqual([])
  })
  it('goes with its neighbour where it could not go alone', () => {
    const far = tuneFrom("d'c'd'a|c'd'ac'|d'2c'2|d'4|a'g'a'e'|g'a'e'g'|a'2g'2|a'4|")
    const { phrases } = analyseForm(far)
    const own = (list: typeof phrases) =>
      new Set(list.flatMap(p => p.notes.filter(isNote).map(n => n.event.id)))
    const where = (asking: ReadonlySet<string>) => foldsOf(phrases, asking, hand('G3', 'A5')).map(f => f.by)
    expect(where(own(phrases))).toEqual(phrases.map(() => -1))
    // Alone the first would leave a leap of more than a tenth to the second.
    expect(where(own(phrases.slice(0, 1)))).toEqual([])
  })

  /** One phrase of these notes, those from a height on asking: how it goes. */
  const alone = (music: string, over: string, allowed: ReturnType<typeof hand>) => {
    const phrase = { ...analyseForm(tuneFrom(music)).phrases[0]! }
    const all = analyseForm(tuneFrom(music)).phrases.flatMap(p => p.notes)
    const asking = new Set(all.filter(isNote).filter(n => midi(n.event.heads.at(-1)!.pitch) > midi(parsePitch(over)!)).map(n => n.event.id)) // prettier-ignore
    return foldsOf([{ ...phrase, notes: all }], asking, allowed).map(f => [f.by, f.notes.length])
  }
  it('goes for three of its notes, and for a quarter of them, not for fewer', () => {
    expect(alone("d'd'd'a|", 'B5', hand('G3', 'B5'))).toEqual([[-1, 4]])
    expect(alone("d'd'aa|", 'B5', hand('G3', 'B5'))).toEqual([])
    expect(alone("d'd'd'a|aaaa|aaaa|", 'B5', hand('G3', 'B5'))).toEqual([[-1, 12]])
    expect(alone("d'd'd'a|aaaa|aaaa|aa2a|", 'B5', hand('G3', 'B5'))).toEqual([])
  })
  it('goes where three more of its notes lie in the hand than before, and all but an eighth of it', () => {
    // Eight notes, the low one among them off the strings an octave down: one in eight is found another note.
    expect(alone("d'd'd'd'|d'd'd'D|", 'B5', hand('A3', 'B5'))).toEqual([[-1, 8]])
    expect(alone("d'd'd'd'|d'd'DD|", 'B5', hand('A3', 'B5'))).toEqual([])
    // Three out of the hand here, one there: two are gained, too few to move it.
    expect(
      alone(
        "d'd'd'a|aaaa|aA|",
        'B5',
        hand('A4', 'B5').filter(p => midi(p) !== midi(parsePitch('A4')!)),
      ),
    ).toEqual([])
  })
  it('stays where its notes sound together, and is counted by its notes, not by its rests', () => {
    expect(alone("[ad']d'd'a|", 'B5', hand('G3', 'B5'))).toEqual([])
    expect(alone("d'zd'z|d'zaz|zzzz|zzzz|", 'B5', hand('G3', 'B5'))).toEqual([[-1, 4]])
  })
  it('that is rests alone goes nowhere', () => {
    const silent = { ...form.phrases[0]!, notes: form.phrases[0]!.notes.filter(p => !isNote(p)) }
    expect(foldsOf([silent, ...form.phrases], above('B5'), hand('G3', 'B5')).map(f => f.by)).toEqual([-1])
  })
})
