/** What binds notes of a voice together: slurs and tuplets, as they begin and end along the way. */
import type { Tune, TuneEvent } from '#core/music/tune'
import { child, textAt, type XmlNode } from './xml'

export class NoteGroups {
  private readonly ended: { from: string; to: string }[] = []
  /** By the number they are told apart by, the note each begins at. */
  private readonly open = new Map<string, string>()
  /** The tuplet that is going on. */
  private going: string | null = null

  constructor(private readonly newTuplet: () => string) {}

  get slurs(): Tune['slurs'] {
    return this.ended.filter(s => s.from !== s.to)
  }
  get openSlur() {
    return this.open.size > 0
  }

  /** The slurs that end and begin at a note. False where one ends that never began. */
  slur(marks: readonly XmlNode[], id: string): boolean {
    const of = (type: string) =>
      marks.filter(s => s.attributes.type === type).map(s => s.attributes.number ?? '1')
    const ends = of('stop')
    const known = ends.map(number => {
      const from = this.open.get(number)
      if (from !== undefined) this.ended.push({ from, to: id })
      this.open.delete(number)
      return from !== undefined
    })
    for (const number of of('start')) this.open.set(number, id)
    return known.every(Boolean)
  }

  /** The tuplet a note is in, by its own word and its brackets. */
  tuplet(note: XmlNode, marks: readonly XmlNode[]): TuneEvent['tuplet'] {
    const t = child(note, 'time-modification')
    const [actual, normal] = [Number(textAt(t, 'actual-notes')), Number(textAt(t, 'normal-notes'))]
    const within = (n: number, least: number) => Number.isInteger(n) && n >= least && n <= 64
    if (!t || !within(actual, 2) || !within(normal, 1)) {
      this.going = null
      return undefined
    }
    if (this.going === null || marks.some(m => m.attributes.type === 'start')) this.going = this.newTuplet()
    const group = this.going
    if (marks.some(m => m.attributes.type === 'stop')) this.going = null
    return { group, actual, normal }
  }
}
