import type { CalibrationDocument, IceKind, TrialDocument, TrialEvent } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import type { LotDocument, LotEvent, Recipe, SplitPrepDocument } from '@conch/core/formula'
import type { Glass, Ingredient, Settings, Station, Well } from '@conch/core/house'
import type { EditionLock, MenuPlan } from '@conch/core/menu'
import type { FlightDocument, Slot } from '@conch/core/style'
import {
  boolean,
  date,
  foreignKey,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core'

const revision = () => integer('revision').notNull().default(1)
const stamp = () => ({
  savedBy: text('saved_by').notNull(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull(),
})

/** One row: a data directory is one house. */
export const house = pgTable('house', {
  id: integer('id').primaryKey().default(1),
  settings: jsonb('settings').$type<Settings>().notNull(),
  isDemo: boolean('is_demo').notNull().default(false),
  revision: revision(),
})

export const wells = pgTable('wells', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: jsonb('document').$type<Omit<Well, 'stations'>>().notNull(),
  revision: revision(),
})

export const stations = pgTable(
  'stations',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    well: text('well')
      .notNull()
      .references(() => wells.slug),
    slug: text('slug').notNull(),
    position: integer('position').notNull(),
    document: jsonb('document').$type<Station>().notNull(),
  },
  (t) => [unique('stations_well_slug').on(t.well, t.slug)],
)

export const glasses = pgTable('glasses', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: jsonb('document').$type<Glass>().notNull(),
  revision: revision(),
})

export const ingredients = pgTable('ingredients', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: jsonb('document').$type<Ingredient>().notNull(),
  revision: revision(),
})

/** What a drink's base must be: named by spec lines. */
export const slots = pgTable('slots', {
  slug: text('slug').primaryKey(),
  position: integer('position').notNull(),
  document: jsonb('document').$type<Slot>().notNull(),
  revision: revision(),
})

/** What somebody tasted, side by side. Immutable: a newer word of the same taster counts instead. */
export const flights = pgTable('flights', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  tastedOn: date('tasted_on', { mode: 'string' }).notNull(),
  document: jsonb('document').$type<FlightDocument>().notNull(),
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
    recipe: jsonb('recipe').$type<Recipe>().notNull(),
    reason: text('reason').notNull(),
    ...stamp(),
  },
  (t) => [primaryKey({ name: 'recipes_pkey', columns: [t.ingredient, t.number] })],
)

/** Sealed batches dealt to two people. Immutable. */
export const splitPreps = pgTable('split_preps', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  ingredient: text('ingredient')
    .notNull()
    .references(() => ingredients.slug),
  document: jsonb('document').$type<SplitPrepDocument>().notNull(),
  ...stamp(),
})

export const drinks = pgTable('drinks', {
  slug: text('slug').primaryKey(),
  name: text('name').notNull(),
  /** The last revision that any draft of this drink had. */
  draftRevision: integer('draft_revision').notNull().default(0),
})

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
    document: jsonb('document').$type<DrinkDocument>().notNull(),
    ...stamp(),
  },
  (t) => [
    primaryKey({ name: 'versions_pkey', columns: [t.drink, t.number] }),
    foreignKey({ name: 'versions_parent', columns: [t.drink, t.parent], foreignColumns: [t.drink, t.number] }),
  ],
)

export const drafts = pgTable('drafts', {
  drink: text('drink')
    .primaryKey()
    .references(() => drinks.slug),
  baseVersion: integer('base_version'),
  document: jsonb('document').$type<DrinkDocument>().notNull(),
  revision: integer('revision').notNull(),
  ...stamp(),
})

/** Drafts that another person's saving, or dropping, replaced: no words are lost. Immutable. */
export const replacedDrafts = pgTable('replaced_drafts', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  drink: text('drink')
    .notNull()
    .references(() => drinks.slug),
  baseVersion: integer('base_version'),
  document: jsonb('document').$type<DrinkDocument>().notNull(),
  ...stamp(),
  replacedAt: timestamp('replaced_at', { withTimezone: true }).notNull(),
})

export const menuPlan = pgTable('menu_plan', {
  id: integer('id').primaryKey().default(1),
  plan: jsonb('plan').$type<MenuPlan>().notNull(),
  revision: revision(),
  ...stamp(),
})

/** Immutable. `lock` holds everything that was computed and used on the day. */
export const editions = pgTable('editions', {
  number: integer('number').primaryKey(),
  name: text('name').notNull(),
  note: text('note').notNull(),
  publishedBy: text('published_by').notNull(),
  publishedAt: timestamp('published_at', { withTimezone: true }).notNull(),
  /** Which drinks in which version: what every page asks for, without reading the large lock. */
  listing: jsonb('listing').$type<{ drink: string; version: number }[]>().notNull(),
  lock: jsonb('lock').$type<EditionLock>().notNull(),
})

/** What was made or pressed. Immutable: what happens to it afterwards is in its events. */
export const lots = pgTable('lots', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  ingredient: text('ingredient')
    .notNull()
    .references(() => ingredients.slug),
  madeOn: date('made_on', { mode: 'string' }).notNull(),
  useBy: date('use_by', { mode: 'string' }),
  document: jsonb('document').$type<LotDocument>().notNull(),
  ...stamp(),
})

/** Immutable: measured, labelled, used up, discarded. */
export const lotEvents = pgTable('lot_events', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  lot: integer('lot')
    .notNull()
    .references(() => lots.id),
  at: timestamp('at', { withTimezone: true }).notNull(),
  by: text('by').notNull(),
  event: jsonb('event').$type<LotEvent>().notNull(),
  /** Whether it ends the lot, or takes an end back; null: neither. */
  isEnd: boolean('is_end'),
})

/** Measured makings. Immutable: what is said of them later is in their events. */
export const trials = pgTable('trials', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  well: text('well')
    .notNull()
    .references(() => wells.slug),
  station: text('station').notNull(),
  madeOn: date('made_on', { mode: 'string' }).notNull(),
  document: jsonb('document').$type<TrialDocument>().notNull(),
  ...stamp(),
})

/** Immutable: left out of calibrations with a reason, and taken in again. */
export const trialEvents = pgTable('trial_events', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  trial: integer('trial')
    .notNull()
    .references(() => trials.id),
  at: timestamp('at', { withTimezone: true }).notNull(),
  by: text('by').notNull(),
  event: jsonb('event').$type<TrialEvent>().notNull(),
})

/** What trials made of a station with one ice. Immutable: the newest counts. */
export const calibrations = pgTable('calibrations', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  well: text('well')
    .notNull()
    .references(() => wells.slug),
  station: text('station').notNull(),
  ice: text('ice').$type<IceKind>().notNull(),
  document: jsonb('document').$type<CalibrationDocument>().notNull(),
  ...stamp(),
})

/** Immutable. */
export const audit = pgTable('audit', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  at: timestamp('at', { withTimezone: true }).notNull(),
  by: text('by').notNull(),
  act: text('act').notNull(),
  subject: text('subject').notNull(),
  detail: jsonb('detail').$type<Record<string, unknown>>().notNull(),
})
