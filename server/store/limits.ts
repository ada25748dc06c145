/** Limits of what is stored, however many requests it came in. */

/** Arrangements a tune holds. */
export const MOST_ARRANGEMENTS = 1000

/** Storing it would go over a limit; the sentence is for the teacher. */
export class OverLimit extends Error {
  constructor(
    message: string,
    /** The field at fault. */
    readonly where: string,
  ) {
    super(message)
  }
}
