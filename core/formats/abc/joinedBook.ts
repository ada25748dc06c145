/** Several tunes as one ABC book. */

/**
 * The texts one after another, numbered from 1 and apart by an empty line. What ends a tune in a book, an empty
 * line within its text, is dropped.
 * @param texts a tune each, in ABC
 */
export const joinedBook = (texts: readonly string[]): string =>
  texts.map((text, i) => numbered(text, i + 1)).join('\n')

function numbered(text: string, number: number): string {
  const lines = text
    .replace(/^\ufeff/, '')
    .split(/\r\n?|\n/)
    .filter(line => line.trim() !== '')
  const at = lines.findIndex(line => /^X:/.test(line))
  const others = lines.filter(line => !/^X:/.test(line))
  others.splice(Math.max(0, at), 0, `X:${number}`)
  return `${others.join('\n')}\n`
}
