/**
 * Files are read by a desk of their own, which keeps the last book open. The parsers are not ours, and some
 * input they never come to an end of: what takes longer than any tune does is ended, and stops nothing else.
 */
import { wrap, type Remote } from 'comlink'
import type { Desk } from '#core/desk/desk'
import type { Packed } from '#core/desk/packed'
import type { BookPart, FileResult } from '#core/desk/views'
import type { FileOptions } from '#core/formats/readFile'
import { newWorker } from './early'

/** Milliseconds for any text, and more for every byte of it: some ten times what a slow machine needs. */
const READING = 3000
const READING_PER_BYTE = 0.003
export const readingTime = (bytes: number) => READING + READING_PER_BYTE * bytes
export const UNREADABLE =
  'This could not be read in the time that is enough for any tune. Is it damaged, or no music at all?'

export class FileDesk {
  private open: { readonly worker: Worker; readonly desk: Remote<Desk> } | null = null
  private reading = false
  private bytes = 0

  constructor(private readonly start: () => Worker = newWorker) {}

  /** What is being read is dropped for it: the newest file counts. */
  async readFile(name: string, bytes: Uint8Array, options?: FileOptions): Promise<Packed<FileResult>> {
    if (this.reading) this.close()
    this.bytes = bytes.length
    this.reading = true
    return this.inTime(desk => desk.readFile(name, bytes, options)).finally(() => (this.reading = false))
  }

  /** Tunes of the book that was read last. */
  tunesOfBook = (which: readonly number[]): Promise<Packed<BookPart>> =>
    this.inTime(desk => desk.tunesOfBook(which))

  close() {
    this.open?.worker.terminate()
    this.open = null
  }

  private async inTime<T>(call: (desk: Remote<Desk>) => Promise<T>): Promise<T> {
    if (!this.open) {
      const worker = this.start()
      this.open = { worker, desk: wrap<Desk>(worker) }
    }
    const own = this.open
    let timer: ReturnType<typeof setTimeout> | undefined
    const ended = new Promise<never>((_, reject) => {
      const end = (why: string) => {
        if (this.open === own) this.close()
        reject(new Error(why))
      }
      timer = setTimeout(() => end(UNREADABLE), readingTime(this.bytes))
      own.worker.onerror = e => end(e.message || 'The reader could not start.')
    })
    try {
      return await Promise.race([call(own.desk), ended])
    } finally {
      clearTimeout(timer)
    }
  }
}
