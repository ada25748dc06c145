/**
 * `npm run bench`: the budgets, as medians with ratios: the core, then the server and the app in the browser,
 * its sheets, then the server under load.
 */
import { ensureBuild, ensureDebian, ensurePackages, run } from './setup.mjs'

ensurePackages()
ensureDebian()
ensureBuild()
run('node', ['--import', 'tsx', 'scripts/benchCore.ts'])
run('node', ['--import', 'tsx', '--expose-gc', 'scripts/benchApp.ts'])
run('node', ['--import', 'tsx', 'scripts/benchSheets.ts'])
run('node', ['--import', 'tsx', 'scripts/benchStore.ts'])
run('node', ['--import', 'tsx', 'scripts/benchLoad.ts'])
