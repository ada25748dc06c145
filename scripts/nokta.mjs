/** `npm run -s nokta -- VERB FILE…`: the program, built when a source is newer; paths are those of the caller. */
import { ensureCli, root } from './setup.mjs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'

ensureCli()
if (process.env.INIT_CWD) process.chdir(process.env.INIT_CWD)
await import(pathToFileURL(join(root, 'dist/cli/nokta.js')).href)
