import { describe, expect, it } from 'vitest'
import { BadConfig, readConfig } from './config'

const read = (env: Record<string, string> = {}) => readConfig(env, '/somewhere')

describe('the settings', () => {
  it('have their defaults; what is set to nothing is not set', () => {
    const plain = {
      port: 4747,
      host: '127.0.0.1',
      data: '/somewhere/data',
      databaseUrl: null,
      log: 'warn',
      backupSeconds: null,
      demo: false,
    }
    expect(read()).toEqual(plain)
    expect(read({ NOKTA_PORT: '', DATABASE_URL: '', NOKTA_DEMO: '', NOKTA_BACKUP_SECONDS: '' })).toEqual(
      plain,
    )
  })
  it('are taken as they are given', () => {
    expect(
      read({
        NOKTA_PORT: '0',
        NOKTA_DATA: '/else/where',
        DATABASE_URL: 'postgresql://a@b/c',
        NOKTA_LOG: 'info',
        NOKTA_BACKUP_SECONDS: '0.05',
        NOKTA_DEMO: '1',
      }),
    ).toMatchObject({
      port: 0,
      data: '/else/where',
      databaseUrl: 'postgresql://a@b/c',
      log: 'info',
      backupSeconds: 0.05,
      demo: true,
    })
  })
  it.each([
    ['NOKTA_PORT', 'many', 'NOKTA_PORT is “many”: give a number from 0 to 65535.'],
    ['NOKTA_PORT', '70000', 'NOKTA_PORT is “70000”: give a number from 0 to 65535.'],
    ['NOKTA_BACKUP_SECONDS', '0', 'NOKTA_BACKUP_SECONDS is “0”: give seconds from 0.01 to 86400.'],
    ['NOKTA_DEMO', 'yes', 'NOKTA_DEMO is “yes”: give 1 for the demo tunes, 0 for none.'],
    ['NOKTA_LOG', 'loud', 'NOKTA_LOG is “loud”: give one of fatal, error, warn, info, debug, silent.'],
    [
      'NOKTA_HOST',
      '0.0.0.0',
      'NOKTA_HOST is “0.0.0.0”: this version answers to this machine alone: 127.0.0.1, ::1 or localhost.',
    ],
    [
      'DATABASE_URL',
      'mysql://root:secret@x',
      'DATABASE_URL: give the address of a PostgreSQL server, as postgres://user@host:5432/name.',
    ],
  ])('%s=%s is refused by name', (name, value, says) => {
    expect(() => read({ [name]: value })).toThrow(new BadConfig(says))
  })
})
