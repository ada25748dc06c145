import { existsSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'

const root = new URL('../', import.meta.url)
const rows = readFileSync(new URL('docs/glossary.md', root), 'utf8')
  .split('\n')
  .filter(l => l.startsWith('|') && !/^\| *(-+|term) *\|/.test(l))
  .map(l =>
    l
      .split('|')
      .slice(1, -1)
      .map(cell => cell.trim()),
  )

describe('the glossary', () => {
  it('names for each term a file that is there', () => {
    expect(rows.length).toBeGreaterThan(50)
    const lost = rows.filter(
      ([, , owner]) => !existsSync(fileURLToPath(new URL(/`(.+)`/.exec(owner!)?.[1] ?? '', root))),
    )
    expect(lost).toEqual([])
  })
  it('has each term once', () => {
    const terms = rows.flatMap(([term]) =>
      term!
        .replace(/\(.*?\)/g, '')
        .split(',')
        .map(t => t.trim()),
    )
    expect(terms.filter((t, i) => terms.indexOf(t) !== i)).toEqual(['part'])
  })
})
