import { placeEvents } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { Form, Phrase } from './form'

/**
 * A form that was heard in the same line in another key or octave, with the notes as they are here. Form is
 * of rhythm, of intervals and of degrees of the key: none of it changes when all of a line is moved.
 */
export function formIn(form: Form, tune: Tune): Form {
  const here = new Map(placeEvents(tune).map(p => [p.event.id, p]))
  const moved = new Map<Phrase, Phrase>(
    form.phrases.map(p => [p, { ...p, notes: p.notes.map(n => here.get(n.event.id) ?? n) }]),
  )
  const phrases = form.phrases.map(p => moved.get(p)!)
  const parts = form.parts.map(part => ({ ...part, phrases: part.phrases.map(p => moved.get(p)!) }))
  return { ...form, parts, phrases }
}
