/** One of several, chosen from a list: what {@link ChoiceRows} shows. */
export interface Choice {
  readonly test: string
  readonly label: string
  readonly value: string
  readonly items: readonly { readonly value: string; readonly title: string }[]
  readonly take: (value: string) => void
}

/** Values with their words, in the order of the words. */
export const itemsOf = (words: Readonly<Record<string, string>>): Choice['items'] =>
  Object.entries(words).map(([value, title]) => ({ value, title }))
