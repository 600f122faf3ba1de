import type { FieldProblem, HouseFile } from '@conch/contract'
import { clockOf, dayAfter, nightOf } from '@conch/core/calendar'
import { createMixer, resolveHouse, sealedAsOf } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { bySlug, type HouseBook } from '@conch/core/house'
import { circleIn, type Finding } from '@conch/core/lineage'
import { calibrationFrom, standingCalibrations, stationTrials } from '@conch/core/trials'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import { hashOf } from '../../events/hash.ts'
import type { Write } from '../../events/index.ts'
import { insertDecision } from '../../stores/decisions.ts'
import { insertDrink, insertParents, insertVersion } from '../../stores/drinks.ts'
import { insertEdition } from '../../stores/editions.ts'
import { insertFinding } from '../../stores/findings.ts'
import { insertFlight } from '../../stores/flights.ts'
import { insertHouse, isSetUp } from '../../stores/house.ts'
import { insertLot, insertLotEvent } from '../../stores/lots.ts'
import { writePlan } from '../../stores/menu.ts'
import { insertNote } from '../../stores/notes.ts'
import { insertPerson, peopleNamed } from '../../stores/people.ts'
import { insertRecipe } from '../../stores/recipes.ts'
import { insertSplitPrep } from '../../stores/sealed.ts'
import { insertEnd, insertSheet, insertTasting } from '../../stores/tastings.ts'
import { insertCalibration, insertTrial, insertTrialEvent, loadCalibrations, loadTrials } from '../../stores/trials.ts'
import { lockOrRefuse, writeLock } from '../editions/index.ts'
import { keepRecipe } from '../house/index.ts'
import { writeLot } from '../lots/index.ts'
import { loadPlanned } from '../menu/index.ts'

/** More trials than any house file holds. */
const MOST_TRIALS = 1_000_000

/** What a name of the file stands for in a row of history. */
type By = (name: string) => { savedBy: string; savedById: number | null }

export interface CameIn {
  drinks: number
  versions: number
  editions: number
}

/**
 * Brings a whole house in from one file: all of it, or nothing, and only where there is none. Its history comes
 * in as it was: form and references are looked at, not whether today's rules would allow it. What a file leaves
 * out (a lock, a lot's composition, a calibration) is computed from what it says.
 * @throws Refusal naming every place in the file that is wrong
 */
export async function importHouseFile(
  file: HouseFile,
  { isDemo }: { isDemo: boolean },
  { db, now, record }: Write,
): Promise<CameIn> {
  const { settings, wells, glasses, slots } = file
  const ingredients = withWhatOthersKnow(file.ingredients)
  const kept = { settings, wells, glasses, ingredients, slots }
  assertSound(file)
  if (await isSetUp(db)) throw new Refusal('exists', 'this house is set up already; import into an empty one')
  const by = await bringPeople(db, file)
  await insertHouse(db, kept, isDemo)
  await insertLots(db, file, by)
  await insertHistory(db, file, by, now())
  await insertTrials(db, file, by)
  await insertDrinks(db, file, by)
  await insertDecisions(db, file, by, await insertTastings(db, file, by))
  for (const [i, edition] of file.editions.entries()) {
    const { name, note, publishedBy, publishedAt } = edition
    const lock = edition.lock ? writeLock(edition.lock) : await lockAsItWas(db, kept, edition)
    const { savedById: publishedById } = by(publishedBy)
    const stamp = { publishedBy, publishedById, publishedAt: new Date(publishedAt) }
    await insertEdition(db, { number: i + 1, name, note, ...stamp, lock })
  }
  const plan = file.plan ?? file.editions[file.editions.length - 1]?.plan
  if (plan) {
    await loadPlanned(db, plan)
    await writePlan(db, plan, 0, { ...by(file.people[0]?.name ?? 'Manager'), savedAt: now() })
  }
  record({ kind: 'house', subject: settings.name, verb: 'imported', detail: { is: settings }, isBeginning: true })
  const versions = file.drinks.reduce((sum, d) => sum + d.versions.length, 0)
  return { drinks: file.drinks.length, versions, editions: file.editions.length }
}

/** Sealed mixes with what others may know of them, computed as they come in. */
function withWhatOthersKnow(ingredients: readonly Ingredient[]): Ingredient[] {
  const shelf = ingredients.map(({ slug, allergens }, position) => ({ slug, allergens, position }))
  return ingredients.map((i) => {
    const sealedAs = i.isSealed && i.recipe && !i.sealedAs ? sealedAsOf(i, ingredients, shelf) : undefined
    return sealedAs ? { ...i, sealedAs } : i
  })
}

