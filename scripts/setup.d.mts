export function isBuilt(folder: string): boolean
export function buildServer(): void
