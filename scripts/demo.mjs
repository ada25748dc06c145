/**
 * `npm run demo`: everything from nothing to an open address, with the demo tunes in a data folder of their
 * own.
 */
import { join } from 'node:path'
import { ensureBuild, ensurePackages, root, stay } from './setup.mjs'

ensurePackages()
ensureBuild()
console.log('Starting. The first start makes the database and takes a few seconds.')
stay(process.execPath, ['dist/server/main.js'], {
  NOKTA_DEMO: '1',
  NOKTA_DATA: process.env.NOKTA_DATA ?? join(root, 'data/demo'),
})
