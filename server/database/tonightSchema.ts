/** What is out, and what was chosen for one night. All of it is history: what ends it is a row of its own. */

import { tonightChoiceDocumentSchema } from '@conch/core/drink/tonightChoiceSchema'
import { choiceEndSchema, outDocumentSchema, outEndSchema } from '@conch/core/schema/tonight'
import { date, foreignKey, index, integer, pgTable, text } from 'drizzle-orm/pg-core'
import { document } from './documentColumn.ts'
import { happened, stamp, versions } from './schema.ts'

/** Somebody said that something is out, or low. Immutable. */
export const outs = pgTable('outs', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  document: document('document', outDocumentSchema).notNull(),
  ...stamp(),
})

/** How that ended, once. Immutable. */
export const outEnds = pgTable('out_ends', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  out: integer('out')
    .notNull()
    .references(() => outs.id)
    .unique('out_ends_once'),
  ...happened(),
  event: document('event', outEndSchema).notNull(),
})

/** What becomes of a drink for one night. Immutable. */
export const tonightChoices = pgTable(
  'tonight_choices',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    drink: text('drink').notNull(),
    /** What is poured of it otherwise. */
    number: integer('number').notNull(),
    well: text('well'),
    night: date('night', { mode: 'string' }).notNull(),
    document: document('document', tonightChoiceDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    foreignKey({
      name: 'tonight_choices_version',
      columns: [t.drink, t.number],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('tonight_choices_by_night').on(t.night),
  ],
)

/** How it ended before its night did, once. Immutable. */
export const tonightChoiceEnds = pgTable('tonight_choice_ends', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  choice: integer('choice')
    .notNull()
    .references(() => tonightChoices.id)
    .unique('tonight_choice_ends_once'),
  ...happened(),
  event: document('event', choiceEndSchema).notNull(),
})
