/**
 * One process to a data folder. The database would let two open it and lose rows, so we hold a lock file with
 * the process and its start time: a lock left behind by a killed process is recognised and taken over.
 */
import { randomUUID } from 'node:crypto'
import {
  closeSync,
  fsyncSync,
  linkSync,
  mkdirSync,
  openSync,
  readFileSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs'
import { join } from 'node:path'

export class FolderInUse extends Error {
  /** @param pid of who has it; null where one is just opening it, or ended in that moment */
  constructor(folder: string, pid: number | null) {
    super(
      pid === null
        ? `${folder} is just being opened by another Nokta, or one was ended as it did so. Try again in ten seconds.`
        : `${folder} is in use by another Nokta (process ${pid}). Stop that one first, or set NOKTA_DATA to another folder.`,
    )
  }
}

export interface FolderLock {
  release(): void
}

/** Clock ticks since boot when the process began (Linux); "" elsewhere, where only the process id tells. */
function startedAt(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? ''
  } catch {
    return ''
  }
}

function isAlive(pid: number, started: string): boolean {
  try {
    process.kill(pid, 0)
  } catch (e) {
    return (e as NodeJS.ErrnoException).code === 'EPERM'
  }
  return startedAt(pid) === started
}

/** A guard older than this was left behind by a process that was killed within it. */
const GUARD_MS = 10_000

/**
 * Takes the lock or throws {@link FolderInUse}. The file is written whole under another name and then linked,
 * so that of many who try at once one has it and nobody reads half of it. What a killed process left is
 * removed only within a guard that one alone can make.
 */
export function lockFolder(folder: string): FolderLock {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, 'lock')
  const own = join(folder, `lock-${process.pid}-${randomUUID()}`)
  const fd = openSync(own, 'wx', 0o600)
  writeSync(fd, `${process.pid} ${startedAt(process.pid)}\n`)
  fsyncSync(fd)
  closeSync(fd)
  try {
    for (let attempt = 0; attempt < 50; attempt++) {
      if (linked(own, file)) return { release: () => rmSync(file, { force: true }) }
      const [pid, started] = readOwner(file)
      if (pid > 0 && isAlive(pid, started)) throw new FolderInUse(folder, pid)
      removeLeft(folder, file)
    }
    throw new FolderInUse(folder, null)
  } finally {
    rmSync(own, { force: true })
  }
}

function linked(from: string, to: string): boolean {
  try {
    linkSync(from, to)
    return true
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code === 'EEXIST') return false
    throw e
  }
}

/**
 * Removes a lock whose owner is gone; looks again once it is alone, since another may have taken it
 * meanwhile.
 */
function removeLeft(folder: string, file: string) {
  const guard = join(folder, 'lock-guard')
  try {
    mkdirSync(guard)
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e
    const age = Date.now() - (statSync(guard, { throwIfNoEntry: false })?.mtimeMs ?? Date.now())
    if (age > GUARD_MS) rmSync(guard, { recursive: true, force: true })
    else Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 20)
    return
  }
  try {
    const [pid, started] = readOwner(file)
    if (!(pid > 0 && isAlive(pid, started))) rmSync(file, { force: true })
  } finally {
    rmSync(guard, { recursive: true, force: true })
  }
}

function readOwner(file: string): [pid: number, started: string] {
  try {
    const [pid, started] = readFileSync(file, 'utf8').trim().split(' ')
    return [Number(pid), started ?? '']
  } catch {
    return [0, '']
  }
}
