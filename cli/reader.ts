/**
 * Files are read on a thread that can be ended: the parsers are not ours, and some input they never come to an
 * end of, or to an end of the memory with.
 */
import { Worker } from 'node:worker_threads'
import type { ReadFile } from '#core/formats/readFile'
import { BadInput } from './badInput'
import type { FileBytes } from './files'

/** Milliseconds for any file, and more for every byte of it. */
const READING = 3000
const READING_PER_BYTE = 0.003
const MEMORY_MB = 1024

export interface Limits {
  readonly milliseconds: (bytes: number) => number
  readonly memoryMb: number
}
const LIMITS: Limits = { milliseconds: bytes => READING + READING_PER_BYTE * bytes, memoryMb: MEMORY_MB }

/** What the thread says: that it is there, then an answer for each file. */
export type ThreadMessage = 'ready' | { readonly read: ReadFile } | { readonly failed: string }

export class FileReader {
  private thread: Promise<Worker> | null = null

  constructor(
    private readonly file: URL,
    private readonly limits: Limits = LIMITS,
  ) {}

  /** Loads the readers, so that they are there when they are asked. */
  begin(): Promise<Worker> {
    this.thread ??= this.begun()
    return this.thread
  }

  /** @throws BadInput when it takes longer, or more memory, than any tune does */
  async read(path: string, { name, bytes }: FileBytes): Promise<ReadFile> {
    const worker = await this.begin()
    let tidy = () => {}
    const answer = new Promise<ReadFile>((done, fail) => {
      const giveUp = (what: string) => {
        this.end()
        fail(new BadInput(`${path}: ${what} Is it damaged, or no music at all?`))
      }
      const timer = setTimeout(
        () => giveUp('this could not be read in the time that is enough for any tune.'),
        this.limits.milliseconds(bytes.length),
      )
      const failed = (e: Error & { code?: string }) =>
        e.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? giveUp('reading this takes more memory than is enough for any tune.')
          : (this.end(), fail(e))
      const heard = (m: ThreadMessage) => {
        if (m === 'ready') return
        if ('read' in m) done(m.read)
        else fail(new Error(m.failed))
      }
      worker.on('message', heard).on('error', failed)
      tidy = () => {
        clearTimeout(timer)
        worker.off('message', heard).off('error', failed)
      }
      worker.postMessage({ name, bytes })
    })
    return answer.finally(() => tidy())
  }

  end() {
    const { thread } = this
    this.thread = null
    void thread?.then(
      w => w.terminate(),
      () => {},
    )
  }

  private begun(): Promise<Worker> {
    return new Promise((done, fail) => {
      const worker = new Worker(this.file, {
        execArgv: [],
        resourceLimits: { maxOldGenerationSizeMb: this.limits.memoryMb },
      })
      worker.once('error', fail)
      worker.once('message', () => {
        worker.off('error', fail)
        done(worker)
      })
    })
  }
}
