/**
 * Problems and findings are data: a code, a place, values. The sentence is made in one place per language
 * (findings/english.ts). A mend is a small edit of the recipe that answers the finding.
 */
import type { Key } from '#core/music/key'

export type Severity = 'error' | 'warning' | 'note'

export interface Where {
  readonly line?: number
  readonly column?: number
  /** Measure number as printed. */
  readonly measure?: number
  /** Id of the note. */
  readonly note?: string
}

export interface Finding {
  readonly code: string
  readonly severity: Severity
  readonly where: Where
  readonly values: Readonly<Record<string, string | number>>
  readonly mends?: readonly Mend[]
}

/** A recipe edit; `label` is for the button. */
export type Mend =
  | {
      readonly kind: 'stroke'
      readonly note: string
      readonly direction: 'down' | 'up'
      readonly label: string
    }
  | { readonly kind: 'join'; readonly note: string; readonly slurred: boolean; readonly label: string }
  | {
      readonly kind: 'unpin'
      readonly note: string
      readonly what: 'finger' | 'stroke'
      readonly label: string
    }
  | {
      readonly kind: 'dropRule'
      /** Index of the passage rule in the recipe. */ readonly index: number
      readonly label: string
    }
  | { readonly kind: 'key'; readonly key: Key; readonly label: string }
  /** Changes the tune itself: this note so many octaves up. */
  | { readonly kind: 'moveNote'; readonly note: string; readonly octaves: number; readonly label: string }
  | { readonly kind: 'octave'; readonly octave: number; readonly label: string }

export const finding = (
  code: string,
  severity: Severity,
  where: Where,
  values: Finding['values'] = {},
  mends?: readonly Mend[],
): Finding => ({ code, severity, where, values, ...(mends?.length ? { mends } : {}) })
