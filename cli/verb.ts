/**
 * A verb of the shell as data: what it does, what it takes, and its work. Help and parsing are made of it.
 */
import { parseArgs } from 'node:util'
import { BadInput } from './badInput'
import type { OpenTune } from './files'

export interface Option {
  readonly type: 'string' | 'boolean'
  readonly multiple?: boolean
  /** One letter that stands for it. */
  readonly short?: string
  /** How its value is shown in the help: "1..8". */
  readonly value?: string
  readonly what: string
}
export type Options = Readonly<Record<string, Option>>
export type Values = Readonly<Record<string, string | boolean | readonly string[] | undefined>>

export interface Verb {
  readonly name: string
  readonly what: string
  /** What it takes beside options: any number of files, one document each; a pair; or none. */
  readonly takes: 'FILE…' | 'IN OUT' | ''
  readonly options: Options
  readonly run: (values: Values, paths: readonly string[], open: OpenTune) => unknown
}

/** The last of what was given for an option that takes text. */
export const text = (v: Values[string]): string | undefined =>
  typeof v === 'string' ? v : Array.isArray(v) ? (v as readonly string[]).at(-1) : undefined

const HELP = ['--help', '-h']
export const asksHelp = (args: readonly string[]) => args.some(a => HELP.includes(a))

/** Splits a call into options and paths. Throws {@link BadInput}. */
export function parseCall(verb: Verb, args: readonly string[]): { values: Values; paths: readonly string[] } {
  // The parser takes “-1” for an option of its own; ours is a number.
  const joined = args.flatMap((a, i) =>
    a === '--octave' && /^-\d/.test(args[i + 1] ?? '')
      ? [`${a}=${args[i + 1]}`]
      : args[i - 1] === '--octave' && /^-\d/.test(a)
        ? []
        : [a],
  )
  const options = Object.fromEntries(
    Object.entries(verb.options).map(([name, o]) => [
      name,
      { type: o.type, ...(o.multiple && { multiple: true }), ...(o.short && { short: o.short }) },
    ]),
  )
  try {
    const { values, positionals } = parseArgs({ args: joined, options, allowPositionals: true, strict: true })
    return { values: values as Values, paths: positionals }
  } catch (e) {
    throw new BadInput(`${verb.name}: ${e instanceof Error ? e.message : String(e)}`)
  }
}

export const usage = (v: Verb) =>
  ['nokta', v.name, v.takes, Object.keys(v.options).length > 0 ? '[options]' : ''].filter(Boolean).join(' ')

export function verbHelp(v: Verb): string {
  const rows = Object.entries(v.options).map(
    ([name, o]) =>
      [`${o.short ? `-${o.short}, ` : ''}--${name}${o.value ? ` ${o.value}` : ''}`, o.what] as const,
  )
  const wide = Math.max(0, ...rows.map(([flag]) => flag.length))
  return [
    usage(v),
    '',
    v.what,
    ...(v.takes === 'FILE…' ? ['Several files give one JSON document each, a line each.'] : []),
    ...(rows.length > 0 ? ['', ...rows.map(([flag, what]) => `  ${flag.padEnd(wide)}  ${what}`)] : []),
    '',
  ].join('\n')
}

export function allHelp(verbs: readonly Verb[], readable: readonly string[]): string {
  const wide = Math.max(...verbs.map(v => usage(v).length))
  return [
    'nokta VERB FILE… [options]',
    '',
    `Reads ${readable.join(', ')}; prints JSON. An error is one line on stderr: exit code 2 for bad input, 1 for a mistake of ours.`,
    '',
    ...verbs.map(v => `  ${usage(v).padEnd(wide)}  ${v.what}`),
    '',
    'nokta VERB --help tells the options of a verb; nokta --version the version.',
    '',
  ].join('\n')
}
