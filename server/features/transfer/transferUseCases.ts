import type { FieldProblem, HouseFile } from '@conch/contract'
import { clockOf, dayAfter, nightOf } from '@conch/core/calendar'
import { glassFor } from '@conch/core/drink'
import { createMixer, recipeProblems, resolveHouse } from '@conch/core/formula'
import { bySlug, type HouseBook } from '@conch/core/house'
import { calibrationFrom, standingCalibrations, stationTrials } from '@conch/core/means'
import type { PlannedChapter } from '@conch/core/menu'
import { slotProblems } from '@conch/core/style'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../http/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { recordAudit } from '../audit/store.ts'
import { insertDrink, insertVersion, loadAllVersions, loadDrinkRows } from '../drinks/store.ts'
import { lockOrRefuse, storeEdition } from '../editions/editionUseCases.ts'
import { findEdition, loadEditionSummaries } from '../editions/store.ts'
import { getHouse } from '../house/houseUseCases.ts'
import { insertRecipe, keepRecipe, loadAllRecipes } from '../house/recipes.ts'
import { insertHouse, loadHouse } from '../house/store.ts'
import { writeLot } from '../lots/lotUseCases.ts'
import { insertLot, insertLotEvent, loadNewestLots } from '../lots/store.ts'
import { loadPlanned } from '../menu/menuUseCases.ts'
import { findPlan, writePlan } from '../menu/store.ts'
import { insertSplitPrep, loadAllSplitPreps } from '../sealed/store.ts'
import { insertFlight } from '../tasting/store.ts'
import { insertCalibration, insertTrial, insertTrialEvent, loadCalibrations, loadTrials } from '../trials/store.ts'

/** As many as a house file may hold. */
const MOST_LOTS = 20_000
const MOST_TRIALS = 20_000

/**
 * Brings a whole house in from a file: all of it, or nothing. Only into a data directory without one.
 * @throws Refusal naming every place in the file that is wrong
 */
export async function importHouse(
  file: HouseFile,
  options: { isDemo: boolean; by: string },
  { database, now }: Services,
): Promise<{ drinks: number; versions: number; editions: number }> {
  const { settings, wells, glasses, ingredients, slots } = file
  const kept = { settings, wells, glasses, ingredients, slots }
  const today = nightOf(now(), clockOf(settings))
  assertSound(file, resolveHouse({ ...kept, lots: [] }, today))
  return database.db.transaction(async (tx) => {
    if (await loadHouse(tx))
      throw new Refusal('exists', 'this house is set up already; import into an empty data directory')
    await insertHouse(tx, kept, options.isDemo)
    await insertLots(tx, file.lots, file.ingredients)
    await insertHistory(tx, file, now())
    await insertTrials(tx, file)
    for (const drink of file.drinks) {
      await insertDrink(tx, drink.slug, drink.name)
      for (const { savedAt, ...version } of drink.versions) {
        await insertVersion(tx, { drink: drink.slug, ...version, savedAt: new Date(savedAt) })
      }
    }
    for (const [i, edition] of file.editions.entries()) {
      const { name, note, publishedBy, publishedAt, plan } = edition
      const lock =
        edition.lock ??
        lockOrRefuse(
          await loadPlanned(tx, plan),
          asItWas({ ...kept, calibrations: await calibrationsOn(tx, kept, edition.publishedAt) }, edition),
        )
      await storeEdition(tx, { number: i + 1, name, note, publishedBy, publishedAt: new Date(publishedAt), lock })
    }
    const plan = file.plan ?? file.editions[file.editions.length - 1]?.plan
    if (plan) {
      await loadPlanned(tx, plan)
      await writePlan(tx, plan, 0, { savedBy: options.by, savedAt: now() })
    }
    await recordAudit(tx, { at: now(), by: options.by, act: 'importHouse', subject: file.settings.name, detail: {} })
    const versions = file.drinks.reduce((sum, d) => sum + d.versions.length, 0)
    return { drinks: file.drinks.length, versions, editions: file.editions.length }
  })
}

/** What was tasted, what mixes were made of, and the batches that were dealt. */
async function insertHistory(tx: Database, { flights, recipes, splitPreps, ingredients }: HouseFile, now: Date) {
  for (const { on, by, document } of flights)
    await insertFlight(tx, { tastedOn: on, document, savedBy: by, savedAt: new Date(`${on}T12:00:00Z`) })
  for (const { savedAt, ...recipe } of recipes) await insertRecipe(tx, { ...recipe, savedAt: new Date(savedAt) })
  for (const { slug, recipe } of ingredients)
    if (recipe) await keepRecipe(tx, slug, recipe, { reason: '', savedBy: 'Manager', savedAt: now })
  for (const { savedAt, ...prep } of splitPreps) await insertSplitPrep(tx, { ...prep, savedAt: new Date(savedAt) })
}

