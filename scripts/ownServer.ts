/** A server in a process of its own, for what is done to it from outside. */
import { spawn, type ChildProcess } from 'node:child_process'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))

export interface Running {
  readonly child: ChildProcess
  /** Its address once it has opened; null when it ended before. */
  readonly url: Promise<string | null>
  readonly ended: Promise<number | null>
}

/** @param backupSeconds null for as often as by default */
export function startServer(data: string, backupSeconds: number | null = 0.05): Running {
  const env = {
    ...process.env,
    NOKTA_DATA: data,
    NOKTA_PORT: '0',
    DATABASE_URL: '',
    NOKTA_DEMO: '',
    NOKTA_BACKUP_SECONDS: backupSeconds === null ? '' : String(backupSeconds),
  }
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], { cwd: root, env })
  let said = ''
  const ended = new Promise<number | null>(done => child.once('exit', code => done(code)))
  const url = new Promise<string | null>(done => {
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0]
      if (found) done(found)
    })
    void ended.then(() => done(null))
  })
  child.stderr.resume()
  return { child, url, ended }
}
