import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'

export default defineConfig({
  plugins: [vue()],
  test: {
    projects: [
      {
        extends: true,
        test: {
          name: 'unit',
          testTimeout: 30_000,
          include: [
            'core/**/*.test.ts',
            'drawing/**/*.test.ts',
            'web/**/*.test.ts',
            'contract/**/*.test.ts',
            'demo/**/*.test.ts',
          ],
        },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['server/**/*.test.ts', 'cli/**/*.test.ts', 'scripts/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'browser',
          include: ['e2e/**/*.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 180_000,
          fileParallelism: false,
          // What a page shows is waited for: it draws a moment after it was asked.
          expect: { poll: { timeout: 15_000 } },
        },
      },
    ],
  },
})
