import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { newStudio } from '#core/instruments/studio'
import { emptyTune } from '#core/music/tune'
import { backupPieces, BETWEEN, readBackup, writeBackup, type StoredTune } from './backup'
import { BackupBroken, readBackupItems, type BackupItem } from './items'
import { collected, linesOf } from './testing'

const tune = (id: string): StoredTune => ({
  id,
  source: null,
  tune: emptyTune(`Tune ${id}`),
  arrangements: [{ id: `a${id}`, arrangement: newArrangement('viola', 'full') }],
})
const three = ['1', '2', '3'].map(tune)
async function* texts() {
  await Promise.resolve()
  yield three
    .slice(0, 2)
    .map(t => JSON.stringify(t))
    .join(BETWEEN)
  yield BETWEEN + JSON.stringify(three[2])
}
const written = async (studio?: ReturnType<typeof newStudio>) =>
  (await collected(backupPieces(texts(), studio))).join('')
const items = (text: string): Promise<BackupItem[]> => collected(readBackupItems(linesOf(text)))
const titles = (list: readonly BackupItem[]) =>
  list.map(i => (i.kind === 'tune' ? i.tune.tune.title : i.kind))

describe('a backup read line by line', () => {
  it('is the document any other reader takes, and gives its tunes one by one, the studio last', async () => {
    const text = await written(newStudio())
    expect(text.split('\n')).toHaveLength(5)
    expect(readBackup(text)).toMatchObject({ backup: { tunes: three } })
    expect(titles(await items(text))).toEqual(['Tune 1', 'Tune 2', 'Tune 3', 'studio'])
    expect(titles(await items(await written()))).toEqual(['Tune 1', 'Tune 2', 'Tune 3'])
  })

  it('may be one line, as it was written before', async () => {
    expect(titles(await items(writeBackup(three, newStudio())))).toEqual([
      'Tune 1',
      'Tune 2',
      'Tune 3',
      'studio',
    ])
    expect(titles(await items(JSON.stringify(JSON.parse(writeBackup(three)), null, 2)))).toHaveLength(3)
    expect(await items(writeBackup([]))).toEqual([])
  })

  it('gives what is sound, and names the rest with what is wrong', async () => {
    for (const text of [await written(), writeBackup(three)]) {
      const broken = text.replace('"title":"Tune 2"', '"title":"Tune 2","unheardOf":1')
      const read = await items(broken)
      expect(titles(read)).toEqual(['Tune 1', 'fault', 'Tune 3'])
      expect(read[1]).toMatchObject({ kind: 'fault', what: '“Tune 2”', error: { path: 'tune' } })
    }
  })

  it('that is cut anywhere is told as such, at the latest at its end', async () => {
    const text = await written(newStudio())
    const ends = [
      5,
      60,
      text.indexOf('\n') + 1,
      text.indexOf('\n') + 40,
      text.lastIndexOf('\n'),
      text.length - 1,
    ]
    for (const end of ends)
      await expect(items(text.slice(0, end)), `cut at ${end}`).rejects.toThrow(BackupBroken)
  })

  it.each([
    ['', 'end of JSON'],
    ['[]', 'no backup'],
    ['{"format":"other","version":2,"tunes":[]}', 'no backup'],
    ['{"format":"nokta","version":99,"tunes":[]}', 'newer'],
    ['{"format":"nokta","version":99,"tunes":[\n\n]}', 'newer'],
  ])('%j is none', async (text, why) => {
    await expect(items(text)).rejects.toThrow(why)
  })
})
