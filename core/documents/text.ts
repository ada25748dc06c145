/** Text as documents hold it: cleaned in one place, at every edge that reads by a schema. */
import { z } from 'zod'

/**
 * Half of a surrogate pair, and control signs but for tab and new line: no storage takes them, no eye misses
 * them.
 */

const UNFIT =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

export const cleanText = (text: string) => (UNFIT.test(text) ? text.replace(UNFIT, '') : text)

/** A string of at most so many UTF-16 units, cleaned. */
export const text = (max: number) => z.string().overwrite(cleanText).max(max)
