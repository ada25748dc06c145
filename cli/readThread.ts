/** The thread of {@link FileReader}: reads one file after another, and answers each. */
import { parentPort } from 'node:worker_threads'
import { readFile } from '#core/formats/readFile'
import type { FileBytes } from './files'
import type { ThreadMessage } from './reader'

const say = (message: ThreadMessage) => parentPort!.postMessage(message)

parentPort!.on('message', ({ name, bytes }: FileBytes) => {
  try {
    say({ read: readFile(name, bytes) })
  } catch (e) {
    say({ failed: e instanceof Error ? e.message : String(e) })
  }
})
say('ready')
