/**
 * For tests and benches: a PostgreSQL of Debian's own, on scratch files and a free port of this machine,
 * stopped at the end.
 */
import { spawnSync } from 'node:child_process'
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export interface PostgresServer {
  /** The address of an empty database of its own. */
  fresh(): string
  stop(): void
}

const LIBRARIES = '/usr/lib/postgresql'
const programs = () => {
  const versions = existsSync(LIBRARIES) ? readdirSync(LIBRARIES).sort((a, b) => Number(b) - Number(a)) : []
  const found = versions.map(v => join(LIBRARIES, v, 'bin')).find(bin => existsSync(join(bin, 'initdb')))
  if (!found) throw new Error('PostgreSQL is not installed: apt-get install -y postgresql')
  return found
}

const freePort = () =>
  new Promise<number>(done => {
    const asking = createServer().listen(0, '127.0.0.1', () => {
      const { port } = asking.address() as AddressInfo
      asking.close(() => done(port))
    })
  })

/** It never runs as root: there it is handed over to the account the package made for it. */
const asRoot = process.getuid?.() === 0
function run(program: string, args: readonly string[]) {
  const [command, all] = asRoot
    ? ['runuser', ['-u', 'postgres', '--', program, ...args]]
    : [program, [...args]]
  const { status, stderr, stdout } = spawnSync(command, all, { encoding: 'utf8' })
  if (status !== 0) throw new Error(`${program} ended with ${status}:\n${stderr || stdout}`)
}

function idsOfPostgres(): [uid: number, gid: number] {
  const id = (of: string) => Number(spawnSync('id', [of, 'postgres'], { encoding: 'utf8' }).stdout)
  return [id('-u'), id('-g')]
}

export async function startPostgres(): Promise<PostgresServer> {
  const bin = programs()
  const folder = mkdtempSync(join(tmpdir(), 'nokta-postgres-'))
  if (asRoot) chownSync(folder, ...idsOfPostgres())
  const [data, log] = [join(folder, 'data'), join(folder, 'log')]
  const port = await freePort()
  run(join(bin, 'initdb'), ['-D', data, '-A', 'trust', '-U', 'postgres', '-E', 'UTF8', '--no-sync'])
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off`
  run(join(bin, 'pg_ctl'), ['-D', data, '-l', log, '-o', options, '-w', 'start'])
  let count = 0
  return {
    fresh() {
      const name = `shelf_${count++}`
      run(join(bin, 'createdb'), ['-h', '127.0.0.1', '-p', String(port), '-U', 'postgres', name])
      return `postgres://postgres@127.0.0.1:${port}/${name}`
    },
    stop() {
      run(join(bin, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop'])
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
