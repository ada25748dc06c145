export function isBuilt(folder: string): boolean
export function buildServer(): void
export function buildCli(): void
