/** What a verb writes: to a file, or to the standard output in place of its JSON. */
import { writeFileSync } from 'node:fs'
import { BadInput } from './badInput'
import { reasonOf, STANDARD } from './files'

/** Printed as it is. */
export class Raw {
  /** @param remarks what is said about it, on stderr */
  constructor(
    readonly content: string | Uint8Array,
    readonly remarks: readonly string[] = [],
  ) {}
}

/** Throws {@link BadInput} with the reason. */
export function writeTo(path: string, content: string | Uint8Array): void {
  try {
    writeFileSync(path, content)
  } catch (e) {
    throw new BadInput(`${path}: the file can't be written: ${reasonOf(e)}`)
  }
}

/** Of what a verb may be asked to write, the option that says it for the standard output. */
export const AS_OPTION = {
  type: 'string',
  value: 'ENDING',
  what: `with ${STANDARD} for OUT: the kind of file the standard output gets in place of JSON`,
} as const

/**
 * The format of a file to write: its ending, or for the standard output what --as says. Throws
 * {@link BadInput} where neither is one of the formats.
 */
export function formatToWrite<F extends string>(
  option: string,
  path: string,
  as: string | undefined,
  formats: readonly F[],
  formatOf: (path: string) => F | null = path =>
    formats.find(f => path.toLowerCase().endsWith(`.${f}`)) ?? null,
): F {
  const list = formats.map(f => `.${f}`).join(', ')
  if (path === STANDARD) {
    const found = formats.find(f => f === as?.replace(/^\./, '').toLowerCase())
    if (found) return found
    throw new BadInput(
      `${option} ${STANDARD}: say the kind of file too, as --as ${formats[0]}; there are ${list}`,
    )
  }
  const found = formatOf(path)
  if (found) return found
  throw new BadInput(`${option} ${path}: a file that ends with ${list}`)
}
