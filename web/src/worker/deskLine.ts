/**
 * The page's line to one desk (core/desk) in one worker. Documents are plain objects that are never changed:
 * each is sent once and named by its number from then on, and a view that came before does not come again.
 */
import type { Remote } from 'comlink'
import { toRaw } from 'vue'
import type { Desk, PartNumbers, PutDocument } from '#core/desk/desk'
import { pack, unpack } from '#core/desk/packed'
import type { PartDocuments } from '#core/desk/part'
import type { Answer, Question, Rest } from '#core/desk/questions'
import { toldOf } from '#core/desk/told'
import type { DerivedView } from '#core/desk/views'
import type { WritableFormat } from '#core/formats/fileKinds'

/** So many documents and views are left where they are: more than are at work at a time. */
const MOST_DOCUMENTS = 64
const MOST_VIEWS = 24

export class DeskLine {
  private readonly numbers = new WeakMap<object, number>()
  private last = 0
  /** Numbers of the documents that lie on the desk, the one not asked about for longest first. */
  private readonly there = new Set<number>()
  /** Views by their stamps, the one not met for longest first. */
  private readonly views = new Map<number, DerivedView>()

  constructor(readonly desk: Remote<Desk>) {}

  async ask<Q extends Question>(question: Q, part: PartDocuments, ...rest: Rest<Q>): Promise<Answer<Q>> {
    const ask = this.desk.ask as unknown as (
      question: Q,
      numbers: PartNumbers,
      ...rest: Rest<Q>
    ) => Promise<string>
    return unpack<Answer<Q>>(await ask(question, this.numbersOf(part), ...(rest.map(toRaw) as Rest<Q>)))
  }

  async derive(part: PartDocuments): Promise<DerivedView> {
    const known = new Map(this.views)
    const { stamp, view: text } = await this.desk.derive(this.numbersOf(part), [...known.keys()])
    const view = text === null ? known.get(stamp)! : unpack(text)
    this.views.delete(stamp)
    this.views.set(stamp, view)
    if (this.views.size > MOST_VIEWS) this.views.delete(this.views.keys().next().value!)
    return toldOf(view, part.tune)
  }

  writeFile(part: PartDocuments, format: WritableFormat, as: 'played' | 'written') {
    return this.desk.writeFile(this.numbersOf(part), format, as)
  }

  /** The numbers of a part's documents; those that are not there yet are put there. */
  private numbersOf({ tune, recipe, context }: PartDocuments): PartNumbers {
    const put: PutDocument[] = []
    const numberOf = (document: object) => {
      const own = toRaw(document)
      const number = this.numbers.get(own) ?? ++this.last
      this.numbers.set(own, number)
      if (!this.there.delete(number)) put.push([number, pack(own)])
      this.there.add(number)
      return number
    }
    const numbers = { tune: numberOf(tune), recipe: numberOf(recipe), context: numberOf(context) }
    const gone = [...this.there].slice(0, Math.max(0, this.there.size - MOST_DOCUMENTS))
    for (const number of gone) this.there.delete(number)
    // What fails here is met by the question that follows it.
    if (put.length + gone.length > 0) this.desk.put(put, gone).catch(() => {})
    return numbers
  }
}
