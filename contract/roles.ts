/** What a person may be here. */
export const ROLES = { manager: 'Manager', lead: 'Lead', bartender: 'Bartender' } as const
export type Role = keyof typeof ROLES
/** Who asks: a person's role, or nobody, for a request that names no person. */
export type Asker = Role | 'nobody'

const EVERYONE = ['manager', 'lead', 'bartender'] as const

/** What can be done, and by whom. */
const PERMISSIONS = {
  /** What is on the menu, without pours; who works here; whether the server is well. */
  lookAround: [...EVERYONE, 'nobody'],
  /** Compute a drink; nobody brings all its figures along. */
  preview: [...EVERYONE, 'nobody'],
  /** Only while there is no house yet. */
  setUpHouse: ['manager', 'nobody'],
  read: EVERYONE,
  saveDraft: ['manager', 'lead'],
  saveVersion: ['manager', 'lead'],
  planMenu: ['manager', 'lead'],
  publishEdition: ['manager'],
  makeLot: ['manager', 'lead'],
  editHouse: ['manager', 'lead'],
  taste: EVERYONE,
  logTrial: ['manager', 'lead'],
  openSealed: ['manager'],
  prepare: EVERYONE,
  exportHouse: ['manager'],
  readAudit: ['manager'],
  editPeople: ['manager'],
} as const satisfies Record<string, readonly Asker[]>

export type Act = keyof typeof PERMISSIONS

export function mayDo(role: Asker, act: Act): boolean {
  return (PERMISSIONS[act] as readonly Asker[]).includes(role)
}

/** The roles that may, for a sentence. */
export function rolesFor(act: Act): readonly Role[] {
  return (PERMISSIONS[act] as readonly Asker[]).filter((role) => role !== 'nobody')
}
