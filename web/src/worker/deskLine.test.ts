import type { Remote } from 'comlink'
import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { Desk, type PutDocument } from '#core/desk/desk'
import { readAbc } from '#core/formats/abc/readAbc'
import { DeskLine } from './deskLine'

const { tune } = readAbc('X:1\nT:A line\nM:4/4\nL:1/4\nK:D\nDEFG|A2A2|').tunes[0]!
const part = { tune, recipe: newArrangement('violin', 'full'), context: ASSUMED_HANDS }

/** A desk at the other end that counts what is put on it and what views it sends. */
function connected() {
  const desk = new Desk()
  const sent: PutDocument[] = []
  let views = 0
  const remote = {
    put: async (documents: readonly PutDocument[], gone: readonly number[]) => {
      sent.push(...documents)
      desk.put(documents, gone)
    },
    derive: async (...asked: Parameters<Desk['derive']>) => {
      const answer = desk.derive(...asked)
      if (answer.view) views++
      return answer
    },
    ask: async (...asked: unknown[]) => (desk.ask as (...asked: unknown[]) => unknown).apply(desk, asked),
  }
  return { line: new DeskLine(remote as unknown as Remote<Desk>), sent, views: () => views }
}

describe('a line to a desk', () => {
  it('sends each document once, by identity, also where it is looked at through a proxy', async () => {
    const { line, sent } = connected()
    await line.ask('teach', part)
    await line.ask('watch', part)
    await line.ask('teach', { ...part, tune: ref(tune).value })
    expect(sent).toHaveLength(3)
    await line.ask('teach', { ...part, recipe: withPlayed(part.recipe, { level: 2 }) })
    expect(sent).toHaveLength(4)
  })
  it('gets a view once, and again under another title without asking for it', async () => {
    const { line, views } = connected()
    expect((await line.derive(part)).tune.title).toBe('A line')
    const retitled = await line.derive({ ...part, tune: { ...tune, title: 'Another' } })
    expect([retitled.tune.title, retitled.notes.length, views()]).toEqual(['Another', 6, 1])
    await line.derive({ ...part, recipe: withPlayed(part.recipe, { level: 1 }) })
    await line.derive(part)
    expect(views()).toBe(2)
  })
  it('clears away what was not asked about for long, and sends it again when it is', async () => {
    const { line, sent } = connected()
    await line.ask('write', part)
    for (let i = 0; i < 70; i++) await line.ask('write', { ...part, tune: { ...tune, title: `${i}` } })
    expect(sent).toHaveLength(3 + 70)
    const { text } = await line.ask('write', part)
    expect(text).toContain('T:A line')
    expect(sent).toHaveLength(3 + 70 + 1)
  })
})
