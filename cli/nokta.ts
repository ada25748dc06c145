#!/usr/bin/env node
/** The program: reads its files on a thread, and tells each result as it is done. */
import { version } from '../package.json'
import { bytesOf, firstTune } from './files'
import { run } from './main'
import { FileReader } from './reader'

const reader = new FileReader(new URL('./readThread.ts', import.meta.url))
process.exitCode = await run(process.argv.slice(2), {
  version,
  open: async path => firstTune(path, await reader.read(path, bytesOf(path))),
  tell: ({ out, err }) => {
    process.stdout.write(out)
    process.stderr.write(err)
  },
})
reader.end()
