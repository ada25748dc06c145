/**
 * Run before the schema library: the page's security policy forbids code made from text, which schemas would
 * else be compiled to. It stands in one chunk with that library (vite.config.ts), before it.
 */
;(globalThis as { __zod_globalConfig?: object }).__zod_globalConfig = { jitless: true }

export {}
