/** For tests: the lines of a text, as a file gives them. */
export async function* linesOf(text: string): AsyncGenerator<string> {
  await Promise.resolve()
  yield* text.split('\n')
}

/** All that comes. */
export async function collected<T>(from: AsyncIterable<T>): Promise<T[]> {
  const out: T[] = []
  for await (const one of from) out.push(one)
  return out
}