/** Everybody whom the file names, as a person; without a manager among them nobody could go on. */
async function bringPeople(db: Database, file: HouseFile): Promise<By> {
  for (const person of file.people) await insertPerson(db, person)
  const names = [
    ...(file.people.some((p) => p.role === 'manager') ? [] : ['Manager']),
    ...file.drinks.flatMap((d) => d.versions.flatMap((v) => [v.savedBy, ...v.findings.map((f) => f.by)])),
    ...file.drinks.flatMap((d) => d.decisions.map((x) => x.by)),
    ...file.drinks.flatMap((d) => d.versions.flatMap((v) => v.notes.map((n) => n.by))),
    ...file.tastings.map((t) => t.maker),
    ...file.lots.flatMap((l) => [l.madeBy, ...l.events.map((e) => e.by)]),
    ...file.flights.map((f) => f.by),
    ...file.trials.flatMap((t) => [t.by, ...t.events.map((e) => e.by)]),
    ...[...file.recipes, ...file.splitPreps, ...file.calibrations].map((x) => x.savedBy),
    ...file.editions.map((e) => e.publishedBy),
  ]
  const ids = await peopleNamed(db, names)
  return (name) => ({ savedBy: name, savedById: ids.get(name) ?? null })
}

async function insertDrinks(db: Database, { drinks }: HouseFile, by: By): Promise<void> {
  const all = drinks.flatMap((d) => d.versions.map((v) => ({ ...v, drink: d.slug })))
  for (const { slug, name } of drinks) await insertDrink(db, { slug, name })
  for (const { savedAt, savedBy, parents: _, findings: __, notes: ___, ...version } of all)
    await insertVersion(db, { ...version, ...by(savedBy), savedAt: new Date(savedAt) })
  // Of other drinks, too: when all versions are there.
  for (const { drink, number, parent, parents } of all)
    await insertParents(db, { drink, number }, [...(parent === null ? [] : [{ drink, version: parent }]), ...parents])
  for (const { drink, number, notes } of all)
    for (const { on, by: hand, ...said } of notes) {
      const document = { kind: 'note' as const, ...said, lots: [], stations: [] }
      await insertNote(db, { drink, number, document, ...by(hand), savedAt: noonOf(on) })
    }
  for (const { drink, number, findings } of all)
    for (const { on, by: hand, ...said } of findings) {
      const say = (document: Finding) =>
        insertFinding(db, { drink, number, document, ...by(hand), savedAt: noonOf(on) })
      if ('source' in said) await say({ kind: 'source', source: said.source })
      else if ('from' in said) await say({ kind: 'from', from: said.from })
      else {
        const question = await say({ kind: 'question', asks: said.asks })
        if (said.answer !== undefined) await say({ kind: 'answer', question, says: said.answer })
      }
    }
}

/** Closed tastings; nobody drew their orders: everybody tasted in a round. @returns their new numbers, in the file's order */
async function insertTastings(db: Database, { tastings }: HouseFile, by: By): Promise<number[]> {
  const ids: number[] = []
  for (const { madeAt, closedAt, maker, codes, sheets, ...said } of tastings) {
    const key = { codes, salt: '' }
    const orders = said.tasters.map((_, t) => codes.map((__, i) => codes[(i + t) % codes.length] as string))
    const { savedById: makerId } = by(maker)
    const document = { ...said, maker, makerId, orders, keyHash: hashOf(key) }
    const id = await insertTasting(db, { document, ...by(maker), savedAt: new Date(madeAt) }, key)
    for (const sheet of sheets)
      await insertSheet(db, { tasting: id, document: sheet, ...by(sheet.taster), savedAt: new Date(closedAt) })
    const event = { kind: 'closed' as const, key }
    await insertEnd(db, { tasting: id, at: new Date(closedAt), by: maker, byId: makerId, event })
    ids.push(id)
  }
  return ids
}

async function insertDecisions(
  db: Database,
  { drinks }: HouseFile,
  by: By,
  tastings: readonly number[],
): Promise<void> {
  for (const { slug, decisions } of drinks)
    for (const { at, by: hand, version, document } of decisions) {
      const { tasting: place, ...said } = document
      const tasting = place === undefined ? undefined : tastings[place - 1]
      const whole = { byWell: {}, changed: '', ...said, ...(tasting === undefined ? {} : { tasting }) }
      await insertDecision(db, { drink: slug, number: version, document: whole, ...by(hand), savedAt: new Date(at) })
    }
}

/** A day's noon: for what a file knows only the day of. */
const noonOf = (day: string) => new Date(`${day}T12:00:00Z`)

