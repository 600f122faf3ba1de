/** Who does something. Until people sign in, the role comes with the request. */
export const ROLES = { manager: 'Manager', lead: 'Lead', bartender: 'Bartender' } as const
export type Role = keyof typeof ROLES

/** What can be done, and by whom. */
const PERMISSIONS = {
  read: ['manager', 'lead', 'bartender'],
  saveDraft: ['manager', 'lead'],
  saveVersion: ['manager', 'lead'],
  planMenu: ['manager', 'lead'],
  publishEdition: ['manager'],
  makeLot: ['manager', 'lead'],
  editHouse: ['manager', 'lead'],
  taste: ['manager', 'lead', 'bartender'],
  logTrial: ['manager', 'lead'],
  openSealed: ['manager'],
  prepare: ['manager', 'lead', 'bartender'],
  setUpHouse: ['manager'],
  exportHouse: ['manager'],
} as const satisfies Record<string, readonly Role[]>

export type Act = keyof typeof PERMISSIONS

export function mayDo(role: Role, act: Act): boolean {
  return (PERMISSIONS[act] as readonly Role[]).includes(role)
}

/** The roles that may, for a sentence. */
export function rolesFor(act: Act): readonly Role[] {
  return PERMISSIONS[act]
}
