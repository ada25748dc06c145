/** For tests: scores of one part, in XML as other programs write it. */
import type { NoteEvent } from '#core/music/tune'
import { readMusicXml, type ReadXml, type XmlResult } from './readMusicXml'

export const ok = (r: XmlResult): ReadXml => {
  if ('finding' in r) throw new Error(r.finding.code)
  return r
}
export const part = (measures: string, name = 'Tune', head = '') =>
  `<score-partwise>${head}<part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`
export const note = (inner = '', pitch = 'A4') =>
  `<note><pitch><step>${pitch[0]}</step><octave>${pitch.slice(1)}</octave></pitch><duration>1</duration>${inner}</note>`
export const measure = (...inner: string[]) => `<measure>${inner.join('')}</measure>`
/** Read from one measure that holds this, and then an A. */
export const before = (...inner: string[]) => ok(readMusicXml(part(measure(...inner, note()))))
export const first = (r: ReadXml) => r.tune.measures[0]!.events.find(e => e.kind === 'note') as NoteEvent
export const codes = (r: ReadXml) => r.findings.map(f => f.code)
export const notKept = (r: ReadXml) =>
  r.findings.flatMap(f => (f.code === 'file.notKept' ? [(f.values as { what: string }).what] : []))
export const attributes = (inner: string) => `<attributes>${inner}</attributes>`
export const direction = (inner: string, beside = '') =>
  `<direction><direction-type>${inner}</direction-type>${beside}</direction>`
export const words = (text: string, beside = '') => direction(`<words>${text}</words>`, beside)