/** What was tasted, what mixes were made of, and the batches that were dealt. */
async function insertHistory(db: Database, file: HouseFile, by: By, now: Date): Promise<void> {
  for (const { on, by: taster, document } of file.flights)
    await insertFlight(db, { tastedOn: on, document, ...by(taster), savedAt: noonOf(on) })
  for (const { savedAt, savedBy, ...recipe } of file.recipes)
    await insertRecipe(db, { ...recipe, ...by(savedBy), savedAt: new Date(savedAt) })
  for (const { slug, recipe } of file.ingredients)
    if (recipe) await keepRecipe(db, slug, recipe, { reason: '', ...by('Manager'), savedAt: now })
  for (const { savedAt, savedBy, ...prep } of file.splitPreps)
    await insertSplitPrep(db, { ...prep, ...by(savedBy), savedAt: new Date(savedAt) })
}

/** Trials under new numbers, and calibrations that refer to them; one without its document is fitted here. */
async function insertTrials(db: Database, file: HouseFile, by: By): Promise<void> {
  const idOf = new Map<number, number>()
  for (const { number, well, station, on, by: hand, document, events } of file.trials) {
    const id = await insertTrial(db, { well, station, madeOn: on, document, ...by(hand), savedAt: noonOf(on) })
    idOf.set(number, id)
    for (const e of events)
      await insertTrialEvent(db, { ...e, trial: id, at: new Date(e.at), byId: by(e.by).savedById })
  }
  const all = await loadTrials(db, MOST_TRIALS)
  for (const [i, { trials: numbers, savedAt, savedBy, ...calibration }] of file.calibrations.entries()) {
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
    const row = { ...calibration, document: { ...document, trials }, ...by(savedBy), savedAt: new Date(savedAt) }
    await insertCalibration(db, row)
  }
}

async function insertLots(db: Database, { lots, ingredients }: HouseFile, by: By): Promise<void> {
  const mixer = createMixer(ingredients)
  for (const { ingredient: slug, madeOn, madeBy, events, factor, pressed, ...lot } of lots) {
    const ingredient = bySlug(ingredients, slug)
    if (!ingredient) throw new Error('bug: a lot of nothing passed the check')
    // What was written down stays as it was written; only what the file leaves out follows from the recipe.
    const written =
      lot.document && lot.useBy !== undefined
        ? undefined
        : writeLot(ingredient, { ingredient: slug, factor, pressed, weighed: [] }, mixer)
    const document = lot.document ?? written?.document
    if (!document) throw new Error('bug: a lot without a document was not written')
    const byDays = written?.keepsDays === undefined ? null : dayAfter(madeOn, written.keepsDays)
    const useBy = lot.useBy === undefined ? byDays : lot.useBy
    const id = await insertLot(db, {
      ingredient: slug,
      madeOn,
      useBy,
      document,
      ...by(madeBy),
      savedAt: noonOf(madeOn),
    })
    for (const e of events) await insertLotEvent(db, { ...e, lot: id, at: new Date(e.at), byId: by(e.by).savedById })
  }
}

type FileEdition = HouseFile['editions'][number]

/** The lock of an edition that the file gives only the plan of: the house by its recipes, with what was known that day. */
async function lockAsItWas(db: Database, kept: HouseBook, edition: FileEdition) {
  const { plan, publishedAt, ingredientsThen } = edition
  const then = (await loadCalibrations(db)).filter((c) => c.savedAt <= publishedAt)
  const earlier = new Map(ingredientsThen.map((i) => [i.slug, i]))
  const ingredients = kept.ingredients.map((i) => earlier.get(i.slug) ?? i)
  const calibrations = standingCalibrations(then, [], kept.wells)
  const day = nightOf(new Date(publishedAt), clockOf(kept.settings))
  return lockOrRefuse(await loadPlanned(db, plan), resolveHouse({ ...kept, ingredients, calibrations, lots: [] }, day))
}

/** What the form cannot see: doubled slugs and numbers, and references to what is not in the file. */
function assertSound(file: HouseFile): void {
  const fields: FieldProblem[] = []
  const say = (field: string, message: string) => fields.push({ field, message })
  const noDoubles = (name: 'wells' | 'glasses' | 'ingredients' | 'slots' | 'drinks') => {
    const seen = new Set<string>()
    file[name].forEach(({ slug }, i) => {
      if (seen.has(slug)) say(`${name}.${i}.slug`, `“${slug}” is there twice`)
      seen.add(slug)
    })
    return seen
  }
  const wells = noDoubles('wells')
  noDoubles('glasses')
  const ingredients = noDoubles('ingredients')
  noDoubles('slots')
  noDoubles('drinks')
  const mustBeThere = (slug: string, field: string) => {
    if (!ingredients.has(slug)) say(field, `there is no ingredient “${slug}”`)
  }
  file.ingredients.forEach(({ recipe }, i) => {
    for (const [c, { ingredient }] of (recipe?.components ?? []).entries())
      mustBeThere(ingredient, `ingredients.${i}.recipe.components.${c}.ingredient`)
  })
  file.slots.forEach(({ candidates }, i) => {
    for (const [c, { ingredient }] of candidates.entries())
      mustBeThere(ingredient, `slots.${i}.candidates.${c}.ingredient`)
  })
  file.flights.forEach(({ document }, i) => {
    for (const [s, { ingredient }] of document.scores.entries())
      mustBeThere(ingredient, `flights.${i}.document.scores.${s}.ingredient`)
  })
  const numbered = new Set<string>()
  file.recipes.forEach(({ ingredient, number }, i) => {
    mustBeThere(ingredient, `recipes.${i}.ingredient`)
    if (numbered.has(`${ingredient} ${number}`))
      say(`recipes.${i}.number`, `recipe ${number} of “${ingredient}” is there twice`)
    numbered.add(`${ingredient} ${number}`)
  })
  for (const [i, { ingredient }] of file.splitPreps.entries()) mustBeThere(ingredient, `splitPreps.${i}.ingredient`)
  for (const [i, { ingredient }] of file.lots.entries()) mustBeThere(ingredient, `lots.${i}.ingredient`)
  trialProblems(file, wells, say)
  lineageProblems(file, say)
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields: fields.slice(0, 50) })
}

