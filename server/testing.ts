/** For tests of the interface: a running Nokta, and calls to it as the page makes them. */
import { afterAll, beforeEach } from 'vitest'
import { startNokta, type Nokta, type NoktaOptions } from './nokta'

/**
 * A Nokta of a test file's own, stopped at its end. It is started by the file's first test and not before all
 * of them, so that what is wrong in starting is noticed by a test.
 */
export function running(options: () => Partial<NoktaOptions> = () => ({})) {
  let nokta: Nokta | undefined
  beforeEach(async () => void (nokta ??= await startNokta({ port: 0, version: 'test', ...options() })))
  afterAll(() => nokta?.stop())

  async function call(method: string, path: string, body?: unknown) {
    const response = await fetch(nokta!.url + path, {
      method,
      ...(body !== undefined && {
        body: JSON.stringify(body),
        headers: { 'Content-Type': 'application/json' },
      }),
    })
    const text = await response.text()
    return {
      status: response.status,
      headers: response.headers,
      json: (text ? JSON.parse(text) : null) as unknown,
    }
  }
  return {
    get url() {
      return nokta!.url
    },
    get shelf() {
      return nokta!.shelf
    },
    call,
  }
}
