export function isBuilt(folder: string): boolean
