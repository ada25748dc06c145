/** Text as ABC spells it (section 8.2 of the standard): accents by a backslash and two signs, HTML entities, code points. */
import { decodeHTMLStrict } from 'entities'
import { cleanText } from '#core/documents/text'

/** Combining signs by the sign that is typed for them. */
const ACCENTS: Readonly<Record<string, string>> = {
  '`': '\u0300', "'": '\u0301', '^': '\u0302', '~': '\u0303', '"': '\u0308', u: '\u0306', v: '\u030c', c: '\u0327', o: '\u030a', '=': '\u0304', H: '\u030b', ';': '\u0328', '.': '\u0307',
} // prettier-ignore
const LETTERS: Readonly<Record<string, string>> = {
  aa: 'å', AA: 'Å', ae: 'æ', AE: 'Æ', oe: 'œ', OE: 'Œ', ss: 'ß', '/o': 'ø', '/O': 'Ø', '/l': 'ł', '/L': 'Ł', '/d': 'đ', '/D': 'Đ', DH: 'Ð', dh: 'ð', TH: 'Þ', th: 'þ',
} // prettier-ignore

const SPELLED = /\\u([0-9a-fA-F]{4})|\\(aa|AA|ae|AE|oe|OE|ss|DH|dh|TH|th|\/[oOlLdD])|\\([`'^~"uvco=H;.])([A-Za-z])|&[A-Za-z][A-Za-z0-9]{1,10};|&#[0-9]{1,7};|&#x[0-9a-fA-F]{1,6};|\\([%&\\])/g // prettier-ignore

/** What a spelling stands for; one that stands for no sign of a text stays as it is. */
function letterOf(all: string, ...groups: readonly (string | undefined)[]): string {
  const letter = meantBy(all, ...groups)
  return letter === '\ufffd' || cleanText(letter) !== letter ? all : letter
}

function meantBy(all: string, code?: string, letter?: string, sign?: string, base?: string, plain?: string): string {
  if (code !== undefined) return String.fromCharCode(parseInt(code, 16))
  if (letter !== undefined) return LETTERS[letter]!
  if (sign !== undefined) {
    const composed = (base! + ACCENTS[sign]!).normalize('NFC')
    // Two signs that make no letter are no accent.
    return composed.length === 1 ? composed : all
  }
  return plain ?? decodeHTMLStrict(all)
} // prettier-ignore

export const decodeAbc = (text: string) =>
  text.replace(SPELLED, (all, ...groups) => letterOf(all, ...(groups.slice(0, 5) as string[])))

/** The parser takes a semicolon in a text for a line end: it goes in as another sign. */
const SEMICOLON = '\ue03b'

/** Fills up what an accent leaves, so that every place in the text stays where it was; taken out again by {@link withoutFill}. */
const FILL = '\u200b'
export const decodeInPlace = (text: string) =>
  text
    .replace(SPELLED, (all, ...groups: (string | undefined)[]) => {
      const letter = letterOf(all, ...groups.slice(0, 5))
      return letter.length <= all.length ? letter + FILL.repeat(all.length - letter.length) : all
    })
    .replaceAll(';', SEMICOLON)
export const withoutFill = (text: string) => text.replaceAll(FILL, '').replaceAll(SEMICOLON, ';')
