/**
 * The desk: documents lie on it by number, and questions are asked about them. A document is put there once;
 * what did not change between two questions is not worked out again. It holds nothing else, and can be
 * cleared away at any time: whoever put the documents has them still.
 */
import type { DeriveContext } from '#core/arrangement/context'
import type { AbcBook } from '#core/formats/abc/book'
import type { WritableFormat } from '#core/formats/fileKinds'
import type { FileOptions } from '#core/formats/readFile'
import type { WrittenFile } from '#core/formats/writeFile'
import type { LevelTable } from '#core/grading/demands'
import type { Learner } from '#core/instruments/learner'
import type { BowTasteDocument, TasteDocument } from '#core/instruments/taste'
import type { Tune } from '#core/music/tune'
import * as files from './files'
import { reach } from './levels'
import { Memories } from './memories'
import { pack, unpack, type Packed } from './packed'
import type { PartDocuments } from './part'
import { QUESTIONS, type Answer, type Question, type Rest } from './questions'
import { relearn, relearnBow } from './taste'
import type { BookPart, DerivedView, FileResult, ReachView } from './views'

/** A part by the numbers of its documents. */
export type PartNumbers = { readonly [K in keyof PartDocuments]: number }
export type PutDocument = readonly [number: number, text: Packed<object>]

export class Desk {
  private readonly memories = new Memories()
  private readonly documents = new Map<number, object>()
  /** The book that was listed last. */
  private book: AbcBook | null = null

  /** Documents come and go; a number is never used again. */
  put(documents: readonly PutDocument[], gone: readonly number[]): void {
    for (const [number, text] of documents) this.documents.set(number, unpack(text))
    for (const number of gone) this.documents.delete(number)
  }

  /** Works a part out before it is asked for. */
  expect(part: PartDocuments): void {
    this.memories.view(part)
  }

  private part(numbers: PartNumbers): PartDocuments {
    const of = (number: number) => {
      const found = this.documents.get(number)
      if (!found) throw new Error('A question came before its document.')
      return found
    }
    return {
      tune: of(numbers.tune) as Tune,
      recipe: of(numbers.recipe) as PartDocuments['recipe'],
      context: of(numbers.context) as DeriveContext,
    }
  }

  /** What a part comes to; only its stamp where whoever asks has that view already. */
  derive(
    numbers: PartNumbers,
    known: readonly number[],
  ): { readonly stamp: number; readonly view: Packed<DerivedView> | null } {
    const { stamp, view } = this.memories.view(this.part(numbers))
    return { stamp, view: known.includes(stamp) ? null : view }
  }

  async ask<Q extends Question>(
    question: Q,
    numbers: PartNumbers,
    ...rest: Rest<Q>
  ): Promise<Packed<Answer<Q>>> {
    const answer = QUESTIONS[question] as unknown as (
      memories: Memories,
      part: PartDocuments,
      ...rest: Rest<Q>
    ) => Answer<Q> | Promise<Answer<Q>>
    return pack(await answer(this.memories, this.part(numbers), ...rest))
  }

  /** Resolves when files can be read at once. */
  readersLoaded(): Promise<void> {
    return files.readersLoaded()
  }

  /** With its bytes as they are. Inverse: {@link Desk.readFile}. */
  writeFile(numbers: PartNumbers, format: WritableFormat, as: 'played' | 'written'): Promise<WrittenFile> {
    return files.writeFile(this.part(numbers), format, as)
  }

  async readFile(name: string, bytes: Uint8Array, options?: FileOptions): Promise<Packed<FileResult>> {
    const { result, book } = await files.readFile(name, bytes, options)
    this.book = book
    return pack(result)
  }

  /** Tunes of the book that was listed last, by their places in it. */
  async tunesOfBook(which: readonly number[]): Promise<Packed<BookPart>> {
    if (!this.book) throw new Error('The book is not open any more: choose the file again.')
    return pack(await files.tunesOfBook(this.book, which))
  }

  /** A tune of the shelf as it is written, for a learner. */
  reach(tune: Tune, learner: Learner, context: DeriveContext, table: LevelTable): ReachView {
    return reach(tune, learner, context, table)
  }

  relearn(taste: TasteDocument): TasteDocument {
    return relearn(taste)
  }

  relearnBow(taste: BowTasteDocument): BowTasteDocument {
    return relearnBow(taste)
  }
}
