/**
 * For `npm run mutate`: the tests of one folder, without those that start servers or browsers of their own.
 */
import { defineConfig } from 'vitest/config'

const folder = process.env.NOKTA_MUTATE ?? 'core'

export default defineConfig({
  test: {
    include: [folder.endsWith('.ts') ? folder : `${folder}/**/*.test.ts`],
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
})
