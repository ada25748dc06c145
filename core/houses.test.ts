import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'

const core = fileURLToPath(new URL('.', import.meta.url))
/** Files that only tests read. */
const forTests = (path: string) => /\.test\.ts$|(^|\/)testing\.ts$|\/goldens\//.test(path)
const files = (readdirSync(core, { recursive: true }) as string[]).filter(
  f => f.endsWith('.ts') && !forTests(f),
)

/** What a file imports of the core, types too. */
function importsOf(file: string): string[] {
  const text = readFileSync(join(core, file), 'utf8')
  return [...text.matchAll(/from '((?:#core\/|\.)[^']+)'/g)].map(([, spec]) =>
    spec!.startsWith('#core/') ? `${spec!.slice(6)}.ts` : `${normalize(join(dirname(file), spec!))}.ts`,
  )
}

/** Nodes of a graph that lie on a circle. */
function circles(graph: ReadonlyMap<string, readonly string[]>): string[] {
  const reaches = (from: string, to: string) => {
    const seen = new Set<string>()
    const open = [...(graph.get(from) ?? [])]
    for (let next = open.pop(); next !== undefined; next = open.pop()) {
      if (next === to) return true
      if (seen.has(next)) continue
      seen.add(next)
      open.push(...(graph.get(next) ?? []))
    }
    return false
  }
  return [...graph.keys()].filter(n => reaches(n, n))
}

const imports = new Map(files.map(f => [f, importsOf(f)]))
const houseOf = (file: string) => (file.includes('/') ? file.slice(0, file.indexOf('/')) : file)

describe('the houses of the core', () => {
  it('finds files, and every import leads to one', () => {
    expect(files.length).toBeGreaterThan(120)
    const lost = [...imports].flatMap(([f, list]) => list.filter(i => !imports.has(i)).map(i => `${f}: ${i}`))
    expect(lost).toEqual([])
  })

  it('no files import each other in a circle', () => {
    expect(circles(imports)).toEqual([])
  })

  it('no houses import each other in a circle', () => {
    const houses = new Map<string, string[]>()
    for (const [file, list] of imports) {
      const others = list.map(houseOf).filter(h => h !== houseOf(file))
      houses.set(houseOf(file), [...(houses.get(houseOf(file)) ?? []), ...others])
    }
    expect(circles(houses)).toEqual([])
  })

  it('a circle would be seen', () => {
    expect(
      circles(
        new Map([
          ['a', ['b']],
          ['b', ['c']],
          ['c', ['b']],
        ]),
      ),
    ).toEqual(['b', 'c'])
  })
})
