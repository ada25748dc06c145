/** Who asks: within which studio, who, and in what role. Each endpoint of the table says who may. */
export const ROLES = ['teacher', 'learner', 'guest'] as const
export type Role = (typeof ROLES)[number]

export interface Principal {
  readonly studio: string
  readonly person: string
  readonly role: Role
}

/** The one teacher at this machine: as long as nobody signs in, everybody who reaches the server. */
export const LOCAL_TEACHER: Principal = { studio: 'studio', person: 'local', role: 'teacher' }

export const TEACHERS: readonly Role[] = ['teacher']
export const EVERYBODY: readonly Role[] = ROLES
