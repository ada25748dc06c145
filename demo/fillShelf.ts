import { readFileSync } from 'node:fs'
import { readAbc } from '#core/formats/abc/readAbc'
import type { Shelf } from '#server/store/shelf'
import { DEMO_TUNES } from './shelf'

export const demoSource = (file: string) => readFileSync(new URL(`./tunes/${file}`, import.meta.url), 'utf8')

/** Puts the demo tunes on an empty shelf. */
export async function fillShelf(shelf: Shelf): Promise<void> {
  for (const { file, arrangements } of DEMO_TUNES) {
    const source = demoSource(file)
    const [read] = readAbc(source).tunes
    if (!read) throw new Error(`the demo tune ${file} can't be read`)
    await shelf.create(source, { ...read.tune, rights: 'own' }, arrangements)
  }
}
