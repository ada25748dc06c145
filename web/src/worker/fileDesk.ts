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

/** Milliseconds for the worker and its readers to load, which a busy machine takes long for. */
const STARTING = 60_000
/** Milliseconds for any text, and more for every byte of it: some ten times what a slow machine needs. */
const READING = 3000
const READING_PER_BYTE = 0.003
export const readingTime = (bytes: number) => READING + READING_PER_BYTE * bytes
export const UNREADABLE =
  'This could not be read in the time that is enough for any tune. Is it damaged, or no music at all?'

const NOT_STARTED = 'The reader could not start. Close this and try once more.'
const DROPPED = 'Another text is read instead.'

interface OpenDesk {
  readonly worker: Worker
  readonly desk: Remote<Desk>
  /** Resolves when the readers are there. */
  readonly loaded: Promise<void>
}

export class FileDesk {
  private open: OpenDesk | null = null
  /** What its worker reads at the moment, by turn; null when it reads nothing. */
  private reading: number | null = null
  private turn = 0
  private bytes = 0

  constructor(private readonly start: () => Worker = newWorker) {}

  /**
   * The newest file counts: what is being read is dropped for it, and rejects. The time for it begins when the
   * readers are loaded: a busy machine is no fault of the file.
   */
  async readFile(name: string, bytes: Uint8Array, options?: FileOptions): Promise<Packed<FileResult>> {
    const turn = ++this.turn
    if (this.reading !== null) this.close()
    const open = await this.opened()
    if (turn !== this.turn) throw new Error(DROPPED)
    this.bytes = bytes.length
    this.reading = turn
    try {
      return await this.orEnd(
        open,
        readingTime(this.bytes),
        UNREADABLE,
        open.desk.readFile(name, bytes, options),
      )
    } finally {
      if (this.reading === turn) this.reading = null
    }
  }

  /** Tunes of the book that was read last. */
  tunesOfBook = async (which: readonly number[]): Promise<Packed<BookPart>> => {
    const open = await this.opened()
    return this.orEnd(open, readingTime(this.bytes), UNREADABLE, open.desk.tunesOfBook(which))
  }

  close() {
    this.open?.worker.terminate()
    this.open = null
    this.reading = null
  }

  private async opened(): Promise<OpenDesk> {
    if (!this.open) {
      const worker = this.start()
      const desk = wrap<Desk>(worker)
      this.open = { worker, desk, loaded: desk.readersLoaded() }
    }
    const { open } = this
    await this.orEnd(open, STARTING, NOT_STARTED, open.loaded)
    return open
  }

  /** The answer, or the end of its worker: after some milliseconds, or when the worker itself fails. */
  private async orEnd<T>(open: OpenDesk, milliseconds: number, late: string, answer: Promise<T>): Promise<T> {
    let stop = () => {}
    const ended = new Promise<never>((_, reject) => {
      const end = (why: string) => {
        if (this.open === open) this.close()
        reject(new Error(why))
      }
      const timer = setTimeout(() => end(late), milliseconds)
      const failed = (e: ErrorEvent) => end(e.message || NOT_STARTED)
      open.worker.addEventListener('error', failed)
      stop = () => {
        clearTimeout(timer)
        open.worker.removeEventListener('error', failed)
      }
    })
    try {
      return await Promise.race([answer, ended])
    } finally {
      stop()
    }
  }
}
