/**
 * The page itself, with what its place in the app will need named in its head, so that all of it comes at
 * once instead of in turns.
 */
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { urlOf } from '#contract/api'

/** Written by the build: files of the app by the place that needs them. */
const filesSchema = z.strictObject({ scripts: z.array(z.string()), styles: z.array(z.string()) })
type Files = z.infer<typeof filesSchema>
const needsSchema = z.strictObject({
  /** The first script of a bench. */
  start: z.string(),
  shelf: filesSchema,
  /** A bench whatever the station, and each station beside. */
  bench: filesSchema,
  stations: z.record(z.string(), filesSchema),
  fonts: z.array(z.string()),
})
type Needs = z.infer<typeof needsSchema>

const BENCH = /^\/tunes\/([^/]+)\/([a-z]+)\/?$/

export interface Page {
  /** The document for a path of the app. */
  at(path: string): string
}

/** Null when the app is not built. */
export function readPage(web: string): Page | null {
  const index = join(web, 'index.html')
  if (!existsSync(index)) return null
  const html = readFileSync(index, 'utf8')
  const needs = readNeeds(join(web, 'needs.json'))
  return { at: path => (needs ? html.replace('<title>', `${headFor(path, needs, html)}<title>`) : html) }
}

function readNeeds(file: string): Needs | null {
  if (!existsSync(file)) return null
  const read = needsSchema.safeParse(JSON.parse(readFileSync(file, 'utf8')))
  return read.success ? read.data : null
}

/** Links to what is needed and not named in the document already. */
function headFor(path: string, { start, shelf, bench, stations, fonts }: Needs, html: string): string {
  const linksTo = (...files: readonly Files[]) => {
    const fresh = (of: (f: Files) => readonly string[]) =>
      [...new Set(files.flatMap(of))].filter(f => !html.includes(f))
    return [
      ...fresh(f => f.scripts).map(f => `<link rel="modulepreload" crossorigin href="/${f}">`),
      ...fresh(f => f.styles).map(f => `<link rel="stylesheet" crossorigin href="/${f}">`),
    ]
  }
  const fontLinks = fonts.map(f => `<link rel="preload" as="font" type="font/ttf" crossorigin href="/${f}">`)
  const [, tune, name] = BENCH.exec(path) ?? []
  const station = name === undefined ? undefined : stations[name]
  if (path === '/') return [...linksTo(shelf), ...fontLinks].join('')
  if (tune === undefined || !station) return fontLinks.join('')
  return [
    `<script type="module" src="/${start}"></script>`,
    ...[urlOf('tune', { id: decodeOr(tune) }), urlOf('studio')].map(
      url => `<link rel="preload" as="fetch" crossorigin href="${attribute(url)}">`,
    ),
    ...linksTo(bench, station),
    ...fontLinks,
  ].join('')
}

function decodeOr(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

const attribute = (text: string) => text.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;')
