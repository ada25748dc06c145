/**
 * The other windows of this browser: which of them are open, and what they saved. Each window has a name from
 * the moment its page is loaded; one that was closed, or crashed, answers no more.
 */
import { z } from 'zod'

const CHANNEL = 'nokta.windows'
/** Milliseconds an open window has to answer. */
const PATIENCE = 150

const messageSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('who'), from: z.string() }),
  z.object({ kind: z.literal('here'), from: z.string() }),
  z.object({ kind: z.literal('saved'), from: z.string(), tune: z.string() }),
])
type Message = z.infer<typeof messageSchema>

/** @param onSaved another window saved something of a tune */
export function useSiblings(onSaved: (tuneId: string) => void) {
  const name = crypto.randomUUID()
  const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL)
  let answered: Set<string> | null = null
  const say = (message: Message) => channel?.postMessage(message)
  if (channel)
    channel.onmessage = ({ data }: MessageEvent) => {
      const read = messageSchema.safeParse(data)
      if (!read.success || read.data.from === name) return
      if (read.data.kind === 'who') say({ kind: 'here', from: name })
      else if (read.data.kind === 'here') answered?.add(read.data.from)
      else onSaved(read.data.tune)
    }

  /** Names of the other windows that are open. */
  async function open(): Promise<ReadonlySet<string>> {
    const names = (answered ??= new Set())
    say({ kind: 'who', from: name })
    await new Promise(done => setTimeout(done, PATIENCE))
    answered = null
    return names
  }

  return {
    name,
    open,
    saved: (tune: string) => say({ kind: 'saved', from: name, tune }),
    close: () => channel?.close(),
  }
}
