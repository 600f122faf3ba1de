/**
 * What a copy holds: every table but the answers kept for repeated requests, the keys of open tastings, and what follows from
 * the others, in the order in which rows refer to others.
 */

import { calibrationDocumentSchema, trialDocumentSchema, trialEventSchema } from '@conch/core/calibration/trialSchema'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { tonightChoiceDocumentSchema } from '@conch/core/drink/tonightChoiceSchema'
import { splitPrepDocumentSchema } from '@conch/core/formula/splitSchema'
import { glassSchema, ingredientSchema, settingsSchema, stationSchema, wellSchema } from '@conch/core/house/schema'
import { practiceDocumentSchema } from '@conch/core/learn/practiceSchema'
import { decisionDocumentSchema } from '@conch/core/lineage/decisionSchema'
import { findingSchema, versionOriginSchema, versionSourceSchema } from '@conch/core/lineage/sourceSchema'
import { lotDocumentSchema, lotEventSchema } from '@conch/core/lots/lotSchema'
import { editionLockSchema, menuPlanSchema } from '@conch/core/menu/schema'
import { formOf, upcast } from '@conch/core/schema'
import { flightDocumentSchema, slotSchema } from '@conch/core/schema/palate'
import { recipeSchema } from '@conch/core/schema/recipe'
import { choiceEndSchema, outDocumentSchema, outEndSchema } from '@conch/core/schema/tonight'
import { roundDocumentSchema, roundEndSchema } from '@conch/core/service/roundSchema'
import {
  tasteNoteSchema,
  tastingDocumentSchema,
  tastingEventSchema,
  tastingSheetSchema,
} from '@conch/core/tasting/tastingSchema'
import { getTableColumns, getTableName } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { z } from 'zod'
import { practices, roundEnds, rounds } from '../database/roundSchema.ts'
import * as t from '../database/schema.ts'
import { outEnds, outs, tonightChoiceEnds, tonightChoices } from '../database/tonightSchema.ts'

export interface CopiedTable {
  name: string
  table: PgTable
  key: PgColumn[]
  /** It only grows: a copy takes what was there when it began. The others are small and read at once. */
  grows: boolean
  /** A row of it as JSON. */
  row: z.ZodType<Record<string, unknown>>
}

const jsonOf: Record<string, z.ZodType> = {
  'house.settings': formOf(settingsSchema),
  'wells.document': formOf(wellSchema.omit({ stations: true })),
  'stations.document': formOf(stationSchema),
  'glasses.document': formOf(glassSchema),
  'ingredients.document': formOf(ingredientSchema),
  'slots.document': formOf(slotSchema),
  'recipes.recipe': formOf(recipeSchema),
  'lots.document': formOf(lotDocumentSchema),
  'lot_events.event': formOf(lotEventSchema),
  'flights.document': formOf(flightDocumentSchema),
  'split_preps.document': formOf(splitPrepDocumentSchema),
  'versions.document': formOf(drinkDocumentSchema),
  'versions.sources': z.array(formOf(versionSourceSchema)),
  'versions.origin': formOf(versionOriginSchema),
  'findings.document': formOf(findingSchema),
  'decisions.document': formOf(decisionDocumentSchema),
  'tastings.document': formOf(tastingDocumentSchema),
  'tasting_sheets.document': formOf(tastingSheetSchema),
  'tasting_events.event': formOf(tastingEventSchema),
  'taste_notes.document': formOf(tasteNoteSchema),
  'menu_plan.plan': formOf(menuPlanSchema),
  'editions.lock': z.preprocess((lock) => upcast('edition-lock', lock), formOf(editionLockSchema)),
  'trials.document': formOf(trialDocumentSchema),
  'trial_events.event': formOf(trialEventSchema),
  'calibrations.document': formOf(calibrationDocumentSchema),
  'outs.document': formOf(outDocumentSchema),
  'out_ends.event': formOf(outEndSchema),
  'tonight_choices.document': formOf(tonightChoiceDocumentSchema),
  'tonight_choice_ends.event': formOf(choiceEndSchema),
  'rounds.document': formOf(roundDocumentSchema),
  'round_ends.event': formOf(roundEndSchema),
  'practices.document': formOf(practiceDocumentSchema),
}

