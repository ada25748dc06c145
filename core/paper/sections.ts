/** A sheet put together: its kinds in their order, each as a section of the page. */
import type { SheetRecipe } from '#core/styles/sheetRecipe'
import { paragraph, type Paragraph } from '#core/page/flow'
import { POINT } from '#core/page/heading'
import { notate } from '#core/page/notation'
import { passage } from '#core/page/passage'
import type { Section } from '#core/page/sheet'
import { aligned, type PagePart } from '#core/page/systems'
import { underLines } from '#core/page/under'
import type { Tune } from '#core/music/tune'
import type { TabModel } from '#core/tablature/tabModel'
import type { SheetContent } from './content'
import { boardPicture, gridPicture, type BoardLook } from './pictures'

const BODY = 10.5 * POINT

export interface SheetParts {
  readonly tune: Tune
  readonly tab: TabModel
  /** What stands under it, with the same measures; null for nothing. */
  readonly under: { readonly tune: Tune; readonly tab: TabModel } | null
  /** Words between the beats. */
  readonly countWords: readonly string[]
  readonly board: BoardLook
}

export function sectionsOf(sheet: SheetRecipe, content: SheetContent, p: SheetParts): Section[] {
  const part = ({ tune, tab }: { tune: Tune; tab: TabModel }): PagePart => {
    const notated = notate(tune)
    return { notated, tab, under: underLines(notated, { ...sheet, countWords: p.countWords }) }
  }
  const parts = aligned(p.under ? [p, p.under] : [p]).together.map(part)
  const sections = sheet.kinds.flatMap((kind): Section[] => {
    switch (kind) {
      case 'music':
        return [{ kind: 'music', music: { parts, breaks: sheet.breaks } }]
      case 'cards':
        return (content.cards ?? []).map((c, i) => ({
          kind: 'music',
          music: { parts: passage(parts, c.events), range: c.range },
          title: c.title,
          note: c.note,
          framed: true,
          ...(c.board && { under: (width: number) => boardPicture(c.board!, width, p.board) }),
          newPage: i === 0 && sheet.kinds[0] !== 'cards',
        }))
      case 'warmUps':
        return (content.warmUps ?? []).map(w => ({
          kind: 'music',
          music: { parts: [part(w)] },
          title: w.title,
          note: w.note,
        }))
      case 'board':
        return content.board
          ? [
              {
                kind: 'picture',
                title: 'The notes of this tune',
                draw: width => boardPicture(content.board!, width, p.board),
              },
            ]
          : []
      case 'grid':
        return content.grid
          ? [
              {
                kind: 'picture',
                title: 'Practice',
                draw: (width, measurer) => gridPicture(content.grid!, width, measurer),
              },
            ]
          : []
      case 'words':
        return content.words
          ? [
              text([
                heading('Words'),
                ...content.words.map((pieces): Paragraph => ({ pieces, size: 12 * POINT, before: 1.5 })),
              ]),
            ]
          : []
      case 'text':
        return content.text
          ? [
              text([
                heading('Strings and fingers'),
                ...content.text
                  .trimEnd()
                  .split('\n')
                  .map(l => paragraph(l || ' ', BODY)),
              ]),
            ]
          : []
      case 'outline':
        return content.outline ? [text(content.outline.map(l => OUTLINE[l.kind](l.text)))] : []
    }
  })
  const small = (said: string, before: number) => paragraph(said, 8.5 * POINT, { before })
  const foot = [
    ...(content.legend.length > 0 ? [small(content.legend.join('   ·   '), 2)] : []),
    ...content.cautions.map(c => small(c, 1)),
  ]
  return foot.length > 0 ? [...sections, text(foot)] : sections
}

const text = (paragraphs: readonly Paragraph[]): Section => ({ kind: 'text', paragraphs })
const heading = (said: string) => paragraph(said, 12 * POINT, { bold: true, before: 4 })

const OUTLINE = {
  title: heading,
  heading: (said: string) => paragraph(said, BODY, { bold: true, before: 2.5 }),
  step: (said: string) => paragraph(said, BODY, { indent: 5 }),
  note: (said: string) => paragraph(said, 9 * POINT, { italic: true }),
} as const
