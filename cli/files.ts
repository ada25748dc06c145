/** The files of a call: paths, folders and the standard input. What is wrong with one is said with its reason. */
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { basename, join } from 'node:path'
import { READABLE } from '#core/formats/fileKinds'
import { placeText, sentence } from '#core/words/findings'
import type { FileTune, ReadFile } from '#core/formats/readFile'
import { BadInput } from './badInput'

export type TuneFile = Pick<FileTune, 'tune' | 'findings' | 'arrangements'>

/** Gives the first tune of a file. Throws {@link BadInput}. */
export type OpenTune = (path: string | undefined) => TuneFile

export interface FileBytes {
  readonly name: string
  readonly bytes: Uint8Array
}

/** Stands for the standard input among files to read, for the standard output where one is written. */
export const STANDARD = '-'

const REASONS: Readonly<Record<string, string>> = {
  ENOENT: 'there is no such file',
  EACCES: 'this file may not be read by you',
  EPERM: 'this file may not be read by you',
  EISDIR: 'this is a folder',
  ENOTDIR: 'part of this path is a file, not a folder',
  ENAMETOOLONG: 'this name is too long',
  ENOSPC: 'the disk is full',
  EROFS: 'nothing can be written there',
}
/** Why the system refused, as a sentence's end. */
export const reasonOf = (e: unknown): string => {
  const code = (e as { code?: string }).code ?? ''
  return REASONS[code] ?? (code === '' ? String(e) : `the system refused it (${code})`)
}

/** The bytes of a path, or of the standard input. Throws {@link BadInput}. */
export function bytesOf(path: string): FileBytes {
  try {
    return path === STANDARD
      ? { name: 'standard input', bytes: readFileSync(0) }
      : { name: basename(path), bytes: readFileSync(path) }
  } catch (e) {
    throw new BadInput(`${path}: the file can't be read: ${reasonOf(e)}`)
  }
}

/** The first tune of what was read. Throws {@link BadInput} where there is none. */
export function firstTune(path: string, { tunes, findings }: ReadFile): TuneFile {
  if (tunes[0]) return tunes[0]
  const first = findings[0]!
  throw new BadInput(`${[path, placeText(first)].filter(Boolean).join(', ')}: ${sentence(first)}`)
}

const WHICH = `which file? Give the path of a ${READABLE.join(', ')} file`

/** Throws {@link BadInput} where no path was given. */
export function pathGiven(path: string | undefined): string {
  if (!path) throw new BadInput(WHICH)
  return path
}

const readable = (name: string) => READABLE.some(ending => name.toLowerCase().endsWith(ending))

/** For each folder the readable files in it and in its folders, in the order of their names. */
export function withFolders(paths: readonly string[]): string[] {
  return paths.flatMap(path => {
    if (path === STANDARD || !isFolder(path)) return [path]
    const found = filesIn(path)
    if (found.length === 0) throw new BadInput(`${path}: no ${READABLE.join(', ')} file is in this folder`)
    return found
  })
}

const isFolder = (path: string) => statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false

function filesIn(folder: string): string[] {
  let entries
  try {
    entries = readdirSync(folder, { withFileTypes: true })
  } catch (e) {
    throw new BadInput(`${folder}: the folder can't be read: ${reasonOf(e)}`)
  }
  return entries
    .filter(e => !e.name.startsWith('.'))
    .toSorted((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap(e => {
      const path = join(folder, e.name)
      return e.isDirectory() ? filesIn(path) : e.isFile() && readable(e.name) ? [path] : []
    })
}
