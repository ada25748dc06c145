import './plainSchemas'
import { expose } from 'comlink'
import type { TuneWithArrangements } from '#contract/documents'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { Desk } from '#core/desk/desk'

const desk = new Desk()

/**
 * Works out a tune on its way to the page before the page asks: what it comes to is remembered. The worker is
 * named after its address (start.ts).
 */
async function warm(url: string) {
  const answer = await fetch(url)
  if (!answer.ok) return
  const { tune, arrangements } = (await answer.json()) as TuneWithArrangements
  const recipe = arrangements[0]?.arrangement
  if (recipe) desk.expect({ tune, recipe, context: ASSUMED_HANDS })
}
// What fails here is met by whoever asks in earnest.
if (self.name) void warm(self.name).catch(() => {})

expose(desk)