/** Trials under new numbers, and calibrations that refer to them; one without its document is fitted here. */
async function insertTrials(tx: Database, file: HouseFile): Promise<void> {
  const idOf = new Map<number, number>()
  for (const { number, well, station, on, by, document, events } of file.trials) {
    const savedAt = new Date(`${on}T12:00:00Z`)
    const id = await insertTrial(tx, { well, station, madeOn: on, document, savedBy: by, savedAt })
    idOf.set(number, id)
    for (const { at, ...event } of events) await insertTrialEvent(tx, { trial: id, at: new Date(at), ...event })
  }
  const all = await loadTrials(tx, MOST_TRIALS)
  for (const [i, { trials: numbers, savedAt, ...calibration }] of file.calibrations.entries()) {
    const trials = numbers.map((n) => idOf.get(n) as number)
    const well = bySlug(file.wells, calibration.well)
    const station = bySlug(well?.stations ?? [], calibration.station)
    let { document } = calibration
    if (!document && well && station) {
      const counted = stationTrials(all, calibration).filter((t) => trials.includes(t.id))
      const made = calibrationFrom(counted, well, station, calibration.ice)
      if (!made.ok) throw invalid(`calibrations.${i}.trials`, made.reason)
      document = made.document
    }
    if (!document) throw invalid(`calibrations.${i}.station`, `there is no station “${calibration.station}” to fit`)
    await insertCalibration(tx, { ...calibration, document: { ...document, trials }, savedAt: new Date(savedAt) })
  }
}

async function insertLots(tx: Database, lots: HouseFile['lots'], ingredients: HouseFile['ingredients']): Promise<void> {
  const mixer = createMixer(ingredients)
  for (const { ingredient: slug, madeOn, madeBy, events, factor, pressed, ...lot } of lots) {
    const ingredient = bySlug(ingredients, slug)
    if (!ingredient) throw new Error('bug: a lot of nothing passed the check')
    const written = writeLot(ingredient, { ingredient: slug, factor, pressed, weighed: [] }, mixer)
    const document = lot.document ?? written.document
    const useBy =
      lot.useBy !== undefined || written.keepsDays === undefined
        ? (lot.useBy ?? null)
        : dayAfter(madeOn, written.keepsDays)
    const savedAt = new Date(`${madeOn}T12:00:00Z`)
    const id = await insertLot(tx, { ingredient: slug, madeOn, useBy, document, savedBy: madeBy, savedAt })
    for (const { at, ...event } of events) await insertLotEvent(tx, { lot: id, at: new Date(at), ...event })
  }
}

/** What stations were known to be like on a day. */
async function calibrationsOn(tx: Database, { wells }: HouseBook, publishedAt: string) {
  const then = (await loadCalibrations(tx)).filter((c) => c.savedAt <= publishedAt)
  return standingCalibrations(then, [], wells)
}

/** The house by its recipes, with the bottles of the day. */
function asItWas(kept: HouseBook, edition: HouseFile['editions'][number]): HouseBook {
  const earlier = new Map(edition.ingredientsThen.map((i) => [i.slug, i]))
  const ingredients = kept.ingredients.map((i) => earlier.get(i.slug) ?? i)
  return resolveHouse({ ...kept, ingredients, lots: [] }, nightOf(new Date(edition.publishedAt), clockOf(kept.settings)))
}

