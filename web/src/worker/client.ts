/**
 * The page's side of the core worker: questions that can fail and time out, and a lane in which only the
 * newest counts.
 */
import { wrap, type Remote } from 'comlink'
import type { Desk } from '#core/desk/desk'
import type { PartDocuments } from '#core/desk/part'
import type { Answer, Question, Rest } from '#core/desk/questions'
import type { DerivedView } from '#core/desk/views'
import type { WritableFormat } from '#core/formats/fileKinds'
import type { WrittenFile } from '#core/formats/writeFile'
import { DeskLine } from './deskLine'
import { newWorker, takeWorker } from './early'
import { readingTime, UNREADABLE } from './fileDesk'

/** Milliseconds after which a call is given up and the worker started anew. */
const TIMEOUT = 30_000

let worker: Worker | null = null
let line: DeskLine | null = null

function deskLine(): DeskLine {
  if (!line) {
    worker = takeWorker() ?? newWorker()
    line = new DeskLine(wrap<Desk>(worker))
  }
  return line
}

function restart() {
  worker?.terminate()
  worker = null
  line = null
}

/**
 * Asks the worker; rejects after some time or when the worker can't start, and then starts afresh next time.
 */
function guarded<T>(
  call: (line: DeskLine) => Promise<T>,
  time = TIMEOUT,
  late = 'The computation took too long and was stopped.',
): Promise<T> {
  return new Promise((resolve, reject) => {
    const own = deskLine()
    const failed = (e: unknown) => {
      clearTimeout(timer)
      reject(e instanceof Error ? e : new Error(String(e)))
    }
    const timer = setTimeout(() => {
      restart()
      failed(new Error(late))
    }, time)
    worker!.onerror = e => {
      restart()
      failed(new Error(e.message || 'The computation could not start.'))
    }
    call(own).then(value => {
      clearTimeout(timer)
      resolve(value)
    }, failed)
  })
}

/** A question about a part. */
export const askPart = <Q extends Question>(
  question: Q,
  part: PartDocuments,
  ...rest: Rest<Q>
): Promise<Answer<Q>> => guarded(line => line.ask(question, part, ...rest))

/** Reads typed text; given up when it takes longer than any tune does. */
export const readText = (part: PartDocuments, text: string, toldToo: boolean): Promise<Answer<'read'>> =>
  guarded(line => line.ask('read', part, text, toldToo), readingTime(text.length), UNREADABLE)

/** What a part comes to. */
export const derivedOf = (part: PartDocuments): Promise<DerivedView> => guarded(line => line.derive(part))

/** A part as a file. */
export const fileOf = (
  part: PartDocuments,
  format: WritableFormat,
  as: 'played' | 'written',
): Promise<WrittenFile> => guarded(line => line.writeFile(part, format, as))

/** What is asked of the desk and is about no part. */
export const askDesk = <T>(call: (desk: Remote<Desk>) => Promise<T>): Promise<T> =>
  guarded(line => call(line.desk))

export interface Lane<Q> {
  /** Asks; a question still waiting is replaced, an answer overtaken by a newer question is dropped. */
  ask(question: Q): void
  /** Drops what is waiting and whatever is under way. */
  cancel(): void
}

/** One question under way, one waiting at most: the newest wins. */
export function latestLane<Q, A>(
  answer: (question: Q) => Promise<A>,
  use: (value: A, question: Q) => void,
  fail: (error: Error) => void,
): Lane<Q> {
  let current = 0
  let running = false
  let waiting: { question: Q } | null = null
  const next = async () => {
    if (running || !waiting) return
    const { question } = waiting
    const mine = ++current
    waiting = null
    running = true
    try {
      const value = await answer(question)
      // While it ran another question may have come: this answer is stale then, unless it is all we have so
      // far.
      if (mine === current && !waiting) use(value, question)
    } catch (e) {
      if (mine === current) fail(e instanceof Error ? e : new Error(String(e)))
    } finally {
      running = false
      void next()
    }
  }
  return {
    ask(question) {
      waiting = { question }
      void next()
    },
    cancel() {
      waiting = null
      current++
    },
  }
}
