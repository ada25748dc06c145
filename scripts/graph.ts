/**
 * The import graph of the repository: which file, and which house, knows which. Imports of types count too; what is
 * loaded later does not, nor what only tests use.
 */
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'

const HOUSES = ['core', 'drawing', 'contract', 'server', 'cli', 'web/src', 'demo'] as const
const IMPORT = /(?:^|\n)\s*(?:import|export)\s[^'"`;]*?from\s*'([^']+)'|(?:^|\n)import\s*'([^']+)'/g

function filesIn(folder: string): string[] {
  return readdirSync(folder).flatMap(name => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return name === 'goldens' ? [] : filesIn(path)
    return /\.(ts|vue)$/.test(name) && !/\.test\.ts$|^testing\.ts$/.test(name) ? [path] : []
  })
}

/** Of each file, by its path from the root, the files it imports; of one that is not there the path as it is named. */
export function importGraph(root: string): Map<string, string[]> {
  const files = HOUSES.flatMap(house => filesIn(join(root, house))).map(f => relative(root, f))
  const there = new Set(files)
  const resolved = (from: string, to: string) => {
    const path = to.startsWith('#') ? to.slice(1) : to.startsWith('.') ? join(dirname(from), to) : null
    return path === null ? undefined : ([path, `${path}.ts`].find(p => there.has(p)) ?? path)
  }
  return new Map(
    files.map(file => {
      const text = readFileSync(join(root, file), 'utf8')
      const named = [...text.matchAll(IMPORT)].map(m => resolved(file, m[1] ?? m[2]!))
      return [file, [...new Set(named.filter(f => f !== undefined && f !== file))] as string[]]
    }),
  )
}

/** A folder with what lies in it: `core/form`, `web/src/bench`, `server/store`, `cli`. */
export function houseOf(file: string): string {
  const parts = dirname(file).split('/')
  return parts.slice(0, parts[0] === 'web' ? 3 : parts[0] === 'cli' ? 1 : 2).join('/')
}

/** The same of houses. */
export function houseGraph(files: ReadonlyMap<string, readonly string[]>): Map<string, string[]> {
  const out = new Map<string, Set<string>>()
  for (const [file, to] of files) {
    const own = houseOf(file)
    const known = out.get(own) ?? new Set()
    for (const other of to) if (houseOf(other) !== own) known.add(houseOf(other))
    out.set(own, known)
  }
  return new Map([...out].map(([house, to]) => [house, [...to]]))
}

/** Strongly connected parts of more than one member (Tarjan 1972): each a circle, or several that touch. */
export function circlesOf(graph: ReadonlyMap<string, readonly string[]>): string[][] {
  const [index, low, stack] = [new Map<string, number>(), new Map<string, number>(), [] as string[]]
  const found: string[][] = []
  const visit = (v: string) => {
    index.set(v, index.size)
    low.set(v, index.get(v)!)
    stack.push(v)
    for (const w of graph.get(v) ?? []) {
      if (!index.has(w)) visit(w)
      if (stack.includes(w)) low.set(v, Math.min(low.get(v)!, low.get(w)!))
    }
    if (low.get(v) !== index.get(v)) return
    const part = stack.splice(stack.indexOf(v))
    if (part.length > 1) found.push(part.sort())
  }
  for (const v of graph.keys()) if (!index.has(v)) visit(v)
  return found
}