function lineageProblems({ drinks, tastings }: HouseFile, say: (field: string, message: string) => void): void {
  const parentsOf = new Map<string, string[]>()
  const keyOf = (drink: string, version: number) => `${drink} v${version}`
  drinks.forEach((drink, d) => {
    const numbers = new Set<number>()
    drink.versions.forEach(({ number, parent, parents, findings }, v) => {
      const at = `drinks.${d}.versions.${v}`
      if (numbers.has(number)) say(`${at}.number`, `version ${number} is there twice`)
      if (parent !== null && !numbers.has(parent)) say(`${at}.parent`, `version ${parent} does not come before it`)
      numbers.add(number)
      const found = findings.flatMap((f) => ('from' in f ? [f.from] : []))
      const also = [...parents, ...found].map((p) => keyOf(p.drink, p.version))
      parentsOf.set(keyOf(drink.slug, number), parent === null ? also : [keyOf(drink.slug, parent), ...also])
    })
  })
  drinks.forEach((drink, d) => {
    for (const [i, { version, document }] of drink.decisions.entries()) {
      if (document.tasting !== undefined && !tastings[document.tasting - 1])
        say(`drinks.${d}.decisions.${i}.document.tasting`, `there is no tasting ${document.tasting} in this file`)
      if (!drink.versions.some((v) => v.number === version))
        say(`drinks.${d}.decisions.${i}.version`, `there is no version ${version} of “${drink.slug}” in this file`)
    }
    drink.versions.forEach(({ parent, parents, findings }, v) => {
      findings.forEach((f, i) => {
        if ('from' in f && !parentsOf.has(keyOf(f.from.drink, f.from.version)))
          say(
            `drinks.${d}.versions.${v}.findings.${i}.from`,
            `there is no version ${f.from.version} of “${f.from.drink}”`,
          )
      })
      const seen = new Set(parent === null ? [] : [keyOf(drink.slug, parent)])
      for (const [i, p] of parents.entries()) {
        const at = `drinks.${d}.versions.${v}.parents.${i}`
        const key = keyOf(p.drink, p.version)
        if (!parentsOf.has(key)) say(at, `there is no version ${p.version} of “${p.drink}” in this file`)
        if (seen.has(key)) say(at, `version ${p.version} of “${p.drink}” is its parent twice`)
        seen.add(key)
      }
    })
  })
  tastings.forEach(({ subjects, codes }, t) => {
    if (codes.length !== subjects.length)
      say(`tastings.${t}.codes`, `are ${codes.length}, of ${subjects.length} subjects`)
    for (const [i, p] of subjects.entries())
      if (!parentsOf.has(keyOf(p.drink, p.version)))
        say(`tastings.${t}.subjects.${i}`, `there is no version ${p.version} of “${p.drink}” in this file`)
  })
  const circle = circleIn(parentsOf)
  if (circle) say('drinks', `parents go in a circle: ${circle.join(' comes from ')}`)
}

function trialProblems(
  file: HouseFile,
  wells: ReadonlySet<string>,
  say: (field: string, message: string) => void,
): void {
  const numbers = new Set<number>()
  file.trials.forEach(({ number, well }, i) => {
    if (numbers.has(number)) say(`trials.${i}.number`, `trial ${number} is there twice`)
    numbers.add(number)
    if (!wells.has(well)) say(`trials.${i}.well`, `there is no well “${well}”`)
  })
  file.calibrations.forEach(({ well, trials }, i) => {
    if (!wells.has(well)) say(`calibrations.${i}.well`, `there is no well “${well}”`)
    const unknown = trials.find((n) => !numbers.has(n))
    if (unknown !== undefined) say(`calibrations.${i}.trials`, `there is no trial ${unknown} in this file`)
  })
}
