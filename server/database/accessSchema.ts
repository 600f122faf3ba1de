/** Who may come in: secrets, devices and sessions. None of it is history, and none of it is in a copy of the house. */

import { boolean, index, integer, pgTable, text, timestamp } from 'drizzle-orm/pg-core'
import { people } from './schema.ts'

const moment = (name: string) => timestamp(name, { withTimezone: true })

/** How each person proves who they are: a slow, salted hash. */
export const secrets = pgTable('secrets', {
  personId: integer('person_id')
    .primaryKey()
    .references(() => people.id),
  kind: text('kind').$type<'pin' | 'passphrase'>().notNull(),
  hash: text('hash').notNull(),
  /** Of the demo house alone: as it is shown on the sign-in page. */
  shown: text('shown'),
  /** Somebody else chose it. */
  mustChange: boolean('must_change').notNull().default(false),
  changedAt: moment('changed_at').notNull(),
})

/** A tablet or a desk that a manager enrolled. It remembers its well, and nobody's secret. */
export const devices = pgTable('devices', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  name: text('name').notNull(),
  well: text('well'),
  tokenHash: text('token_hash').notNull().unique('devices_token'),
  enrolledBy: text('enrolled_by').notNull(),
  enrolledById: integer('enrolled_by_id').references(() => people.id),
  enrolledAt: moment('enrolled_at').notNull(),
  revision: integer('revision').notNull().default(1),
})

/** What a manager's screen shows for a while, to be typed on the device that is enrolled; good once. */
export const deviceCodes = pgTable('device_codes', {
  codeHash: text('code_hash').primaryKey(),
  /** What the device will be called, and where it will stand. */
  name: text('name').notNull(),
  well: text('well'),
  madeBy: text('made_by').notNull(),
  madeById: integer('made_by_id')
    .notNull()
    .references(() => people.id),
  until: moment('until').notNull(),
})

/** Who is signed in where. Tokens are kept as hashes: whoever reads the database cannot use them. */
export const sessions = pgTable(
  'sessions',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    personId: integer('person_id')
      .notNull()
      .references(() => people.id),
    deviceId: integer('device_id').references(() => devices.id, { onDelete: 'set null' }),
    tokenHash: text('token_hash').notNull().unique('sessions_token'),
    /** A newer one was handed out; until it comes back the old one counts, too: an answer can be lost. */
    nextHash: text('next_hash').unique('sessions_next'),
    nextAt: moment('next_at'),
    /** The one before, for requests that were on their way. */
    previousHash: text('previous_hash').unique('sessions_previous'),
    previousUntil: moment('previous_until'),
    /** When the token was last another one. */
    turnedAt: moment('turned_at').notNull(),
    isLocked: boolean('is_locked').notNull().default(false),
    madeAt: moment('made_at').notNull(),
    until: moment('until').notNull(),
  },
  (t) => [index('sessions_person').on(t.personId)],
)

/** Wrong secrets, by where they came from and for whom; a right one forgets them. */
export const signInTries = pgTable('sign_in_tries', {
  key: text('key').primaryKey(),
  failures: integer('failures').notNull(),
  lastAt: moment('last_at').notNull(),
  /** Before that no other is listened to. */
  freeAt: moment('free_at').notNull(),
})
