/** What a score says of its tune beside the notes: read and written by the same names. */
import { INSTRUMENT_IDS, MOST, type InstrumentId, type Tune } from '#core/music/tune'
import { child, children, el, textAt, type Element, type XmlNode } from './xml'

/** Facts the format has no element for, in <miscellaneous-field name="…">. */
const FACT = {
  otherTitle: 'other title',
  confused: 'not to be confused with',
  learnedFrom: 'learned from',
  kind: 'kind of tune',
  notes: 'notes',
  tag: 'tag',
  rights: 'rights',
  instrument: 'instrument',
  times: 'times through',
  part: 'nokta:part',
  settings: 'nokta:settings',
} as const

export function factsOf(score: XmlNode, partName: string): Partial<Tune> {
  const id = child(score, 'identification')
  const fields = children(child(id, 'miscellaneous'), 'miscellaneous-field')
  const all = (name: string, limit = 400) =>
    fields.filter(f => f.attributes.name === name).map(f => f.text.slice(0, limit))
  const one = (name: string, limit = 400) => all(name, limit)[0] ?? ''
  const rights = (['own', 'free', 'protected'] as const).find(r => r === one(FACT.rights))
  const instrument = INSTRUMENT_IDS.find(i => i === one(FACT.instrument)) ?? namedInstrument(partName)
  const times = Number(one(FACT.times) || 1)
  const parts = all(FACT.part, MOST.label)
  const settings = one(FACT.settings, 60)
  return {
    title: textAt(score, 'work', 'work-title') || textAt(score, 'movement-title'),
    composer: (
      children(id, 'creator').find(c => (c.attributes.type ?? 'composer') === 'composer')?.text ?? ''
    ).trim(),
    otherTitles: all(FACT.otherTitle),
    notToBeConfusedWith: all(FACT.confused).slice(0, 50),
    learnedFrom: one(FACT.learnedFrom),
    kind: one(FACT.kind, 80),
    notes: one(FACT.notes, 20_000),
    tags: all(FACT.tag, 60).slice(0, 50),
    rights: rights ?? 'unknown',
    play: {
      struck: [],
      times: Number.isInteger(times) && times >= 1 && times <= 9 ? times : 1,
      ...(parts.length > 0 && { parts }),
    },
    ...(settings !== '' && { settings }),
    ...(instrument && { instrument }),
  }
}

/** An instrument by the name of its part; the usual names in a few languages of scores. */
function namedInstrument(name: string): InstrumentId | undefined {
  const table: readonly (readonly [RegExp, InstrumentId])[] = [
    [/contrabass|double ?bass|kontrabass/i, 'bass'],
    [/cello/i, 'cello'],
    [/viola\b|bratsche/i, 'viola'],
    [/violin|fiddle|geige/i, 'violin'],
  ]
  return table.find(([pattern]) => pattern.test(name))?.[1]
}

export function identification(t: Tune): Element {
  const fact = (name: string, value: string) => value !== '' && el('miscellaneous-field', value, { name })
  const facts = [
    ...t.otherTitles.map(x => fact(FACT.otherTitle, x)),
    ...t.notToBeConfusedWith.map(x => fact(FACT.confused, x)),
    fact(FACT.learnedFrom, t.learnedFrom),
    fact(FACT.kind, t.kind),
    fact(FACT.notes, t.notes),
    ...t.tags.map(x => fact(FACT.tag, x)),
    fact(FACT.rights, t.rights === 'unknown' ? '' : t.rights),
    fact(FACT.instrument, t.instrument ?? ''),
    ...(t.play.parts ?? []).map(x => fact(FACT.part, x)),
    fact(FACT.settings, t.settings ?? ''),
    fact(FACT.times, t.play.times === 1 ? '' : String(t.play.times)),
  ]
  return el('identification', [
    t.composer !== '' && el('creator', t.composer, { type: 'composer' }),
    el('encoding', [el('software', 'Nokta')]),
    facts.some(Boolean) && el('miscellaneous', facts),
  ])
}
