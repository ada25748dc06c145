/**
 * Documents that outlive the program that wrote them. Each kind has one strict schema, of which its type is
 * inferred, a number, and a ladder: for every number before it the step to the next. What is read climbs the
 * ladder and is then checked, so that every edge (file, interface, storage) reads old documents alike and an
 * unknown field is an error with its place, never dropped.
 */
import { z } from 'zod'

type Json = Readonly<Record<string, unknown>>
/** From a document of one version to the next; it may trust nothing of it. */
export type Step = (doc: Json) => Json
/** `ladder[0]` leads from version 1 to 2. */
export type Ladder = readonly Step[]

export const isObject = (x: unknown): x is Json => typeof x === 'object' && x !== null && !Array.isArray(x)

/**
 * The schema with its ladder before it. A document without a version, or of one that is not known, meets the
 * schema as it is; of a later version, it is refused with that reason.
 */
export function versioned<S extends z.ZodType>(schema: S, ladder: Ladder) {
  const current = ladder.length + 1
  return z.preprocess((doc, ctx) => {
    if (!isObject(doc) || !Number.isInteger(doc.version)) return doc
    const from = doc.version as number
    if (from > current) {
      const message = `it was written by a newer Nokta (version ${from}; this one reads up to ${current})`
      ctx.addIssue({ code: 'custom', path: ['version'], message })
      return z.NEVER
    }
    return from < 1 ? doc : ladder.slice(from - 1).reduce((d, step) => step(d), doc)
  }, schema)
}

/** Where a document is at fault, and how, in the schema's words. */
export interface DocumentError {
  readonly path: string
  readonly message: string
}

export const documentError = (error: z.ZodError): DocumentError => {
  const first = error.issues[0]!
  return { path: first.path.join('.'), message: first.message }
}

/** Reads a document by its schema; the first fault comes back as data. */
export function readDocument<T>(
  schema: z.ZodType<T>,
  json: unknown,
): { readonly doc: T } | { readonly error: DocumentError } {
  const result = schema.safeParse(json)
  return result.success ? { doc: result.data } : { error: documentError(result.error) }
}
