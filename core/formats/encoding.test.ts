import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { decodeText } from './encoding'
import { readFile } from './readFile'

const utf16 = (text: string, big = false, mark = true) => {
  const units = [...(mark ? [0xfeff] : []), ...Array.from(text, c => c.charCodeAt(0))]
  return Uint8Array.from(units.flatMap(u => (big ? [u >> 8, u & 255] : [u & 255, u >> 8])))
}
const latin = (text: string) => Uint8Array.from(text, c => c.charCodeAt(0))
const abc = 'X:1\nT:Über die Brücke\nM:4/4\nL:1/4\nK:C\nCDEF|\n'
const xml = (encoding: string) =>
  `<?xml version="1.0"${encoding && ` encoding="${encoding}"`}?>\n<score-partwise><work><work-title>Café</work-title></work><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions></attributes><note><pitch><step>D</step><octave>4</octave></pitch><duration>4</duration></note></measure></part></score-partwise>`
const titleOf = (name: string, bytes: Uint8Array) => {
  const r = readFile(name, bytes)
  return [r.tunes[0]?.tune.title, r.findings.map(f => f.code)]
}

describe('text in a file', () => {
  it.each([
    ['UTF-8', strToU8(abc), []],
    ['UTF-8 with a mark', Uint8Array.from([0xef, 0xbb, 0xbf, ...strToU8(abc)]), []],
    ['UTF-16, little end first', utf16(abc), []],
    ['UTF-16, big end first', utf16(abc, true), []],
    ['UTF-16 without a mark', utf16(abc, false, false), ['file.encoding']],
    ['UTF-16 without a mark, big end first', utf16(abc, true, false), ['file.encoding']],
    ['Latin-1', latin(abc), ['file.encoding']],
  ])('%s is read as it was meant', (_name, bytes, codes) => {
    expect(titleOf('a.abc', bytes)).toEqual(['Über die Brücke', codes])
  })
  it('Windows signs are read too', () => {
    expect(decodeText(Uint8Array.from([0x93, 0x41, 0x94, 0x20, 0x80]))).toEqual({
      text: '“A” €',
      guessed: 'Windows-1252',
    })
  })
  it.each([
    ['ISO-8859-1', latin(xml('ISO-8859-1')), []],
    ['windows-1252', latin(xml('windows-1252')), []],
    ['UTF-16', utf16(xml('UTF-16')), []],
    ['nothing', latin(xml('')), ['file.encoding']],
    ['UTF-8, and is', strToU8(xml('UTF-8')), []],
    ['UTF-8, and is not', latin(xml('UTF-8')), ['file.encoding']],
    ['UTF-16, and is UTF-8', strToU8(xml('UTF-16')), []],
    ['ISO-8859-1 with spaces about it', latin(xml('ISO-8859-1').replace('encoding=', 'encoding = ')), []],
    ['an encoding nobody knows', strToU8(xml('quillen-7')), []],
  ])('XML that declares %s', (_name, bytes, codes) => {
    expect(titleOf('a.musicxml', bytes)).toEqual(['Café', codes])
  })
  it('is named as it was taken', () => {
    expect(decodeText(utf16(abc, false, false)).guessed).toBe('UTF-16LE')
    expect(decodeText(utf16(abc, true, false)).guessed).toBe('UTF-16BE')
    expect(decodeText(strToU8(abc))).toEqual({ text: abc })
  })
  it('only Windows text has signs where others have controls', () => {
    expect(decodeText(strToU8('a\u0085b')).text).toBe('a\u0085b')
    expect(decodeText(Uint8Array.of(0x61, 0x85, 0x62)).text).toBe('a…b')
  })
  it('with the mark of UTF-8 is that, whatever a byte in it may be', () => {
    expect(decodeText(Uint8Array.of(0xef, 0xbb, 0xbf, 0x41, 0x93))).toEqual({ text: 'A\ufffd' })
    // Half a mark is none.
    for (const half of [
      [0xef, 0xbb, 0x41],
      [0xef, 0x41, 0xbf],
      [0x41, 0xbb, 0xbf],
      [0xff, 0x41],
      [0xfe, 0x41],
    ])
      expect(decodeText(Uint8Array.from([...half, 0x93])).guessed).toBe('Windows-1252')
  })
  it('of two bytes a sign is told by zeros in every other place: not by few, not in short texts, not where both are zero', () => {
    const plain = (text: string) => decodeText(latin(text)).guessed
    expect(plain('a\0b\0c\0d\0')).toBe('UTF-16LE')
    expect(plain('a\0b\0c\0')).toBeUndefined()
    expect(plain('a\0b\0c\0d\0efgh')).toBeUndefined()
    expect(plain('\0'.repeat(12))).toBeUndefined()
    expect(plain('\0\0\0b\0\0\0d\0\0\0f')).toBeUndefined()
  })
  it('declares its encoding at its very beginning or not at all', () => {
    expect(decodeText(latin(' <?xml version="1.0" encoding="windows-1251"?>é')).guessed).toBe('Windows-1252')
  })
  it('inside a packed score too', () => {
    expect(titleOf('a.mxl', zipSync({ 'score.musicxml': utf16(xml('UTF-16')) }))).toEqual(['Café', []])
    expect(titleOf('a.mxl', zipSync({ 'score.musicxml': latin(xml('ISO-8859-1')) }))).toEqual(['Café', []])
  })
  it('is never refused for a byte that is no sign: every byte means something', () => {
    for (let b = 0; b < 256; b++) expect(decodeText(Uint8Array.of(65, b, 66)).text).toHaveLength(3)
  })
})
