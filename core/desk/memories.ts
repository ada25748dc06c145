import { derive, deriveMusic, DeriveMemory, type Derived } from '#core/arrangement/derive'
import { Memory } from '#core/arrangement/memory'
import { derivedView } from './derivedView'
import { pack, type Packed } from './packed'
import type { PartDocuments } from './part'
import type { DerivedView } from './views'

/** A view that was told before is known by its stamp. */
export interface StampedView {
  readonly stamp: number
  /** Without the facts of the tune: the same music under another title has the same view. */
  readonly view: Packed<DerivedView>
}

/** What the questions were worked out with, kept for the next ones. */
export class Memories {
  readonly parts = new DeriveMemory()
  /** What is only tried must not push out what is shown. */
  readonly searches = new DeriveMemory()
  /** What papers beside the part hold: its original, another one under it. */
  readonly papers = new DeriveMemory()
  /** Versions of the part looked at, and of the one before: its other levels share what was worked out. */
  readonly versions = new Memory(2)
  /** Versions for all who play a tune together. */
  readonly together = new Memory(24)
  private stamps = 0

  derived({ tune, recipe, context }: PartDocuments): Derived {
    return derive(tune, recipe, context, this.parts)
  }

  /** What the page is told of a part, kept like the stages before it. */
  view({ tune, recipe, context }: PartDocuments): StampedView {
    const d = deriveMusic(tune, recipe, context, this.parts)
    return this.parts.stage('view', [d], recipe, () => ({
      stamp: ++this.stamps,
      view: pack(derivedView(d, recipe)),
    }))
  }
}
