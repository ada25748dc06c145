/** Limits of what is stored: of a tune, however many requests it came in, and of the disk. */

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

/** As the system and as the database say it (SQLSTATE 53100). */
const NO_ROOM: readonly unknown[] = ['ENOSPC', 'EDQUOT', '53100']

/** Whether there was no room on the disk, however deep the cause lies. */
export const isDiskFull = (error: unknown): boolean =>
  error instanceof Error && (NO_ROOM.includes((error as { code?: unknown }).code) || isDiskFull(error.cause))
