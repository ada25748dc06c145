/** The files Nokta reads and writes, without the readers and writers themselves. */
export type FileKind = 'abc' | 'musicxml' | 'mxl' | 'midi' | 'spoken' | 'backup'

export const READABLE = ['.abc', '.musicxml', '.xml', '.mxl', '.mid', '.midi', '.txt', '.nokta.json'] as const

export const WRITABLE = ['abc', 'musicxml', 'mxl', 'mid', 'txt', 'nokta.json'] as const
export type WritableFormat = (typeof WRITABLE)[number]

/** How a format is named where its losses are told. */
export const FORMAT_NAMES: Readonly<Record<WritableFormat, string>> = {
  abc: 'ABC',
  musicxml: 'MusicXML',
  mxl: 'MusicXML',
  mid: 'MIDI',
  txt: 'String-and-finger text',
  'nokta.json': 'Nokta',
}
