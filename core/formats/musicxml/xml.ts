/**
 * XML as plain trees, by a standard parser. Everything that could hurt is refused before parsing: texts too
 * long, declared entities (which could expand without end), nesting no score has, and anything that is not
 * well formed, with the place.
 */
import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { finding, type Finding, type FindingCode, type ValuesOf, type Where } from '#core/findings/finding'

export interface XmlNode {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly XmlNode[]
  readonly text: string
}

/** Longest text taken, in characters. */
export const MAX_XML_LENGTH = 24_000_000
const DEEPEST = 60

type Raw = Record<string, unknown>

export function parseXml(text: string): { root: XmlNode } | { finding: Finding } {
  const refuse = <C extends FindingCode>(code: C, where: Where, ...values: ValuesOf<C>) => ({
    finding: finding(code, 'error', where, ...values),
  })
  if (text.length > MAX_XML_LENGTH) return refuse('file.tooLong', {}, { limit: MAX_XML_LENGTH })
  if (/<!ENTITY/i.test(text)) return refuse('xml.entities', {})
  if (depthOf(text) > DEEPEST) return refuse('xml.deep', {}, { limit: DEEPEST })
  const valid = XMLValidator.validate(text)
  if (valid !== true) {
    const { line, col, msg } = valid.err
    return refuse('xml.broken', { line, column: col }, { message: msg.replace(/\.$/, '').slice(0, 160) })
  }
  try {
    const parser = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      parseTagValue: false,
      parseAttributeValue: false,
      trimValues: true,
      processEntities: true,
      // With these, letters by their number too.
      htmlEntities: true,
    })
    const nodes = (parser.parse(text) as Raw[]).map(toNode)
    const root = nodes.find(n => n && !n.name.startsWith('?') && n.name !== '#text')
    return root
      ? { root }
      : refuse('xml.broken', { line: 1, column: 1 }, { message: 'there is no element in it' })
  } catch (e) {
    return refuse(
      'xml.broken',
      { line: 1 },
      { message: e instanceof Error ? e.message.slice(0, 160) : 'unreadable' },
    )
  }
}

/** Greatest depth of open tags, by a plain scan. */
function depthOf(text: string): number {
  let [depth, most] = [0, 0]
  for (const m of text.matchAll(/<(\/)?[A-Za-z][^<>]*?(\/)?>/g)) {
    if (m[1]) depth--
    else if (!m[2]) most = Math.max(most, ++depth)
    if (most > DEEPEST) break
  }
  return most
}

function toNode(raw: Raw): XmlNode {
  const name = Object.keys(raw).find(k => k !== ':@') ?? '#text'
  const value = raw[name]
  if (!Array.isArray(value)) return { name, attributes: {}, children: [], text: String(value ?? '') }
  const all = (value as Raw[]).map(toNode)
  return {
    name,
    attributes: (raw[':@'] as Record<string, string> | undefined) ?? {},
    children: all.filter(n => n.name !== '#text'),
    text: all
      .filter(n => n.name === '#text')
      .map(n => n.text)
      .join(''),
  }
}

export const child = (n: XmlNode | undefined, name: string) => n?.children.find(c => c.name === name)
export const children = (n: XmlNode | undefined, name: string) =>
  n?.children.filter(c => c.name === name) ?? []
/** Text of a descendant by a path of names, trimmed; '' when it is not there. */
export const textAt = (n: XmlNode | undefined, ...path: string[]) =>
  path.reduce<XmlNode | undefined>((x, name) => child(x, name), n)?.text.trim() ?? ''

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' }
const escape = (text: string) =>
  // Characters XML cannot hold at all are left out.
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '').replace(/[&<>"]/g, c => ESCAPES[c]!)

export type Content = string | number | readonly (Element | null | false | undefined | '')[]
export interface Element {
  readonly xml: string
}

/** An element as text; empty entries among the children are left out. */
export function el(
  name: string,
  content: Content = [],
  attributes: Record<string, string | number | undefined> = {},
): Element {
  const given = Object.entries(attributes).filter(([, v]) => v !== undefined)
  const open = [name, ...given.map(([k, v]) => `${k}="${escape(String(v))}"`)].join(' ')
  const inner =
    typeof content === 'object' ? content.flatMap(c => (c ? [c.xml] : [])).join('') : escape(String(content))
  return { xml: inner === '' ? `<${open}/>` : `<${open}>${inner}</${name}>` }
}
