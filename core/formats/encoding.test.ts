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
const xml = (encoding: string) => `<?xml version="1.0"${encoding && ` encoding="${encoding}"`}?>\n<score-partwise><work><work-title>Café</work-title></work><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions></attributes><note><pitch><step>D</step><octave>4</octave></pitch><duration>4</duration></note></measure></part></score-partwise>` // prettier-ignore
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
    ['Latin-1', latin(abc), ['file.encoding']],
  ])('%s is read as it was meant', (_name, bytes, codes) => {
    expect(titleOf('a.abc', bytes)).toEqual(['Über die Brücke', codes])
  })
  it('Windows signs are read too', () => {
    expect(decodeText(Uint8Array.from([0x93, 0x41, 0x94, 0x20, 0x80]))).toEqual({ text: '“A” €', guessed: 'Windows-1252' }) // prettier-ignore
  })
  it.each([
    ['ISO-8859-1', latin(xml('ISO-8859-1')), []],
    ['windows-1252', latin(xml('windows-1252')), []],
    ['UTF-16', utf16(xml('UTF-16')), []],
    ['nothing', latin(xml('')), ['file.encoding']],
    ['UTF-8, and is', strToU8(xml('UTF-8')), []],
    ['an encoding nobody knows', strToU8(xml('klingon-7')), []],
  ])('XML that declares %s', (_name, bytes, codes) => {
    expect(titleOf('a.musicxml', bytes)).toEqual(['Café', codes])
  })
  it('inside a packed score too', () => {
    expect(titleOf('a.mxl', zipSync({ 'score.musicxml': utf16(xml('UTF-16')) }))).toEqual(['Café', []])
    expect(titleOf('a.mxl', zipSync({ 'score.musicxml': latin(xml('ISO-8859-1')) }))).toEqual(['Café', []])
  })
  it('is never refused for a byte that is no sign: every byte means something', () => {
    for (let b = 0; b < 256; b++) expect(decodeText(Uint8Array.of(65, b, 66)).text).toHaveLength(3)
  })
})
