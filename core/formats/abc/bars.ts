/** What bar lines and metres of ABC say in numbers. */

/** "2+3" beats are added up. */
export const addends = (text: string) =>
  text
    .replace(/[()\s]/g, '')
    .split('+')
    .map(Number)

/** "1", "1,3", "1-3", "2." ; null when it names no number. */
export function readEndings(text: string): number[] | null {
  const out: number[] = []
  for (const part of text.replace(/\.$/, '').split(/[,.]/)) {
    const m = /^\s*(\d{1,2})(?:-(\d{1,2}))?\s*$/.exec(part)
    if (!m) return null
    const [a, b] = [Number(m[1]), Number(m[2] ?? m[1])]
    for (let n = a; n <= Math.min(b, 20); n++) if (n >= 1) out.push(n)
  }
  return out.length > 0 ? [...new Set(out)] : null
}
