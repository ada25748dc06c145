/**
 * Text as ABC spells it (section 8.2 of the standard): accents by a backslash and two signs, HTML entities,
 * code points.
 */
import { decodeHTMLStrict } from 'entities'
import { cleanText } from '#core/documents/text'

/** Combining signs by the sign that is typed for them. */
const ACCENTS: Readonly<Record<string, string>> = {
  '`': '\u0300',
  "'": '\u0301',
  '^': '\u0302',
  '~': '\u0303',
  '"': '\u0308',
  u: '\u0306',
  v: '\u030c',
  c: '\u0327',
  o: '\u030a',
  '=': '\u0304',
  H: '\u030b',
  ';': '\u0328',
  '.': '\u0307',
}
const LETTERS: Readonly<Record<string, string>> = {
  aa: 'å',
  AA: 'Å',
  ae: 'æ',
  AE: 'Æ',
  oe: 'œ',
  OE: 'Œ',
  ss: 'ß',
  '/o': 'ø',
  '/O': 'Ø',
  '/l': 'ł',
  '/L': 'Ł',
  '/d': 'đ',
  '/D': 'Đ',
  DH: 'Ð',
  dh: 'ð',
  TH: 'Þ',
  th: 'þ',
}

const SPELLED =
  /\\u([0-9a-fA-F]{4})|\\(aa|AA|ae|AE|oe|OE|ss|DH|dh|TH|th|\/[oOlLdD])|\\([`'^~"uvco=H;.])([A-Za-z])|&[A-Za-z][A-Za-z0-9]{1,10};|&#[0-9]{1,7};|&#x[0-9a-fA-F]{1,6};|\\([%&\\])/g

/** What a spelling stands for; one that stands for no sign of a text stays as it is. */
function letterOf(all: string, ...groups: readonly (string | undefined)[]): string {
  const letter = meantBy(all, ...groups)
  return letter === '\ufffd' || cleanText(letter) !== letter ? all : letter
}

function meantBy(
  all: string,
  code?: string,
  letter?: string,
  sign?: string,
  base?: string,
  plain?: string,
): string {
  if (code !== undefined) return String.fromCharCode(parseInt(code, 16))
  if (letter !== undefined) return LETTERS[letter]!
  if (sign !== undefined) {
    const composed = (base! + ACCENTS[sign]!).normalize('NFC')
    // Two signs that make no letter are no accent.
    return composed.length === 1 ? composed : all
  }
  return plain ?? decodeHTMLStrict(all)
}

export const decodeAbc = (text: string) =>
  text.replace(SPELLED, (all, ...groups) => letterOf(all, ...(groups.slice(0, 5) as string[])))

/**
 * Signs of the syntax that stand in a text as themselves go to the parser as others, each at its place from
 * here on.
 */
const HIDDEN = 0xe000
const hide = (sign: string) => String.fromCharCode(HIDDEN + sign.charCodeAt(0))
const SIGN = /^[!-/:-@[-`{-~]$/

/** Fills up what a spelling leaves, so that every place in the text stays where it was. */
const FILL = '\u200b'

/**
 * A text as the parser is to see it: spelled letters put in, and nothing that was spelled is syntax (nor is a
 * semicolon, which it takes for a line end).
 */
export const decodeInPlace = (text: string) =>
  text
    .replace(SPELLED, (all, ...groups: (string | undefined)[]) => {
      const letter = letterOf(all, ...groups.slice(0, 5))
      if (letter.length > all.length || letter === all) return all
      return (SIGN.test(letter) ? hide(letter) : letter) + FILL.repeat(all.length - letter.length)
    })
    .replaceAll(';', hide(';'))

/** A text that came back from the parser. */
export const asTyped = (text: string) =>
  text
    .replaceAll(FILL, '')
    .replace(/[\ue021-\ue07e]/g, sign => String.fromCharCode(sign.charCodeAt(0) - HIDDEN))

/** In one line, with what reads as a remark, an accent or an entity spelled so that it does not. */
export const spellAbc = (text: string) =>
  text
    .replace(/\n/g, ' ')
    .trim()
    .replace(/[\\%]|&(?=#?\w+;)/g, '\\$&')

/** {@link spellAbc}, with signs that mean something where the text stands spelled by their number. */
export const spellWithout = (text: string, signs: RegExp) =>
  spellAbc(text).replace(signs, sign => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`)