/** What a column of a table holds, as JSON. */
function valueSchema(table: string, name: string, column: PgColumn): z.ZodType {
  const schemas: Record<string, z.ZodType> = {
    string: z.string(),
    number: z.number().int(),
    boolean: z.boolean(),
    date: z.iso.datetime(),
    json: z.json(),
    custom: jsonOf[`${table}.${name}`] ?? z.json(),
  }
  const schema = schemas[column.dataType]
  if (!schema) throw new Error(`bug: a copy does not know columns of “${column.dataType}”`)
  const value = column.notNull ? schema : schema.nullable()
  // A copy of an older step does not have it yet.
  return column.hasDefault || !column.notNull ? value.optional() : value
}

function rowSchema(table: PgTable): z.ZodType<Record<string, unknown>> {
  const name = getTableName(table)
  const columns = Object.entries(getTableColumns(table))
  return z.object(Object.fromEntries(columns.map(([key, c]) => [key, valueSchema(name, key, c as PgColumn)]))).strict()
}

const copied = (table: PgTable, key: PgColumn[], grows = false): CopiedTable => ({
  name: getTableName(table),
  table,
  key,
  grows,
  row: rowSchema(table),
})

export const COPIED: CopiedTable[] = [
  copied(t.people, [t.people.id]),
  copied(t.house, [t.house.id]),
  copied(t.wells, [t.wells.slug]),
  copied(t.stations, [t.stations.id]),
  copied(t.glasses, [t.glasses.slug]),
  copied(t.ingredients, [t.ingredients.slug]),
  copied(t.slots, [t.slots.slug]),
  copied(t.drinks, [t.drinks.slug]),
  copied(t.documentDrafts, [t.documentDrafts.kind, t.documentDrafts.subject]),
  copied(t.menuPlan, [t.menuPlan.id]),
  copied(t.recipes, [t.recipes.ingredient, t.recipes.number], true),
  copied(t.versions, [t.versions.drink, t.versions.number], true),
  copied(
    t.versionParents,
    [t.versionParents.drink, t.versionParents.number, t.versionParents.parentDrink, t.versionParents.parentNumber],
    true,
  ),
  copied(t.findings, [t.findings.id], true),
  copied(t.decisions, [t.decisions.id], true),
  copied(t.tastings, [t.tastings.id], true),
  copied(t.tastingSheets, [t.tastingSheets.id], true),
  copied(t.tastingEvents, [t.tastingEvents.id], true),
  copied(t.tasteNotes, [t.tasteNotes.id], true),
  copied(t.documentDraftsReplaced, [t.documentDraftsReplaced.id], true),
  copied(t.editions, [t.editions.number], true),
  copied(t.lots, [t.lots.id], true),
  copied(t.lotEvents, [t.lotEvents.id], true),
  copied(t.flights, [t.flights.id], true),
  copied(t.splitPreps, [t.splitPreps.id], true),
  copied(t.trials, [t.trials.id], true),
  copied(t.trialEvents, [t.trialEvents.id], true),
  copied(t.calibrations, [t.calibrations.id], true),
  copied(outs, [outs.id], true),
  copied(outEnds, [outEnds.id], true),
  copied(tonightChoices, [tonightChoices.id], true),
  copied(tonightChoiceEnds, [tonightChoiceEnds.id], true),
  copied(rounds, [rounds.id], true),
  copied(roundEnds, [roundEnds.id], true),
  copied(practices, [practices.id], true),
  copied(t.audit, [t.audit.id], true),
  copied(t.events, [t.events.sequence], true),
]

/** Columns that hold moments; in a copy they are ISO text. */
export const momentsOf = (table: PgTable): string[] =>
  Object.entries(getTableColumns(table))
    .filter(([, c]) => c.dataType === 'date')
    .map(([key]) => key)
