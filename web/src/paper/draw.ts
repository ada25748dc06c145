/** One sheet from an arrangement: what it needs is asked of the worker, then it is drawn. */
import { withoutVersion } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Tune } from '#core/music/tune'
import { AS_WRITTEN } from '#core/styles/sheetRecipe'
import { faceReady } from '../engraving/face'
import { askPart, derivedOf } from '../worker/client'
import type { PartDocuments } from '#core/desk/part'
import type { DerivedView } from '#core/desk/views'
import type { DrawnPage } from '#drawing/pages'
import type { Engraved, SheetSource } from '#drawing/sheet'
import type { Told } from './useExport'

/** `siblings`: the arrangements of the tune, of which one may stand under this one. */
export async function sheetSource(
  asked: PartDocuments,
  siblings: readonly { readonly id: string; readonly arrangement: Arrangement }[],
): Promise<SheetSource> {
  const { under } = asked.recipe.shown.sheet
  const other =
    under === AS_WRITTEN ? withoutVersion(asked.recipe) : siblings.find(a => a.id === under)?.arrangement
  const [main, content, below] = await Promise.all([
    derivedOf(asked),
    askPart('sheet', asked),
    other ? derivedOf({ ...asked, recipe: other }) : null,
    faceReady(),
  ])
  return {
    recipe: asked.recipe,
    ...engraved(main),
    tempo: main.tempo,
    content,
    under: below && engraved(below),
  }
}

const engraved = (r: DerivedView): Engraved => ({ tune: r.shown ?? r.tune, tab: r.tab })

/** "brindlewick-bridge-violin": the name of a file of it. */
export const fileName = (...parts: readonly string[]) =>
  parts
    .map(t =>
      t
        .replace(/[^\p{L}\p{N}]+/gu, '-')
        .replace(/^-|-$/g, '')
        .toLowerCase(),
    )
    .filter(Boolean)
    .join('-')

/** Title and author of a file of a sheet. */
export const aboutOf = (tune: Tune, r: Arrangement) => ({
  title: `${tune.title || 'Untitled'}: ${r.name}`,
  author: tune.composer,
})

export interface NamedPdf {
  readonly name: string
  readonly paper: 'A4' | 'Letter'
  readonly about: { readonly title: string; readonly author: string }
  /** Drawn when its turn comes. */
  readonly pages: () => Promise<readonly DrawnPage[]>
}

/**
 * PDFs in one zip, one after another; `told` hears of each, and stops the work by throwing. The same sheets
 * give the same file.
 */
export async function zipOf(list: readonly NamedPdf[], told: Told): Promise<Blob> {
  const { zipSync } = await import('fflate')
  const { makePdf } = await import('./pdf')
  const files: Record<string, Uint8Array> = {}
  for (const [i, f] of list.entries()) {
    const drawn = await f.pages()
    const pdf = await makePdf(
      drawn.map(p => p.svg),
      f.paper,
      f.about,
    )
    files[`${String(i + 1).padStart(2, '0')}-${f.name}.pdf`] = new Uint8Array(await pdf.arrayBuffer())
    await told(i + 1, list.length)
  }
  return new Blob([zipSync(files, { mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>], {
    type: 'application/zip',
  })
}

/** The first hour a zip can tell. */
const ZIP_TIME = new Date(1980, 0, 1, 12)
