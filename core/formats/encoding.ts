/**
 * Bytes of a file as text, by its mark, by what it declares, or by what it can be: WHATWG's encodings, as
 * every browser reads them.
 */

export interface Decoded {
  readonly text: string
  /** The encoding taken where nothing said one. */
  readonly guessed?: string
}

/**
 * By mark, else by the encoding an XML file declares, else UTF-8, else Windows-1252 (of which Latin-1 is a
 * part), in which every byte means something.
 */
export function decodeText(bytes: Uint8Array): Decoded {
  const [a, b, c] = bytes
  if (a === 0xff && b === 0xfe) return { text: decode('utf-16le', bytes)! }
  if (a === 0xfe && b === 0xff) return { text: decode('utf-16be', bytes)! }
  if (a === 0xef && b === 0xbb && c === 0xbf) return { text: decode('utf-8', bytes)! }
  const wide = widthOf(bytes)
  if (wide) return { text: decode(wide, bytes)!, guessed: wide.toUpperCase() }
  const declared = declaredIn(bytes)
  const meant = declared && !/^utf-?16/i.test(declared) ? decode(declared, bytes, true) : null
  if (meant !== null) return { text: meant }
  const plain = decode('utf-8', bytes, true)
  return plain === null ? { text: decode('windows-1252', bytes)!, guessed: 'Windows-1252' } : { text: plain }
}

/** The signs from 0x80 to 0x9f, which not every runtime's decoder knows. */
const WINDOWS = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'

/** Null where the encoding is not known, or, when strict, where a byte has no meaning in it. */
function decode(label: string, bytes: Uint8Array, fatal = false): string | null {
  try {
    const decoder = new TextDecoder(label, { fatal })
    const text = decoder.decode(bytes)
    return decoder.encoding === 'windows-1252'
      ? text.replace(/[\u0080-\u009f]/g, c => WINDOWS[c.charCodeAt(0) - 0x80]!)
      : text
  } catch {
    return null
  }
}

/** Text of two bytes a sign without a mark: one of every two is nothing, nearly throughout. */
function widthOf(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  const start = bytes.subarray(0, 400)
  if (start.length < 8) return null
  const nothing = [0, 0]
  start.forEach((byte, i) => (nothing[i % 2]! += byte === 0 ? 1 : 0))
  const half = Math.floor(start.length / 2)
  if (nothing[1]! > half * 0.8 && nothing[0]! < half * 0.1) return 'utf-16le'
  return nothing[0]! > half * 0.8 && nothing[1]! < half * 0.1 ? 'utf-16be' : null
}

const declaredIn = (bytes: Uint8Array) =>
  /^<\?xml[^>]*?encoding\s*=\s*["']([\w.:-]{1,40})["']/.exec(
    decode('windows-1252', bytes.subarray(0, 300))!,
  )?.[1]
