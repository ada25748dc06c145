import type { PartMarks } from '#core/page/marks'
import type { Tune } from '#core/music/tune'
import type { TabModel } from '#core/tablature/tabModel'

/** A part as a score shows it. */
export interface ScorePart {
  readonly tune: Tune
  readonly tab: TabModel
  /** Its name, at the left of every line. */
  readonly label?: string
  /** What it shows otherwise than the score. */
  readonly marks?: PartMarks
  /** Drawn in grey: it is there to be compared with. */
  readonly quiet?: boolean
}
