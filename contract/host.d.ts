/** What the contract asks of its surroundings: there in browsers and in Node alike. */
declare class URLSearchParams {
  constructor(entries: readonly (readonly [string, string])[])
  toString(): string
}