/** Everything that the schema cannot see: doubled slugs, parents and references. */
function assertSound(file: HouseFile, book: HouseBook): void {
  const fields: FieldProblem[] = []
  const noDoubles = (name: 'wells' | 'glasses' | 'ingredients' | 'slots' | 'drinks') => {
    const seen = new Set<string>()
    file[name].forEach(({ slug }, i) => {
      if (seen.has(slug)) fields.push({ field: `${name}.${i}.slug`, message: `“${slug}” is there twice` })
      seen.add(slug)
    })
  }
  noDoubles('wells')
  noDoubles('glasses')
  noDoubles('ingredients')
  noDoubles('slots')
  noDoubles('drinks')
  file.ingredients.forEach(({ slug, recipe }, i) => {
    for (const p of recipe ? recipeProblems(slug, file.ingredients) : [])
      fields.push({ field: `ingredients.${i}.recipe.${p.path.join('.')}`, message: p.message })
  })
  file.slots.forEach((slot, i) => {
    for (const p of slotProblems(slot, file))
      fields.push({ field: `slots.${i}.${p.path.join('.')}`, message: p.message })
  })
  const mustBeThere = (slug: string, field: string) => {
    if (!file.ingredients.some((x) => x.slug === slug))
      fields.push({ field, message: `there is no ingredient “${slug}”` })
  }
  file.flights.forEach(({ document }, i) => {
    for (const [s, { ingredient }] of document.scores.entries())
      mustBeThere(ingredient, `flights.${i}.document.scores.${s}.ingredient`)
  })
  const numbered = new Set<string>()
  file.recipes.forEach(({ ingredient, number }, i) => {
    mustBeThere(ingredient, `recipes.${i}.ingredient`)
    if (numbered.has(`${ingredient} ${number}`))
      fields.push({ field: `recipes.${i}.number`, message: `recipe ${number} of “${ingredient}” is there twice` })
    numbered.add(`${ingredient} ${number}`)
  })
  for (const [i, { ingredient }] of file.splitPreps.entries()) mustBeThere(ingredient, `splitPreps.${i}.ingredient`)
  const trialNumbers = new Set<number>()
  file.trials.forEach(({ number, well }, i) => {
    if (trialNumbers.has(number))
      fields.push({ field: `trials.${i}.number`, message: `trial ${number} is there twice` })
    trialNumbers.add(number)
    if (!bySlug(file.wells, well)) fields.push({ field: `trials.${i}.well`, message: `there is no well “${well}”` })
  })
  file.calibrations.forEach(({ well, trials }, i) => {
    if (!bySlug(file.wells, well))
      fields.push({ field: `calibrations.${i}.well`, message: `there is no well “${well}”` })
    const unknown = trials.find((n) => !trialNumbers.has(n))
    if (unknown !== undefined)
      fields.push({ field: `calibrations.${i}.trials`, message: `there is no trial ${unknown} in this file` })
  })
  file.lots.forEach(({ ingredient }, i) => {
    mustBeThere(ingredient, `lots.${i}.ingredient`)
  })
  file.drinks.forEach((drink, d) => {
    const numbers = new Set<number>()
    drink.versions.forEach((version, v) => {
      const at = `drinks.${d}.versions.${v}`
      if (numbers.has(version.number))
        fields.push({ field: `${at}.number`, message: `version ${version.number} is there twice` })
      if (version.parent !== null && !numbers.has(version.parent)) {
        fields.push({ field: `${at}.parent`, message: `version ${version.parent} does not come before it` })
      }
      numbers.add(version.number)
      const glass = glassFor(version.document, book)
      if (glass.ok) return
      for (const p of glass.problems) fields.push({ field: `${at}.document.${p.path.join('.')}`, message: p.message })
    })
  })
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields: fields.slice(0, 50) })
}

/** The whole house as one file, every lock with it: importing it elsewhere gives the same history. */
export async function exportHouse(db: Database): Promise<HouseFile> {
  const { settings, wells, ingredients, glasses, slots, flights } = await getHouse(db)
  const rows = await loadDrinkRows(db)
  const versions = await loadAllVersions(db)
  const editions: HouseFile['editions'] = []
  for (const { number } of (await loadEditionSummaries(db)).reverse()) {
    const edition = await findEdition(db, number)
    if (!edition) continue
    const { name, note, publishedBy, publishedAt, lock } = edition
    const plan = { chapters: lock.chapters.map((c: EditionChapter) => ({ name: c.name, entries: entriesOf(c) })) }
    editions.push({ name, note, publishedBy, publishedAt, plan, ingredientsThen: [], lock })
  }
  const plan = await findPlan(db)
  return {
    format: 'lazy-conch/house',
    formatVersion: 1,
    settings,
    wells,
    ingredients,
    glasses,
    lots: (await loadNewestLots(db, { most: MOST_LOTS }))
      .reverse()
      .map(({ id: _, name: __, ...lot }) => ({ ...lot, factor: 1 })),
    slots,
    flights: flights.map(({ id: _, ...flight }) => flight),
    recipes: await loadAllRecipes(db),
    splitPreps: await loadAllSplitPreps(db),
    trials: (await loadTrials(db, MOST_TRIALS)).map(({ id, ...trial }) => ({ number: id, ...trial })),
    calibrations: (await loadCalibrations(db)).map(({ id: _, ...c }) => ({ ...c, trials: c.document.trials })),
    drinks: rows.map(({ slug, name }) => ({
      slug,
      name,
      versions: versions.filter((v) => v.drink === slug).map(({ drink: _, ...version }) => version),
    })),
    editions,
    ...(plan ? { plan: plan.plan } : {}),
  }
}

type EditionChapter = { name: string; drinks: PlannedChapter['drinks'] }
const entriesOf = (chapter: EditionChapter) => chapter.drinks.map(({ drink, version }) => ({ drink, version }))
