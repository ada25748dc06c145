/** The environment read once: every setting with its limits, and an error that names the variable. */
import { resolve } from 'node:path'
import { z } from 'zod'

/** A setting that can't be used. */
export class BadConfig extends Error {}

const LOG_LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'silent'] as const
/** What is set to nothing is not set. */
const unset = (value: unknown) => (value === '' ? undefined : value)
const setting = <T extends z.ZodType>(schema: T) => z.preprocess(unset, schema)
const numberFrom = (least: number, most: number, says: string) =>
  z
    .string()
    .transform(Number)
    .refine(n => n >= least && n <= most, says)

const schema = z.object({
  NOKTA_PORT: setting(
    z
      .string()
      .default('4747')
      .transform(Number)
      .refine(n => Number.isInteger(n) && n >= 0 && n <= 65_535, 'give a number from 0 to 65535'),
  ),
  NOKTA_HOST: setting(
    z
      .enum(
        ['127.0.0.1', '::1', 'localhost'],
        'this version answers to this machine alone: 127.0.0.1, ::1 or localhost',
      )
      .default('127.0.0.1'),
  ),
  NOKTA_DATA: setting(z.string().optional()),
  DATABASE_URL: setting(
    z
      .string()
      .regex(
        /^postgres(ql)?:\/\/\S+$/,
        'give the address of a PostgreSQL server, as postgres://user@host:5432/name',
      )
      .optional(),
  ),
  NOKTA_LOG: setting(z.enum(LOG_LEVELS, `give one of ${LOG_LEVELS.join(', ')}`).default('warn')),
  NOKTA_BACKUP_SECONDS: setting(numberFrom(0.01, 86_400, 'give seconds from 0.01 to 86400').optional()),
  NOKTA_DEMO: setting(z.enum(['0', '1'], 'give 1 for the demo tunes, 0 for none').default('0')),
})

export interface Config {
  readonly port: number
  readonly host: string
  /** Where the embedded database lies, unless a server is given. */
  readonly data: string
  readonly databaseUrl: string | null
  readonly log: (typeof LOG_LEVELS)[number]
  readonly backupSeconds: number | null
  readonly demo: boolean
}

/** @param root the folder data lies in when nobody says where */
export function readConfig(env: Readonly<Record<string, string | undefined>>, root: string): Config {
  const read = schema.safeParse(env)
  if (!read.success) {
    const { path, message } = read.error.issues[0]!
    const name = String(path[0])
    // An address may hold a password.
    const value = name === 'DATABASE_URL' ? '' : ` is “${env[name] ?? ''}”`
    throw new BadConfig(`${name}${value}: ${message}.`)
  }
  const { data } = read
  return {
    port: data.NOKTA_PORT,
    host: data.NOKTA_HOST,
    data: resolve(root, data.NOKTA_DATA ?? 'data'),
    databaseUrl: data.DATABASE_URL ?? null,
    log: data.NOKTA_LOG,
    backupSeconds: data.NOKTA_BACKUP_SECONDS ?? null,
    demo: data.NOKTA_DEMO === '1',
  }
}
