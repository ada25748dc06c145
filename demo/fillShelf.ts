import { readFileSync } from 'node:fs'
import { readAbc } from '#core/formats/abc/readAbc'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Tune } from '#core/music/tune'
import { DEMO_TUNES } from './shelf'

export const demoSource = (file: string) => readFileSync(new URL(`./tunes/${file}`, import.meta.url), 'utf8')

/** What takes tunes: the shelf of a server. */
interface Taker {
  create(source: string | null, tune: Tune, arrangements: readonly Arrangement[]): Promise<unknown>
}

/** Puts the demo tunes on an empty shelf. */
export async function fillShelf(shelf: Taker): Promise<void> {
  for (const { file, arrangements } of DEMO_TUNES) {
    const source = demoSource(file)
    const [read] = readAbc(source).tunes
    if (!read) throw new Error(`the demo tune ${file} can't be read`)
    await shelf.create(source, { ...read.tune, rights: 'own' }, arrangements)
  }
}
