/** What is stored is for its owner's eyes only. */
import { chmodSync, mkdirSync } from 'node:fs'

/** Makes a folder, and closes one to others that an older Nokta left open; where it is somebody else's it stays. */
export function ownersFolder(path: string): void {
  mkdirSync(path, { recursive: true, mode: 0o700 })
  try {
    chmodSync(path, 0o700)
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code !== 'EPERM') throw e
  }
}
