// The independent reader of the tests has no types of its own.
declare module 'verovio/wasm' {
  export default function createVerovioModule(): Promise<unknown>
}
declare module 'verovio/esm' {
  export class VerovioToolkit {
    constructor(module: unknown)
    loadData(text: string): boolean
    getMEI(): string
  }
}
