import { CHORD_KINDS } from './words'
import { child, textAt, type XmlNode } from './xml'

/** A chord name as players write it. */
export function chordText(h: XmlNode): string {
  const kind = child(h, 'kind')
  const step = textAt(h, 'root', 'root-step')
  if (step === '') return (kind?.attributes.text ?? textAt(h, 'function')).slice(0, 40)
  const sign = (alter: string) => (alter === '' ? '' : Number(alter) > 0 ? '#' : Number(alter) < 0 ? 'b' : '')
  const suffix =
    kind?.attributes.text ?? CHORD_KINDS.find(([, name]) => name === kind?.text.trim())?.[0] ?? ''
  const bass = textAt(h, 'bass', 'bass-step')
  const under = bass === '' ? '' : `/${bass}${sign(textAt(h, 'bass', 'bass-alter'))}`
  return (step + sign(textAt(h, 'root', 'root-alter')) + suffix + under).slice(0, 40)
}
