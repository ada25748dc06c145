/** The shelf's tunes by title, kept in step tune by tune, and searched by the letters of all that is told of them. */
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import type { TuneListItem } from '#contract/documents'

export const COLLATE = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

/** Letters without their accents, lower case: "Élan" is found by "elan". */
export const plainLetters = (text: string) =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase()

const searchText = (t: TuneListItem) =>
  plainLetters([t.title, ...t.otherTitles, t.composer, t.kind, keyName(t.key), metreName(t.metre), ...t.tags, ...t.instruments].join(' ')) // prettier-ignore

/** A tune of the list: what is told of it, what a search looks through, and its part of the answer. */
export interface ListedTune {
  readonly item: TuneListItem
  readonly text: string
  readonly json: string
}
export const listedTune = (item: TuneListItem): ListedTune => ({
  item,
  text: searchText(item),
  json: JSON.stringify(item),
})

const titles = (a: ListedTune, b: ListedTune) => COLLATE.compare(a.item.title, b.item.title) || (a.item.id < b.item.id ? -1 : 1) // prettier-ignore

/** Index of the first of a sorted list that `isPast`, or its length. */
function firstOf<T>(list: readonly T[], isPast: (t: T) => boolean): number {
  let [low, high] = [0, list.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (isPast(list[middle]!)) high = middle
    else low = middle + 1
  }
  return low
}

/** Some tunes in a row, and their texts as one, so that a search runs through memory in a line. */
class Block {
  private text: string | null = null
  /** Where each tune's text begins, and where one more would. */
  private readonly starts: number[] = []

  constructor(readonly tunes: ListedTune[]) {}

  put(t: ListedTune) {
    const at = firstOf(this.tunes, other => titles(other, t) > 0)
    this.tunes.splice(at, 0, t)
    this.text = null
  }

  /** False where it is not there. */
  take(t: ListedTune): boolean {
    const at = this.tunes.indexOf(t)
    if (at < 0) return false
    this.tunes.splice(at, 1)
    this.text = null
    return true
  }

  /** Adds those whose text holds every word; there is no line's end in any. */
  addHaving(words: readonly string[], to: ListedTune[]) {
    this.text ??= this.joined()
    const { starts, tunes, text } = this
    if (!words.every(word => text.includes(word))) return
    const held = tunes.map(() => 0)
    for (const word of words) {
      let next = 0
      for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, starts[next])) {
        while (starts[next]! <= at) next++
        held[next - 1]!++
      }
    }
    for (const [i, t] of tunes.entries()) if (held[i] === words.length) to.push(t)
  }

  private joined(): string {
    this.starts.length = 0
    let at = 0
    for (const { text } of this.tunes) {
      this.starts.push(at)
      at += text.length + 1
    }
    this.starts.push(at)
    return this.tunes.map(t => t.text + '\n').join('')
  }
}

/** Tunes in a block: it is made of so many, and parted at twice as many. */
const IN_A_BLOCK = 64

export class ByTitle {
  private readonly blocks: Block[] = []
  private count: number

  constructor(list: readonly ListedTune[]) {
    this.count = list.length
    const sorted = [...list].sort(titles)
    for (let i = 0; i < sorted.length; i += IN_A_BLOCK) this.blocks.push(new Block(sorted.slice(i, i + IN_A_BLOCK))) // prettier-ignore
  }

  get size() {
    return this.count
  }

  all = (): ListedTune[] => this.blocks.flatMap(b => b.tunes)

  /** Those whose text holds every word, by title. */
  having(words: readonly string[]): ListedTune[] {
    const out: ListedTune[] = []
    for (const block of this.blocks) block.addHaving(words, out)
    return out
  }

  put(t: ListedTune) {
    if (this.blocks.length === 0) this.blocks.push(new Block([]))
    const at = Math.min(this.blockOf(t), this.blocks.length - 1)
    const block = this.blocks[at]!
    block.put(t)
    this.count++
    if (block.tunes.length >= 2 * IN_A_BLOCK) this.blocks.splice(at, 1, new Block(block.tunes.slice(0, IN_A_BLOCK)), new Block(block.tunes.slice(IN_A_BLOCK))) // prettier-ignore
  }

  take(t: ListedTune) {
    const at = this.blockOf(t)
    const block = this.blocks[at]
    if (!block?.take(t)) return
    this.count--
    if (block.tunes.length === 0) this.blocks.splice(at, 1)
  }

  /** The first block that does not end before a tune. No block is empty while there are others. */
  private blockOf = (t: ListedTune) =>
    firstOf(this.blocks, b => b.tunes.length === 0 || titles(b.tunes.at(-1)!, t) >= 0)
}
