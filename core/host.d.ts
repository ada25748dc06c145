/** What core asks of its surroundings: there in browsers, in workers and in Node alike. */
declare class TextDecoder {
  readonly encoding: string
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  decode(input?: Uint8Array): string
}
