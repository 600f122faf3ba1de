import { type DraftKind, type EventKind, type EventVerb, keptRowSchema, type Role } from '@conch/contract'
import type { IceKind } from '@conch/core/calibration/trialSchema'
import { calibrationDocumentSchema, trialDocumentSchema, trialEventSchema } from '@conch/core/calibration/trialSchema'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { splitPrepDocumentSchema } from '@conch/core/formula/splitSchema'
import { glassSchema, ingredientSchema, settingsSchema, stationSchema, wellSchema } from '@conch/core/house/schema'
import { decisionDocumentSchema } from '@conch/core/lineage/decisionSchema'
import { findingSchema, versionOriginSchema, versionSourceSchema } from '@conch/core/lineage/sourceSchema'
import { lotDocumentSchema, lotEventSchema } from '@conch/core/lots/lotSchema'
import { keptGlassSchema } from '@conch/core/menu/keptGlassSchema'
import { editionLockSchema, menuPlanSchema } from '@conch/core/menu/schema'
import { flightDocumentSchema, slotSchema } from '@conch/core/schema/palate'
import { recipeSchema } from '@conch/core/schema/recipe'
import {
  tasteNoteSchema,
  tastingDocumentSchema,
  tastingEventSchema,
  tastingKeySchema,
  tastingSheetSchema,
} from '@conch/core/tasting/tastingSchema'
import { sql } from 'drizzle-orm'
import {
  boolean,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgSequence,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core'
import { z } from 'zod'
import { document } from './documentColumn.ts'

const revision = () => integer('revision').notNull().default(1)

/** Who works here. Nobody is ever deleted: history points to them. */
export const people = pgTable('people', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  name: text('name').notNull().unique('people_name'),
  role: text('role').$type<Role>().notNull(),
  isActive: boolean('is_active').notNull().default(true),
  revision: revision(),
})

/** Who, by the name of then, and when. */
export const stamp = () => ({
  savedBy: text('saved_by').notNull(),
  savedById: integer('saved_by_id').references(() => people.id),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull(),
})

/** When something happened to a thing of history, and by whom, by the name of then. */
export const happened = () => ({
  at: timestamp('at', { withTimezone: true }).notNull(),
  by: text('by').notNull(),
  byId: integer('by_id').references(() => people.id),
})

/** One row: a data directory is one house. */
export const house = pgTable('house', {
  id: integer('id').primaryKey().default(1),
  settings: document('settings', settingsSchema).notNull(),
  isDemo: boolean('is_demo').notNull().default(false),
  revision: revision(),
})

export const wells = pgTable('wells', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: document('document', wellSchema.omit({ stations: true })).notNull(),
  revision: revision(),
})

export const stations = pgTable(
  'stations',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    well: text('well')
      .notNull()
      .references(() => wells.slug),
    slug: text('slug').notNull(),
    position: integer('position').notNull(),
    document: document('document', stationSchema).notNull(),
    /** It is no longer there; its trials, and versions that name it, still are. */
    isRemoved: boolean('is_removed').notNull().default(false),
  },
  (t) => [unique('stations_well_slug').on(t.well, t.slug)],
)

export const glasses = pgTable('glasses', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: document('document', glassSchema).notNull(),
  revision: revision(),
})

export const ingredients = pgTable('ingredients', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: document('document', ingredientSchema).notNull(),
  revision: revision(),
})

/** What a drink's base must be: named by spec lines. */
export const slots = pgTable('slots', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: document('document', slotSchema).notNull(),
  revision: revision(),
})

/** What somebody tasted, side by side. Immutable: a newer word of the same taster counts instead. */
export const flights = pgTable('flights', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  tastedOn: date('tasted_on', { mode: 'string' }).notNull(),
  document: document('document', flightDocumentSchema).notNull(),
  ...stamp(),
})

/** Every recipe that a mix or a blend had. Immutable. */
export const recipes = pgTable(
  'recipes',
  {
    ingredient: text('ingredient')
      .notNull()
      .references(() => ingredients.slug),
    number: integer('number').notNull(),
    recipe: document('recipe', recipeSchema).notNull(),
    reason: text('reason').notNull(),
    ...stamp(),
  },
  (t) => [primaryKey({ name: 'recipes_pkey', columns: [t.ingredient, t.number] })],
)

