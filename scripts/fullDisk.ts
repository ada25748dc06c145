/**
 * A part of `npm run torture`: a server on a disk of its own that fills up while it saves. What was
 * acknowledged must be there afterwards, what is refused must be told as a full disk, and with room again it
 * goes on. A disk of its own takes the right to mount one: without it null.
 */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { errorSchema, urlOf } from '#contract/api'
import { tuneWithArrangementsSchema } from '#contract/documents'
import { startServer, type Running } from './ownServer'

export interface FullDiskReport {
  readonly acknowledged: number
  /** Saves refused because there was no room. */
  readonly refused: number
  readonly faults: readonly string[]
}

/** Bytes of the disk, and of what is left on it when the saving begins. */
const SIZE = 64 * 1024 * 1024
const LEFT = 40 * 1024
const SAVES = 80

function mounted(): string | null {
  const disk = mkdtempSync(join(tmpdir(), 'nokta-disk-'))
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE}`, 'tmpfs', disk], { stdio: 'ignore' })
    return disk
  } catch {
    rmSync(disk, { recursive: true, force: true })
    return null
  }
}

export async function fullDisk(): Promise<FullDiskReport | null> {
  const disk = mounted()
  if (disk === null) return null
  const [data, filler] = [join(disk, 'data'), join(disk, 'filler')]
  const faults: string[] = []
  const acknowledged: string[] = []
  let refused = 0
  const makes = async (url: string, title: string) => {
    const body = {
      source: 'x'.repeat(3000),
      tune: emptyTune(title),
      arrangement: newArrangement('viola', '16"'),
    }
    const answer = await fetch(url + urlOf('createTune'), {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    })
    const said: unknown = await answer.json()
    if (answer.ok) acknowledged.push(tuneWithArrangementsSchema.parse(said).id)
    else if (errorSchema.parse(said).error.code === 'diskFull') refused++
    else faults.push(`a save on a full disk was answered with ${answer.status}`)
    return answer.ok
  }
  const check = async (url: string) => {
    for (const id of acknowledged)
      if (!(await fetch(url + urlOf('tune', { id }))).ok)
        faults.push(`a tune that was acknowledged is gone: ${id}`)
  }
  const servers: Running[] = []
  const opened = async () => {
    const server = startServer(data)
    servers.push(server)
    const url = await server.url
    if (url === null) throw new Error('the folder could not be opened')
    return { server, url }
  }
  try {
    const first = await opened()
    await makes(first.url, 'before')
    const { bavail, bsize } = statfsSync(disk)
    writeFileSync(filler, Buffer.alloc(Math.max(0, bavail * bsize - LEFT), 1))
    for (let i = 0; i < SAVES; i++) await makes(first.url, `full ${i}`)
    if (refused === 0) faults.push('the disk never filled up')
    await check(first.url)
    // Room again: the same server goes on.
    rmSync(filler)
    if (!(await makes(first.url, 'with room'))) faults.push('with room again it still does not save')
    first.server.child.kill('SIGKILL')
    await first.server.ended
    const again = await opened()
    await check(again.url)
    again.server.child.kill('SIGTERM')
    if ((await again.server.ended) !== 0) faults.push('it did not end with 0 when it was asked to end')
  } finally {
    for (const s of servers) s.child.kill('SIGKILL')
    await Promise.all(servers.map(s => s.ended))
    execFileSync('umount', [disk], { stdio: 'ignore' })
    rmSync(disk, { recursive: true, force: true })
  }
  return { acknowledged: acknowledged.length, refused, faults }
}
