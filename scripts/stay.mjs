/** What `npm start` does once all is there: for the test of its signals. */
import { stay } from './setup.mjs'

stay(process.execPath, ['--import', 'tsx', 'server/main.ts'])
