/** For tests of the interface: calls to a running Nokta, as the page makes them. */
import type { Nokta } from './nokta'

export const caller = (nokta: () => Nokta) =>
  async function call(method: string, path: string, body?: unknown) {
    const response = await fetch(nokta().url + path, {
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
