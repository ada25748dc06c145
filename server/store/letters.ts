/**
 * Texts as the shelf searches them and puts them in order: columns, so that the database does both alike
 * wherever it runs.
 */

/** Letters that are not made of another and a sign. */
const FOLDED: Readonly<Record<string, string>> = {
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  æ: 'ae',
  œ: 'oe',
  ß: 'ss',
  ı: 'i',
}

/** Letters without their accents, lower case: "Élan" is found by "elan", "Brødre" by "brodre". */
export const plainLetters = (text: string) =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase()
    .replace(/[øłđðþæœßı]/g, letter => FOLDED[letter]!)

/** Digits a number is filled up to, so that 9 stands before 10. */
const DIGITS = 12

/**
 * What compares, byte by byte, as people put titles in order: numbers by size, accents and capitals aside.
 */
export const orderOf = (text: string) =>
  plainLetters(text)
    .trim()
    .replace(/\s+/g, ' ')
    .replace(/\d+/g, digits => digits.replace(/^0+(?=\d)/, '').padStart(DIGITS, '0'))
