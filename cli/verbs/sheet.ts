import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive, DeriveMemory, type Derived } from '#core/arrangement/derive'
import { styled, withoutVersion, withShown } from '#core/arrangement/edits'
import { engravedTune } from '#core/arrangement/fingeredNotation'
import type { Arrangement } from '#core/arrangement/recipe'
import { REMARK } from '#core/formats/spoken/readSpoken'
import { writeFile } from '#core/formats/writeFile'
import { newStudio } from '#core/instruments/studio'
import type { Tune } from '#core/music/tune'
import type { Paper } from '#core/page/paper'
import { contentOf } from '#core/paper/content'
import {
  AS_WRITTEN,
  PAPER_SIZES,
  SHEET_KINDS,
  STYLES,
  type SheetKind,
  type SheetRecipe,
} from '#core/styles/sheetRecipe'
import { tabModel } from '#core/tablature/tabModel'
import { tabText } from '#core/tablature/tabText'
import type { Engraved, SheetSource } from '#drawing/sheet'
import { svgFile } from '#drawing/svgFile'
import { BadInput } from '../badInput'
import { STANDARD } from '../files'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'
import { AS_OPTION, formatToWrite, Raw, writeTo } from '../output'
import { drawingSurface, embeddedFaces, pdfFaces } from '../surface'
import { text, type Verb } from '../verb'

/** What --kinds may name: the kinds of a sheet, and its music as staff, as tab, or as both. */
const NAMES = ['staff', 'tab', ...SHEET_KINDS] as const

const FILES = ['pdf', 'svg', 'json', 'txt'] as const

export const sheet: Verb = {
  name: 'sheet',
  what: 'A sheet: its pages as blocks in millimetres (JSON), to print (PDF), as drawings (SVG, a file a page: OUT.svg, OUT-2.svg), or the tablature in letters (text), spelled so that it is read again as the same notes, strings and fingers.',
  takes: 'FILE…',
  options: {
    ...ARRANGEMENT_OPTIONS,
    style: { type: 'string', value: 'NAME', what: STYLES.map(s => `“${s.sheet.style}”`).join(', ') },
    kinds: { type: 'string', multiple: true, value: 'KINDS', what: `apart by commas: ${NAMES.join(', ')}` },
    paper: { type: 'string', value: 'A4|letter', what: 'A4 when not said' },
    out: {
      type: 'string',
      short: 'o',
      value: 'OUT',
      what: `a file to write: ${FILES.map(f => `.${f}`).join(', ')}`,
    },
    as: AS_OPTION,
  },
  run: async (values, paths, open) => {
    const file = open(paths[0])
    const recipe = withOptions(recipeFrom(file, values, 'fingers'), values)
    const out = text(values.out)
    const kind = out === undefined ? 'json' : formatToWrite('-o', out, text(values.as), FILES)
    const main = engraved(file.tune, recipe)
    if (out !== undefined && kind === 'txt')
      return written(out, tabFile(file.tune, recipe, tabText(file.tune.title, main.tab)))
    drawingSurface()
    const { drawSheet } = await import('#drawing/sheet')
    const { pages, sheet: made } = drawSheet(sourceOf(file.tune, recipe, main), newStudio())
    if (out !== undefined && kind === 'pdf') {
      const drawn = pages.map(p => p.svg)
      return written(out, await pdfBytes(drawn, made.paper, file.tune))
    }
    if (out !== undefined && kind === 'svg') return writtenPages(out, pages)
    const result = { paper: made.paper, space: made.space, pages: made.pages, systems: made.systems }
    return out === undefined ? result : written(out, `${JSON.stringify(result, null, 1)}\n`)
  },
}

async function pdfBytes(pages: readonly SVGSVGElement[], paper: Paper, tune: Tune): Promise<Uint8Array> {
  const { pagesPdf } = await import('#drawing/pdf')
  const pdf = await pagesPdf(pages, paper, { title: tune.title, author: tune.composer ?? '' }, pdfFaces())
  return new Uint8Array(pdf.output('arraybuffer'))
}

function writtenPages(out: string, pages: readonly { readonly svg: SVGSVGElement }[]) {
  const faces = embeddedFaces()
  if (out === STANDARD && pages.length > 1)
    throw new BadInput(`-o ${out}: this sheet has ${pages.length} pages, a file each: name one`)
  const files = pages.map((p, i) => written(pageName(out, i), svgFile(p.svg, faces)))
  return out === STANDARD ? files[0] : files
}

function engraved(tune: Tune, recipe: Arrangement): Engraved & { readonly d: Derived } {
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return { d, tune: engravedTune(d, recipe), tab: tabModel(d, recipe) }
}

function sourceOf(tune: Tune, recipe: Arrangement, { d, ...main }: ReturnType<typeof engraved>): SheetSource {
  const content = contentOf(d, recipe, ASSUMED_HANDS, new DeriveMemory())
  const under = recipe.shown.sheet.under === AS_WRITTEN ? engraved(tune, withoutVersion(recipe)) : null
  return { ...main, recipe, tempo: d.tempo, content, under }
}

/** "out.svg", "out-2.svg": a page each. */
const pageName = (out: string, i: number) => (i === 0 ? out : out.replace(/(?=\.svg$)/i, `-${i + 1}`))

/**
 * The tune as it is spelled aloud, which is read again as the same notes, strings and fingers; and the tab
 * drawn under it, as remarks.
 */
function tabFile(tune: Tune, recipe: Arrangement, drawn: string): string {
  const { content } = writeFile('txt', tune, recipe, ASSUMED_HANDS)
  const remarks = drawn
    .trimEnd()
    .split('\n')
    .map(line => `${REMARK} ${line}`.trimEnd())
  return `${String(content).trimEnd()}\n\n${remarks.join('\n')}\n`
}

function written(path: string, content: string | Uint8Array) {
  if (path === STANDARD) return new Raw(content)
  writeTo(path, content)
  return { written: path, bytes: Buffer.byteLength(content) }
}

function withOptions(r: Arrangement, values: Parameters<Verb['run']>[0]): Arrangement {
  const name = text(values.style)
  const style = STYLES.find(s => s.sheet.style.toLowerCase() === name?.toLowerCase())
  if (name !== undefined && !style)
    throw new BadInput(`--style ${name}: there are ${STYLES.map(s => s.sheet.style).join(', ')}`)
  const base = style ? styled(r, style) : r
  const paper = text(values.paper)
  const size = PAPER_SIZES.find(p => p.toLowerCase() === paper?.toLowerCase())
  if (paper !== undefined && !size) throw new BadInput(`--paper ${paper}: A4 or letter`)
  const part: Partial<SheetRecipe> = {
    ...(size && { paper: size }),
    ...kindsOf([values.kinds ?? []].flat() as string[]),
  }
  return withShown(base, { sheet: { ...base.shown.sheet, ...part } })
}

function kindsOf(values: readonly string[]): Partial<SheetRecipe> {
  const names = values.flatMap(v => v.split(',')).map(n => n.trim())
  if (names.length === 0) return {}
  const wrong = names.find(n => !(NAMES as readonly string[]).includes(n))
  if (wrong !== undefined) throw new BadInput(`--kinds ${wrong}: not known; there are ${NAMES.join(', ')}`)
  const [staff, tab] = [names.includes('staff'), names.includes('tab')]
  const kinds = SHEET_KINDS.filter(
    (k): k is SheetKind => names.includes(k) || (k === 'music' && (staff || tab)),
  )
  return { kinds, ...((staff || tab) && { music: staff && tab ? 'both' : staff ? 'staff' : 'tab' }) }
}
