/** Files read and written: any kind, with all its tunes. */
import type { AbcBook } from '#core/formats/abc/book'
import type { FileOptions, FileTune } from '#core/formats/readFile'
import type { WritableFormat } from '#core/formats/fileKinds'
import type { WrittenFile } from '#core/formats/writeFile'
import { melodyPrint } from '#core/melody/print'
import type { PartDocuments } from './part'
import type { BookPart, FileResult } from './views'

const printsOf = (list: readonly FileTune[]) => list.map(t => melodyPrint(t.tune))
const reader = () => import('#core/formats/readFile')

/** Resolves when the readers are loaded: the time a file takes is counted from there. */
export const readersLoaded = async (): Promise<void> => void (await reader())

/** Any file, or pasted text. Of a long book the tunes are only listed, and the book stays open. */
export async function readFile(
  name: string,
  bytes: Uint8Array,
  options?: FileOptions,
): Promise<{ readonly result: FileResult; readonly book: AbcBook | null }> {
  const { openFile, readFile: read } = await reader()
  const opened = openFile(name, bytes)
  if (opened) {
    const { entries: listed, findings, book } = opened
    const none = { kind: 'abc' as const, tunes: [], choices: [], taken: 0, prints: [] }
    return { book, result: { ...none, findings, listed } }
  }
  const result = read(name, bytes, options)
  return { book: null, result: { ...result, prints: printsOf(result.tunes), listed: null } }
}

/** Tunes of an open book, by their places in it. */
export async function tunesOfBook(book: AbcBook, which: readonly number[]): Promise<BookPart> {
  const { tuneOfBook } = await reader()
  const tunes = which.map(i => tuneOfBook(book, i))
  return { tunes, prints: printsOf(tunes) }
}

/** @param as what is played is written, or what is written */
export async function writeFile(
  { tune, recipe, context }: PartDocuments,
  format: WritableFormat,
  as: 'played' | 'written',
): Promise<WrittenFile> {
  const { writeFile: write } = await import('#core/formats/writeFile')
  return write(format, tune, as === 'played' ? recipe : null, context)
}
