import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { HAND_MODEL } from '#core/instruments/handModel'
import { demoSource } from '#demo/fillShelf'
import { ASSUMED_HANDS } from './context'
import { derive, deriveMusic, DeriveMemory } from './derive'
import { forInstrument, pinned, withPlayed, withSchools, withShown, withTaught } from './edits'
import { Memory } from './memory'
import { newArrangement, type Arrangement } from './recipe'

const reel = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune
const violin = newArrangement('violin', 'full')
const [first] = reel.measures[1]!.events.map(e => e.id)

/** Stages worked out anew after one edit. */
function anew(edit: (r: Arrangement) => Arrangement, context = ASSUMED_HANDS): string[] {
  const memory = new DeriveMemory()
  derive(reel, violin, ASSUMED_HANDS, memory)
  const before = { ...memory.worked }
  derive(reel, edit(violin), context, memory)
  // The facts are put back to whatever came out: no work.
  return Object.keys(memory.worked).filter(s => s !== 'facts' && memory.worked[s] !== before[s])
}
/** Recipes arrive as copies. */
const copied = (r: Arrangement) => structuredClone(r)

describe('a stage is worked out anew only when what it names changes', () => {
  it('nothing for the same again, nor for what is only shown or taught', () => {
    expect(anew(copied)).toEqual([])
    expect(anew(r => withShown(r, { tabLines: 'lowest', strings: 'numbers' }))).toEqual([])
    expect(
      anew(r => ({ ...withTaught(r, { names: { n2: 'The stair' }, known: ['D4'] }), name: 'Other' })),
    ).toEqual([])
  })
  it('the fingers alone for a pin on the same string, the bow too for one on another; the bow alone for a stroke', () => {
    const { finger, string } = derive(reel, violin, ASSUMED_HANDS).fingering.notes.find(n => n.id === first)!
    expect(anew(r => pinned(r, 'fingers', first!, { finger, string }))).toEqual(['finger', 'assemble'])
    expect(anew(r => pinned(r, 'fingers', first!, { string: string + 1 }))).toEqual([
      'finger',
      'bow',
      'assemble',
    ])
    expect(anew(r => pinned(r, 'strokes', first!, { direction: 'up' }))).toEqual(['bow', 'assemble'])
    expect(anew(r => withSchools(r, { bow: 'as-it-comes' }))).toEqual(['bow', 'assemble'])
  })
  it('the hand for its school and its learner, and only what stands on it', () => {
    expect(anew(r => withSchools(r, { open: 'first' }))).toEqual(['layOut', 'finger', 'bow', 'assemble'])
    expect(anew(copied, { ...ASSUMED_HANDS, learner: { span: 62 } })).toEqual([
      'layOut',
      'finger',
      'bow',
      'assemble',
    ])
    expect(anew(copied, { ...ASSUMED_HANDS, model: { ...HAND_MODEL, mmPerSecond: 500 } })).toEqual([
      'layOut',
      'finger',
      'assemble',
    ])
  })
  it('the other line alone, when it is asked for', () =>
    expect(anew(r => withShown(r, { ossia: 'noFourth' }))).toEqual(['assemble', 'ossia']))
  it('nothing for another title: the music is the same, in every part', () => {
    const memory = new DeriveMemory()
    const parts = (['violin', 'viola', 'cello', 'bass'] as const).flatMap(i =>
      ([null, 3] as const).map(level => withPlayed(forInstrument(violin, i), { level })),
    )
    const before = parts.map(r => deriveMusic(reel, r, ASSUMED_HANDS, memory))
    const worked = { ...memory.worked }
    const retitled = { ...structuredClone(reel), title: 'Another title', tags: ['new'] }
    parts.forEach((r, i) => expect(deriveMusic(retitled, r, ASSUMED_HANDS, memory)).toBe(before[i]))
    expect({ ...memory.worked, music: worked['music'] }).toEqual(worked)
    expect(derive(retitled, parts[0]!, ASSUMED_HANDS, memory).tune.title).toBe('Another title')
    expect(derive(reel, parts[0]!, ASSUMED_HANDS, memory).tune.title).toBe(reel.title)
  })
  it('the form is heard once for all parts that play one line', () => {
    const memory = new DeriveMemory()
    for (const i of ['violin', 'viola', 'cello', 'bass'] as const)
      derive(reel, forInstrument(violin, i), ASSUMED_HANDS, memory)
    expect([memory.worked['line'], memory.worked['form']]).toEqual([1, 1])
  })
  it('all of it for another key, but for the form, which is the same in every key', () =>
    expect(anew(r => withPlayed(r, { key: { step: 'G', alter: 0, mode: 'major' } }))).toEqual([
      'arrange',
      'place',
      'layOut',
      'finger',
      'bow',
      'assemble',
    ]))
  it('many recipes are held side by side', () => {
    const memory = new DeriveMemory()
    const recipes = (['violin', 'viola', 'cello', 'bass'] as const).flatMap(i =>
      ([null, 2, 4] as const).map(level => withPlayed(forInstrument(violin, i), { level })),
    )
    const once = recipes.map(r => derive(reel, r, ASSUMED_HANDS, memory))
    const worked = { ...memory.worked }
    recipes.forEach((r, i) => expect(derive(reel, copied(r), ASSUMED_HANDS, memory)).toBe(once[i]))
    expect(memory.worked).toEqual(worked)
  })
})

describe('what is known of a learner', () => {
  it('limits the hand like a reach of the arrangement’s own, which goes before it', () => {
    const notes = (r: Arrangement, span: number | null) =>
      derive(reel, r, { ...ASSUMED_HANDS, learner: { span } })
        .fingering.notes.map(n => `${n.string}${n.finger}`)
        .join()
    expect(notes(violin, 62)).toBe(notes(withPlayed(violin, { span: 62 }), null))
    expect(notes(violin, 62)).not.toBe(notes(violin, null))
    expect(notes(withPlayed(violin, { span: 90 }), 62)).toBe(notes(violin, null))
  })
})

describe('the memory', () => {
  it('gives up what was not asked for longest, and knows the newest', () => {
    const memory = new Memory(2)
    const ask = (n: number) => memory.stage('s', [], n, () => n * 10)
    expect([ask(1), ask(2), ask(1), ask(3)]).toEqual([10, 20, 10, 30])
    expect(memory.newest('s')).toBe(30)
    ask(1)
    expect(memory.worked).toEqual({ s: 3 })
    ask(2)
    expect(memory.worked).toEqual({ s: 4 })
    expect(memory.newest('none')).toBeUndefined()
  })
  it('tells objects by identity and values by what they say', () => {
    const memory = new Memory()
    const [a, b] = [{}, {}]
    const made = (o: object, v: unknown) => memory.stage('s', [o], v, () => ({}))
    expect(made(a, { x: 1 })).toBe(made(a, { x: 1 }))
    expect(made(a, 1)).not.toBe(made(b, 1))
    expect(made(a, 1)).not.toBe(made(a, 2))
  })
})
