/**
 * The last step of every reader: what was read is cut to what a document holds, each cut told with its place,
 * and then checked by the one schema. So no tune leaves a reader that could not be saved.
 */
import { cleanText } from '#core/documents/text'
import { finding, type Finding, type Where } from '#core/findings/finding'
import { placeMeasures } from '#core/music/timeline'
import { MOST, tuneSchema, type Tune, type TuneEvent } from '#core/music/tune'

export interface Fitted {
  readonly tune: Tune
  readonly findings: readonly Finding[]
}

/** Null tune when something is left that no cut mends: the finding names it. */
export function fitted(tune: Tune): Fitted | { readonly tune: null; readonly findings: readonly Finding[] } {
  const cuts = new Cuts()
  const measures = cuts.list(tune.measures, MOST.measures, 'measures')
  const numbers = new Map(placeMeasures({ ...tune, measures }).map(m => [m.measure.id, m.number]))
  const cut: Tune = {
    ...tune,
    title: cuts.text(tune.title, MOST.line, 'a title'),
    otherTitles: cuts
      .list(tune.otherTitles, MOST.titles, 'titles')
      .map(t => cuts.text(t, MOST.line, 'a title')),
    composer: cuts.text(tune.composer, MOST.line, 'a composer'),
    learnedFrom: cuts.text(tune.learnedFrom, MOST.line, 'a source'),
    kind: cuts.text(tune.kind, MOST.kind, 'a kind'),
    notes: cuts.text(tune.notes, MOST.notes, 'notes'),
    measures: measures.map(m => ({
      ...m,
      ...(m.label !== undefined && {
        label: cuts.text(m.label, MOST.label, 'a label', { measure: numbers.get(m.id)! }),
      }),
      events: cuts
        .list(m.events, MOST.events, 'notes in a measure', { measure: numbers.get(m.id)! })
        .map(e => cuts.event(e, { measure: numbers.get(m.id)!, note: e.id })),
    })),
  }
  const ids = new Set(cut.measures.flatMap(m => m.events.map(e => e.id)))
  const slurs = cuts.list(
    tune.slurs.filter(s => ids.has(s.from) && ids.has(s.to)),
    MOST.slurs,
    'slurs',
  )
  const checked = tuneSchema.safeParse({ ...cut, slurs })
  if (checked.success) return { tune: checked.data, findings: cuts.findings }
  const { path, message } = checked.error.issues[0]!
  const values = { where: path.join('.'), message: message.slice(0, 120) }
  const where = placeOf(cut, path, numbers)
  return { tune: null, findings: [...cuts.findings, finding('file.badValue', 'error', where, values)] }
}

/** The measure and the note a path through a tune leads to. */
function placeOf(
  { measures }: Tune,
  path: readonly PropertyKey[],
  numbers: ReadonlyMap<string, number>,
): Where {
  const m = path[0] === 'measures' ? measures[path[1] as number] : undefined
  if (!m) return {}
  const note = path[2] === 'events' ? m.events[path[3] as number]?.id : undefined
  return { measure: numbers.get(m.id)!, ...(note !== undefined && { note }) }
}

class Cuts {
  private readonly found = new Map<string, Finding>()

  /** Of each kind the first place is told. */
  get findings(): readonly Finding[] {
    return [...this.found.values()]
  }

  private tell(what: string, limit: number, where: Where) {
    if (!this.found.has(what)) this.found.set(what, finding('file.cut', 'warning', where, { what, limit }))
  }

  list<T>(list: readonly T[], limit: number, what: string, where: Where = {}): readonly T[] {
    if (list.length <= limit) return list
    this.tell(what, limit, where)
    return list.slice(0, limit)
  }

  /** Cut between whole characters. */
  text(given: string, limit: number, what: string, where: Where = {}): string {
    const text = cleanText(given)
    if (text.length <= limit) return text
    this.tell(`${what} of more than ${limit} letters`, limit, where)
    return cleanText(text.slice(0, limit))
  }

  event(e: TuneEvent, where: Where): TuneEvent {
    const common = {
      ...(e.chord !== undefined && { chord: this.text(e.chord, MOST.label, 'a chord name', where) }),
      ...(e.remarks && {
        remarks: this.list(e.remarks, MOST.remarks, 'remarks on a note', where).map(r =>
          this.text(r, MOST.line, 'a remark', where),
        ),
      }),
    }
    if (e.kind === 'rest') return { ...e, ...common }
    return {
      ...e,
      ...common,
      heads: this.list(e.heads, MOST.heads, 'notes in a chord', where),
      ...(e.grace && { grace: this.list(e.grace, MOST.grace, 'grace notes', where) }),
      ...(e.marks && { marks: this.list(e.marks, MOST.marks, 'marks on a note', where) }),
      ...(e.syllables && {
        syllables: this.list(e.syllables, MOST.verses, 'verses', where).map(s =>
          s === null ? s : { ...s, text: this.text(s.text, MOST.syllable, 'a syllable', where) },
        ),
      }),
    }
  }
}
