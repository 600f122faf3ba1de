/** Rounds as they came to the house, how those that were put aside ended, and what people practised. All of it is history. */

import { practiceDocumentSchema } from '@conch/core/learn/practiceSchema'
import { roundDocumentSchema, roundEndSchema } from '@conch/core/service/roundSchema'
import { sql } from 'drizzle-orm'
import { index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core'
import { document } from './documentColumn.ts'
import { happened, stamp } from './schema.ts'

/** A round, finished or put aside half made. Immutable. */
export const rounds = pgTable(
  'rounds',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    /** Its own, from the tablet on which it was begun: put aside and taken up it stays the same round. */
    key: text('key').notNull(),
    state: text('state', { enum: ['made', 'parked'] }).notNull(),
    document: document('document', roundDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    // Finished once, whoever sends it how often.
    uniqueIndex('rounds_made_once').on(t.key).where(sql`state = 'made'`),
    index('rounds_by_key').on(t.key),
    index('rounds_by_time').on(t.savedAt),
  ],
)

/** Who took up a round that was put aside, or threw it away: once. Immutable. */
export const roundEnds = pgTable('round_ends', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  round: integer('round')
    .notNull()
    .references(() => rounds.id)
    .unique('round_ends_once'),
  ...happened(),
  event: document('event', roundEndSchema).notNull(),
})

/** One sitting of one person: a drill, or test pours. Immutable. */
export const practices = pgTable(
  'practices',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    document: document('document', practiceDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [index('practices_by_person').on(t.savedById)],
)
