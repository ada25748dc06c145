import { describe, expect, it } from 'vitest'
import type { FileKind } from '#core/formats/fileKinds'
import { fuzz } from './fuzz'

const KINDS: readonly FileKind[] = ['abc', 'musicxml', 'mxl', 'midi', 'spoken', 'backup']

describe('damaged files', () => {
  it.each(KINDS)('%s: none throws, hangs or comes in half', kind => {
    const report = fuzz(kind, 120, 7)
    expect(report.faults).toEqual([])
    expect([report.read > 0, report.refused > 0]).toEqual([true, true])
  })
})
