import { writeFileSync } from 'node:fs'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { styled, withShown } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { formatTuning } from '#core/instruments/tunings'
import { COUNT_WORDS } from '#core/page/counting'
import { estimatedHeight } from '#core/page/heights'
import { PLAIN_MEASURER } from '#core/page/measurer'
import { sheetOf } from '#core/page/sheet'
import { contentOf } from '#core/paper/content'
import { sectionsOf } from '#core/paper/sections'
import { PAPER_SIZES, SHEET_KINDS, STYLES, type SheetKind, type SheetRecipe } from '#core/styles/sheetRecipe'
import { REMARK } from '#core/formats/spoken/readSpoken'
import { writeFile } from '#core/formats/writeFile'
import type { Tune } from '#core/music/tune'
import { tabModel } from '#core/tablature/tabModel'
import { tabText } from '#core/tablature/tabText'
import { BadInput } from '../badInput'
import { ARRANGEMENT_OPTIONS, readTuneFile, recipeFrom } from '../input'
import { text, type Verb } from '../verb'

/** What --kinds may name: the kinds of a sheet, and its music as staff, as tab, or as both. */
const NAMES = ['staff', 'tab', ...SHEET_KINDS] as const

export const sheet: Verb = {
  name: 'sheet',
  what: 'A sheet: its pages as blocks in millimetres, or the tablature in letters, spelled so that it is read again as the same notes, strings and fingers. Heights of systems are estimated where nothing draws them.',
  takes: 'FILE…',
  options: {
    ...ARRANGEMENT_OPTIONS,
    style: { type: 'string', value: 'NAME', what: STYLES.map(s => `“${s.sheet.style}”`).join(', ') },
    kinds: { type: 'string', multiple: true, value: 'KINDS', what: `apart by commas: ${NAMES.join(', ')}` },
    paper: { type: 'string', value: 'A4|letter', what: 'A4 when not said' },
    out: { type: 'string', short: 'o', value: 'OUT', what: 'a file to write: .json or .txt' },
  },
  run: (values, paths) => {
    const file = readTuneFile(paths[0])
    const { tune } = file
    const recipe = withOptions(recipeFrom(file, values, 'fingers'), values)
    const d = derive(tune, recipe, ASSUMED_HANDS)
    const out = text(values.out)
    const tab = tabModel(d, recipe)
    if (out?.endsWith('.txt')) return written(out, tabFile(tune, recipe, tabText(tab)))
    if (out !== undefined && !out.endsWith('.json')) throw new BadInput(`-o ${out}: a file that ends with .json or .txt; pictures and PDF come from the page`) // prettier-ignore
    const own = recipe.shown.sheet
    const content = contentOf(d, recipe, ASSUMED_HANDS, new DeriveMemory())
    const sections = sectionsOf(own, content, { tune: d.tune, tab, under: null, countWords: COUNT_WORDS, board: { colours: {} } }) // prettier-ignore
    const music = sections.flatMap(s => (s.kind === 'music' ? [s.music] : []))
    const rows = { fingers: own.fingers !== 'none', bows: true, tab: own.music !== 'staff', chords: own.show.chords } // prettier-ignore
    const tabAlone = own.music === 'tab'
    const { instrument, tuning } = recipe.played
    const made = sheetOf(sections, {
      paper: own.paper,
      size: own.size,
      words: { arrangement: recipe.name, instrument: INSTRUMENTS[instrument].name, tuning: tuning && formatTuning(tuning) }, // prettier-ignore
      tempo: d.tempo,
      measurer: PLAIN_MEASURER,
      rows,
      tabAlone,
      beside: 2.4,
      heightOf: (m, system, _i, space) => estimatedHeight(music[m]!.parts, system, space, { rows, tabAlone }),
    })
    const result = { paper: made.paper, space: made.space, heights: 'estimated', pages: made.pages, systems: made.systems } // prettier-ignore
    return out === undefined ? result : written(out, `${JSON.stringify(result, null, 1)}\n`)
  },
}

/** The tune as it is spelled aloud, which is read again as the same notes, strings and fingers; and the tab drawn under it, as remarks. */
function tabFile(tune: Tune, recipe: Arrangement, drawn: string): string {
  const { content } = writeFile('txt', tune, recipe, ASSUMED_HANDS)
  const remarks = drawn.trimEnd().split('\n').map(line => `${REMARK} ${line}`.trimEnd()) // prettier-ignore
  return `${String(content).trimEnd()}\n\n${remarks.join('\n')}\n`
}

function written(path: string, content: string) {
  writeFileSync(path, content)
  return { written: path, bytes: Buffer.byteLength(content) }
}

function withOptions(r: Arrangement, values: Parameters<Verb['run']>[0]): Arrangement {
  const name = text(values.style)
  const style = STYLES.find(s => s.sheet.style.toLowerCase() === name?.toLowerCase())
  if (name !== undefined && !style) throw new BadInput(`--style ${name}: there are ${STYLES.map(s => s.sheet.style).join(', ')}`) // prettier-ignore
  const base = style ? styled(r, style) : r
  const paper = text(values.paper)
  const size = PAPER_SIZES.find(p => p.toLowerCase() === paper?.toLowerCase())
  if (paper !== undefined && !size) throw new BadInput(`--paper ${paper}: A4 or letter`)
  const part: Partial<SheetRecipe> = { ...(size && { paper: size }), ...kindsOf([values.kinds ?? []].flat() as string[]) } // prettier-ignore
  return withShown(base, { sheet: { ...base.shown.sheet, ...part } })
}

function kindsOf(values: readonly string[]): Partial<SheetRecipe> {
  const names = values.flatMap(v => v.split(',')).map(n => n.trim())
  if (names.length === 0) return {}
  const wrong = names.find(n => !(NAMES as readonly string[]).includes(n))
  if (wrong !== undefined) throw new BadInput(`--kinds ${wrong}: not known; there are ${NAMES.join(', ')}`)
  const [staff, tab] = [names.includes('staff'), names.includes('tab')]
  const kinds = SHEET_KINDS.filter((k): k is SheetKind => names.includes(k) || (k === 'music' && (staff || tab))) // prettier-ignore
  return { kinds, ...((staff || tab) && { music: staff && tab ? 'both' : staff ? 'staff' : 'tab' }) }
}