/** Sealed batches dealt to two people. Immutable. */
export const splitPreps = pgTable(
  'split_preps',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    ingredient: text('ingredient')
      .notNull()
      .references(() => ingredients.slug),
    document: document('document', splitPrepDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [index('split_preps_of').on(t.ingredient, t.id)],
)

export const drinks = pgTable(
  'drinks',
  {
    slug: text('slug').primaryKey(),
    name: text('name').notNull(),
    /** Out of the way of those who search; nothing of it is gone. */
    isHidden: boolean('is_hidden').notNull().default(false),
    /** What a riff was begun from: its first version takes it as a parent. */
    riffOf: document('riff_of', z.object({ drink: z.string(), version: z.number() })),
  },
  (t) => [index('drinks_by_name').on(t.name, t.slug)],
)

/** Immutable: a trigger refuses change and deletion. */
export const versions = pgTable(
  'versions',
  {
    drink: text('drink')
      .notNull()
      .references(() => drinks.slug),
    number: integer('number').notNull(),
    parent: integer('parent'),
    label: text('label').notNull(),
    era: text('era').notNull(),
    source: text('source').notNull(),
    reason: text('reason').notNull(),
    document: document('document', drinkDocumentSchema, 'drink').notNull(),
    /** Where it was found, and what each says. */
    sources: document('sources', z.array(versionSourceSchema)).notNull().default([]),
    ...stamp(),
    /** What it is, and its years; null: nobody said. */
    origin: document('origin', versionOriginSchema),
  },
  (t) => [
    primaryKey({ name: 'versions_pkey', columns: [t.drink, t.number] }),
    foreignKey({ name: 'versions_parent', columns: [t.drink, t.parent], foreignColumns: [t.drink, t.number] }),
    // How many each drink has, and when the newest was saved, without reading documents.
    index('versions_saved').on(t.drink, t.number, t.savedAt),
  ],
)

/** What a version was made from: several, and of other drinks, too. Immutable. */
export const versionParents = pgTable(
  'version_parents',
  {
    drink: text('drink').notNull(),
    number: integer('number').notNull(),
    parentDrink: text('parent_drink').notNull(),
    parentNumber: integer('parent_number').notNull(),
  },
  (t) => [
    primaryKey({ name: 'version_parents_pkey', columns: [t.drink, t.number, t.parentDrink, t.parentNumber] }),
    foreignKey({
      name: 'version_parents_child',
      columns: [t.drink, t.number],
      foreignColumns: [versions.drink, versions.number],
    }),
    foreignKey({
      name: 'version_parents_parent',
      columns: [t.parentDrink, t.parentNumber],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('version_parents_of').on(t.parentDrink, t.parentNumber),
  ],
)

/** What was said of a version after it was saved: sources, questions, answers. Immutable. */
export const findings = pgTable(
  'findings',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    drink: text('drink').notNull(),
    number: integer('number').notNull(),
    document: document('document', findingSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    foreignKey({
      name: 'findings_version',
      columns: [t.drink, t.number],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('findings_of').on(t.drink, t.id),
  ],
)

/** Which version of a drink is to be poured, and why. Immutable: the newest counts. */
export const decisions = pgTable(
  'decisions',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    drink: text('drink').notNull(),
    number: integer('number').notNull(),
    document: document('document', decisionDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    foreignKey({
      name: 'decisions_version',
      columns: [t.drink, t.number],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('decisions_of').on(t.drink, t.id),
  ],
)

/** A blind tasting. Immutable: what happens to it afterwards is in its events. */
export const tastings = pgTable('tastings', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  document: document('document', tastingDocumentSchema).notNull(),
  ...stamp(),
})

/** Which glass of an open tasting is which: for its maker alone. Gone when it is closed; never part of a copy. */
export const tastingKeys = pgTable('tasting_keys', {
  tasting: integer('tasting')
    .primaryKey()
    .references(() => tastings.id),
  key: document('key', tastingKeySchema).notNull(),
})

/** What a taster wrote of a glass. Immutable: a newer one of the same taster for the same glass counts instead. */
export const tastingSheets = pgTable(
  'tasting_sheets',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    tasting: integer('tasting')
      .notNull()
      .references(() => tastings.id),
    document: document('document', tastingSheetSchema).notNull(),
    ...stamp(),
  },
  (t) => [index('tasting_sheets_of').on(t.tasting, t.id)],
)

/** Immutable: closed, with its key; or abandoned. */
export const tastingEvents = pgTable('tasting_events', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  tasting: integer('tasting')
    .notNull()
    .references(() => tastings.id)
    .unique('tasting_events_end'),
  ...happened(),
  event: document('event', tastingEventSchema).notNull(),
})

/** What somebody said of a version on a night, and what became of it. Immutable. */
export const tasteNotes = pgTable(
  'taste_notes',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    drink: text('drink').notNull(),
    number: integer('number').notNull(),
    document: document('document', tasteNoteSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    foreignKey({
      name: 'taste_notes_version',
      columns: [t.drink, t.number],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('taste_notes_of').on(t.drink, t.number, t.id),
  ],
)

/** One number after the other for every draft that is saved: none is ever given twice. */
export const draftRevisions = pgSequence('draft_revisions')

/** The open draft of a drink, a mix or blend, or a slot: one for each, shared. */
export const documentDrafts = pgTable(
  'document_drafts',
  {
    kind: text('kind').$type<DraftKind>().notNull(),
    /** The slug of what it is a draft of. */
    subject: text('subject').notNull(),
    /** What it was begun from: a drink's version, or the revision of the saved thing; null: from nothing. */
    baseVersion: integer('base_version'),
    document: jsonb('document').$type<object>().notNull(),
    revision: integer('revision').notNull(),
    ...stamp(),
  },
  (t) => [primaryKey({ name: 'document_drafts_pkey', columns: [t.kind, t.subject] })],
)

/** Drafts that another person's saving, or dropping, replaced: no words are lost. Immutable. */
export const documentDraftsReplaced = pgTable(
  'document_drafts_replaced',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    kind: text('kind').$type<DraftKind>().notNull(),
    subject: text('subject').notNull(),
    baseVersion: integer('base_version'),
    document: jsonb('document').$type<object>().notNull(),
    ...stamp(),
    replacedAt: timestamp('replaced_at', { withTimezone: true }).notNull(),
  },
  (t) => [index('document_drafts_replaced_of').on(t.kind, t.subject)],
)

export const menuPlan = pgTable('menu_plan', {
  id: integer('id').primaryKey().default(1),
  plan: document('plan', menuPlanSchema).notNull(),
  revision: revision(),
  ...stamp(),
})

/** Immutable. `lock` holds everything that was computed and used on the day. */
export const editions = pgTable('editions', {
  number: integer('number').primaryKey(),
  name: text('name').notNull(),
  note: text('note').notNull(),
  publishedBy: text('published_by').notNull(),
  publishedById: integer('published_by_id').references(() => people.id),
  /** The revision of the plan that it was published from: a plan is published once. */
  planRevision: integer('plan_revision').unique('editions_plan_revision'),
  publishedAt: timestamp('published_at', { withTimezone: true }).notNull(),
  /** Which drinks in which version: what every page asks for, without reading the large lock. */
  listing: document('listing', z.array(z.object({ drink: z.string(), version: z.number() }))).notNull(),
  lock: document('lock', editionLockSchema, 'edition-lock').notNull(),
})

/** What was made or pressed. Immutable: what happens to it afterwards is in its events. */
export const lots = pgTable(
  'lots',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    ingredient: text('ingredient')
      .notNull()
      .references(() => ingredients.slug),
    madeOn: date('made_on', { mode: 'string' }).notNull(),
    useBy: date('use_by', { mode: 'string' }),
    document: document('document', lotDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [
    index('lots_of').on(t.ingredient, t.id),
    index('lots_by_use_by').on(t.useBy.asc().nullsLast(), t.id.desc()),
    index('lots_by_hand').on(t.savedBy),
    index('lots_pressed').on(t.id).where(sql`${t.document} ? 'pressed'`),
  ],
)

/** Immutable: measured, labelled, used up, discarded. */
export const lotEvents = pgTable(
  'lot_events',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    lot: integer('lot')
      .notNull()
      .references(() => lots.id),
    ...happened(),
    event: document('event', lotEventSchema).notNull(),
    /** Whether it ends the lot, or takes an end back; null: neither. */
    isEnd: boolean('is_end'),
  },
  (t) => [index('lot_events_of').on(t.lot, t.id)],
)

/** Measured makings. Immutable: what is said of them later is in their events. */
export const trials = pgTable(
  'trials',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    well: text('well')
      .notNull()
      .references(() => wells.slug),
    station: text('station').notNull(),
    stationId: integer('station_id').references(() => stations.id),
    madeOn: date('made_on', { mode: 'string' }).notNull(),
    document: document('document', trialDocumentSchema).notNull(),
    ...stamp(),
  },
  (t) => [index('trials_of').on(t.well, t.station, t.id)],
)

/** Immutable: left out of calibrations with a reason, and taken in again. */
export const trialEvents = pgTable(
  'trial_events',
  {
    id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
    trial: integer('trial')
      .notNull()
      .references(() => trials.id),
    ...happened(),
    event: document('event', trialEventSchema).notNull(),
  },
  (t) => [index('trial_events_of').on(t.trial, t.id)],
)

/** What trials made of a station with one ice. Immutable: the newest counts. */
export const calibrations = pgTable('calibrations', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  well: text('well')
    .notNull()
    .references(() => wells.slug),
  station: text('station').notNull(),
  stationId: integer('station_id').references(() => stations.id),
  ice: text('ice').$type<IceKind>().notNull(),
  document: document('document', calibrationDocumentSchema).notNull(),
  ...stamp(),
})

/** Immutable. */
export const audit = pgTable('audit', {
  id: integer('id').primaryKey().generatedByDefaultAsIdentity(),
  at: timestamp('at', { withTimezone: true }).notNull(),
  by: text('by').notNull(),
  act: text('act').notNull(),
  subject: text('subject').notNull(),
  detail: document('detail', z.record(z.string(), z.unknown())).notNull(),
})

/**
 * Everything that changed, one row for each write, in the order in which they became visible: a chain in
 * which each row's hash holds the one before. Immutable.
 */
export const events = pgTable(
  'events',
  {
    sequence: integer('sequence').primaryKey(),
    at: timestamp('at', { withTimezone: true }).notNull(),
    personId: integer('person_id').references(() => people.id),
    personName: text('person_name').notNull(),
    kind: text('kind').$type<EventKind>().notNull(),
    subject: text('subject').notNull(),
    verb: text('verb').$type<EventVerb>().notNull(),
    /** Was and is, and what else there is to know. */
    detail: document('detail', z.record(z.string(), z.unknown())).notNull(),
    /** The rows of history that it wrote, each with a salted hash of what it holds. */
    kept: document('kept', z.array(keptRowSchema)).notNull(),
    /** Secret: or the hash of a formula could be guessed. */
    salt: text('salt').notNull(),
    hash: text('hash').notNull(),
  },
  (t) => [index('events_of').on(t.kind, t.subject, t.sequence)],
)

/** The end of the chain; locked by whoever adds to it. One row. */
export const chainHead = pgTable('chain_head', {
  id: integer('id').primaryKey().default(1),
  sequence: integer('sequence').notNull(),
  hash: text('hash').notNull(),
})

/** Answers to writes that carried a key, for whoever sends the same again. Cleared after some days. */
export const keptAnswers = pgTable(
  'kept_answers',
  {
    key: text('key').primaryKey(),
    /** Hash of who asked for what: another request under the same key is refused. */
    request: text('request').notNull(),
    status: integer('status').notNull(),
    answer: jsonb('answer').$type<unknown>().notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
  },
  (t) => [index('kept_answers_at').on(t.at)],
)

/**
 * What the poured, the planned and the latest version of each drink are at each well: follows from everything else, and can be
 * thrown away and made anew.
 */
export const keptGlasses = pgTable(
  'kept_glasses',
  {
    drink: text('drink').notNull(),
    version: integer('version').notNull(),
    well: text('well')
      .notNull()
      .references(() => wells.slug),
    glass: document('glass', keptGlassSchema).notNull(),
    /** For whoever may not open what is sealed in it; null: the same. */
    closed: document('closed', keptGlassSchema),
    /** Everything that it was computed from, as topics. */
    dependsOn: text('depends_on').array().notNull(),
    /** The first night on which it is another one by itself; null: none. */
    turnsOn: date('turns_on', { mode: 'string' }),
    /** How far the chain was when it was computed. */
    sequence: integer('sequence').notNull(),
    /** The model of the ice that it was computed with. */
    model: integer('model').notNull(),
  },
  (t) => [
    primaryKey({ name: 'kept_glasses_pkey', columns: [t.drink, t.version, t.well] }),
    foreignKey({
      name: 'kept_glasses_version',
      columns: [t.drink, t.version],
      foreignColumns: [versions.drink, versions.number],
    }),
    index('kept_glasses_depend').using('gin', t.dependsOn),
  ],
)

/** What every drink pours of something, ml for one serve, one for each version: follows from the versions. */
export const usualPours = pgTable(
  'usual_pours',
  {
    ingredient: text('ingredient').notNull(),
    drink: text('drink')
      .notNull()
      .references(() => drinks.slug),
    volumesMl: doublePrecision('volumes_ml').array().notNull(),
  },
  (t) => [primaryKey({ name: 'usual_pours_pkey', columns: [t.ingredient, t.drink] })],
)

/** How far the chain was when all that is kept was right; one row for each thing that is kept. */
export const keptUpTo = pgTable('kept_up_to', {
  what: text('what').$type<'glasses' | 'usualPours'>().primaryKey(),
  sequence: integer('sequence').notNull(),
  /** What else it was made with: another one, and all is made anew. */
  madeWith: text('made_with').notNull(),
})
