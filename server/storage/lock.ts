/**
 * One process to a data folder. The database would let two open it and lose rows, so we hold a lock file with the process and its start time: a lock
 * left behind by a killed process is recognised and taken over.
 */
import { closeSync, fsyncSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { join } from 'node:path'

export class FolderInUse extends Error {
  constructor(folder: string, pid: number) {
    super(
      `${folder} is in use by another Nokta (process ${pid}). Stop that one first, or set NOKTA_DATA to another folder.`,
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

/** Takes the lock or throws {@link FolderInUse}. */
export function lockFolder(folder: string): FolderLock {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'lock')
  for (let attempt = 0; attempt < 3; attempt++) {
    try {
      const fd = openSync(file, 'wx')
      writeSync(fd, `${process.pid} ${startedAt(process.pid)}\n`)
      fsyncSync(fd)
      closeSync(fd)
      return { release: () => rmSync(file, { force: true }) }
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e
      const [pid, started] = readOwner(file)
      if (pid > 0 && isAlive(pid, started)) throw new FolderInUse(folder, pid)
      rmSync(file, { force: true })
    }
  }
  throw new Error(`${file} can't be taken`)
}

function readOwner(file: string): [pid: number, started: string] {
  try {
    const [pid, started] = readFileSync(file, 'utf8').trim().split(' ')
    return [Number(pid), started ?? '']
  } catch {
    return [0, '']
  }
}
