import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { circlesOf, houseGraph, houseOf, importGraph } from './graph'

const files = importGraph(fileURLToPath(new URL('..', import.meta.url)))

describe('the import graph', () => {
  it('is seen: imports of types, by alias and by path, of components too', () => {
    expect(files.get('core/bowing/search.ts')).toContain('core/bowing/line.ts')
    expect(files.get('server/store/shelf.ts')).toContain('core/form/form.ts')
    expect(files.get('web/src/bench/BenchView.vue')).toContain('web/src/bench/PlayBar.vue')
    expect(files.size).toBeGreaterThan(400)
  })
  it('leads to files that are there', () => {
    const lost = [...files].flatMap(([f, to]) => to.filter(t => !files.has(t)).map(t => `${f}: ${t}`))
    expect(lost.filter(l => !/\.(css|ttf|json|mjs)$|\?/.test(l))).toEqual([])
  })
  it('has no circle of files', () => expect(circlesOf(files)).toEqual([]))
  it('has no circle of houses', () => expect(circlesOf(houseGraph(files))).toEqual([]))
})

describe('circles', () => {
  const graph = (of: Record<string, string[]>) => new Map(Object.entries(of))
  it('are found, each once, however long', () => {
    expect(circlesOf(graph({ a: ['b'], b: ['c'], c: ['a', 'd'], d: [] }))).toEqual([['a', 'b', 'c']])
    expect(circlesOf(graph({ a: ['b'], b: ['a'], c: ['d'], d: ['c'] }))).toHaveLength(2)
    expect(circlesOf(graph({ a: ['b', 'c'], b: ['c'], c: [] }))).toEqual([])
  })
  it('of houses: a folder counts with what lies in it', () => {
    expect(houseOf('core/formats/abc/readAbc.ts')).toBe('core/formats')
    expect(houseOf('web/src/bench/PlayBar.vue')).toBe('web/src/bench')
    expect(houseOf('cli/verbs/bow.ts')).toBe('cli')
    const of = graph({ 'core/a/x.ts': ['core/b/y.ts'], 'core/b/deep/z.ts': ['core/a/w.ts'] })
    expect(circlesOf(houseGraph(of))).toEqual([['core/a', 'core/b']])
  })
})
