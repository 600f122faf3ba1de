/** What a person may be here. */
export const ROLES = { manager: 'Manager', lead: 'Lead', bartender: 'Bartender', viewer: 'Viewer' } as const
export type Role = keyof typeof ROLES
/** Who asks: a person's role, or nobody, for a request that is not signed in. */
export type Asker = Role | 'nobody'

/** What each is, in a word, where one is chosen. */
export const ROLE_WORDS: Record<Role, string> = {
  manager: 'everything, sealed formulas too',
  lead: 'writes drinks, mixes and the next menu',
  bartender: 'makes drinks, tastes, and says what is out',
  viewer: 'sees the menu without pours: a tablet for guests',
}

const BAR = ['manager', 'lead', 'bartender'] as const
const SIGNED_IN = [...BAR, 'viewer'] as const
const ANYBODY = [...SIGNED_IN, 'nobody'] as const

/** What can be done, and by whom. Every place of the API names one of these. */
const PERMISSIONS = {
  /** Whether the server is well, and how one signs in here. */
  lookAround: ANYBODY,
  /** Say who one is; enrol a device with a code that a manager made. */
  signIn: ANYBODY,
  /** Only while there is no house yet, or nobody who could open it. */
  setUpHouse: ['manager', 'nobody'],
  /** Leave, lock the screen, change one's own PIN, see what one did. */
  keepOwn: SIGNED_IN,
  /** What is on the menu, without pours. */
  readPublished: SIGNED_IN,
  read: BAR,
  /** Compute a drink; nobody brings all its figures along. */
  preview: [...BAR, 'nobody'],
  saveDraft: ['manager', 'lead'],
  saveVersion: ['manager', 'lead'],
  planMenu: ['manager', 'lead'],
  publishEdition: ['manager'],
  makeLot: ['manager', 'lead'],
  editHouse: ['manager', 'lead'],
  taste: BAR,
  /** Say that something is out or low, and that it is back. */
  markOut: BAR,
  /** Make a round, put it aside half made, take up what somebody else began. */
  makeRound: BAR,
  /** Learn, and see how far one is oneself. */
  practise: BAR,
  /** See how far the others are. */
  seeProgress: ['manager', 'lead'],
  /** Say what becomes of a drink for one night. */
  chooseTonight: ['manager', 'lead'],
  logTrial: ['manager', 'lead'],
  openSealed: ['manager'],
  prepare: BAR,
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

/** What a locked screen still may: read what the bar reads, so that no card goes dark; never more. */
export const whileLocked = (role: Role): Role => (role === 'viewer' ? 'viewer' : 'bartender')
