import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { newLearner } from '#core/instruments/learner'
import { newStudio } from '#core/instruments/studio'
import { emptyTune } from '#core/music/tune'
import { backupPieces, BACKUP_VERSION, readBackup, writeBackup, type StoredTune } from './backup'

const arrangement = { id: 'a1', arrangement: newArrangement('cello', 'full', 'Low') }
const state = {
  name: 'before the ball',
  createdAt: '2030-04-01T10:00:00.000Z',
  source: null,
  tune: emptyTune('Low Tide'),
  arrangements: [arrangement],
}
const plain: StoredTune = {
  id: 't1',
  source: 'X:1',
  tune: emptyTune('Low Tide'),
  arrangements: [arrangement],
}
const away: StoredTune = { ...plain, id: 't2', source: null, away: true, versions: [state] }
const studio = { ...newStudio(), learners: [newLearner('l1', 'M.', 'cello', '1/2')] }
const read = (text: string) => {
  const r = readBackup(text)
  if ('error' in r) throw new Error(r.error.message)
  return r.backup
}

describe('a file of tunes', () => {
  it('gives back what was put in: tunes, arrangements, those put away, versions with a name', () => {
    const { leftOut, ...rest } = read(writeBackup([plain, away]))
    expect(rest).toEqual({ format: 'nokta', version: BACKUP_VERSION, tunes: [plain, away] })
    expect(leftOut).toMatch(/learners.*earlier versions of a tune that were not given a name/)
  })
  it('holds the studio, but nobody who learns there', () => {
    expect(read(writeBackup([], studio)).studio).toEqual(newStudio())
    expect(writeBackup([], studio)).not.toContain('"M."')
    expect(read(writeBackup([]))).not.toHaveProperty('studio')
  })
  it('is the same piece by piece', async () => {
    async function* tunes() {
      yield JSON.stringify(plain)
      yield `,${JSON.stringify(away)}`
    }
    for (const s of [undefined, studio]) {
      let text = ''
      for await (const piece of backupPieces(tunes(), s)) text += piece
      expect(read(text)).toEqual(read(writeBackup([plain, away], s)))
    }
  })
  it('of the first version is read too', () =>
    expect(read(JSON.stringify({ format: 'nokta', version: 1, tunes: [plain] }))).toEqual({
      format: 'nokta',
      version: 2,
      tunes: [plain],
    }))
})

describe('a file that is none', () => {
  const broken = (text: string) => {
    const r = readBackup(text)
    if ('backup' in r) throw new Error('read')
    return r.error
  }
  it('is no JSON: said by the reader of JSON', () =>
    expect(broken('{"format":"nokta",')).toEqual({
      code: 'json',
      path: '',
      message: expect.stringMatching(/JSON/),
    }))
  const with_ = (tune: object) => JSON.stringify({ format: 'nokta', version: 2, tunes: [plain, tune] })
  it.each([
    ['[]', ''],
    [JSON.stringify({ format: 'other', version: 2, tunes: [] }), 'format'],
    [JSON.stringify({ format: 'nokta', version: 2 }), 'tunes'],
    [JSON.stringify({ format: 'nokta', version: 2, tunes: [], extra: 1 }), ''],
    [with_({ ...plain, id: '' }), 'tunes.1.id'],
    [with_({ ...plain, id: 'x'.repeat(61) }), 'tunes.1.id'],
    [with_({ ...plain, away: false }), 'tunes.1.away'],
    [with_({ ...plain, source: 7 }), 'tunes.1.source'],
    [with_({ ...plain, arrangements: [{ ...arrangement, id: '' }] }), 'tunes.1.arrangements.0.id'],
    [with_({ ...plain, arrangements: [{ ...arrangement, more: 1 }] }), 'tunes.1.arrangements.0'],
    [with_({ ...plain, versions: [{ ...state, createdAt: 'yesterday' }] }), 'tunes.1.versions.0.createdAt'],
    [with_({ ...plain, versions: [{ ...state, name: 'x'.repeat(121) }] }), 'tunes.1.versions.0.name'],
    [with_({ ...plain, versions: [{ ...state, more: 1 }] }), 'tunes.1.versions.0'],
  ])('%.60s… names the place %s', (text, path) => {
    const error = broken(text)
    expect(error.code).toBe('format')
    expect(error.path).toBe(path)
    expect(error.message).not.toBe('')
  })
  it('of a later version says so', () =>
    expect(broken(JSON.stringify({ format: 'nokta', version: 3, tunes: [] })).message).toMatch(/newer|later/))
})
