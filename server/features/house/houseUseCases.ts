import type { House, SetUpHouse } from '@conch/contract'
import { recipeProblems } from '@conch/core/formula'
import { type Glass, type HouseBook, type Ingredient, type Settings, toSlug, type Well } from '@conch/core/house'
import { settingsSchema } from '@conch/core/house/schema'
import { DEFAULT_KIT } from '@conch/core/measure'
import type { Actor } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../http/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { recordAudit } from '../audit/store.ts'
import { starterGlasses, starterIngredients, starterWell } from './starter.ts'
import { insertHouse, loadHouse, type Saved, saveOnShelf, saveSettings, saveWell } from './store.ts'

/** The house. @throws Refusal `notSetUp` */
export async function getHouse(db: Database): Promise<House> {
  const found = await loadHouse(db)
  if (!found) throw new Refusal('notSetUp', 'set up the house first: its name, its ounce and its wells')
  return found
}

/** A new house with a starting shelf of generic ingredients, glasses and, at each well, every method. */
export async function setUpHouse(request: SetUpHouse, actor: Actor, { database, now }: Services): Promise<House> {
  const wells = request.wells.map((name, i) => starterWell(toSlug(name) || `well-${i + 1}`, name))
  const twice = wells.findIndex((w, i) => wells.some((other, j) => j < i && other.slug === w.slug))
  if (twice >= 0) {
    const message = `“${request.wells[twice]}” is there twice; each well needs its own name`
    throw new Refusal('invalid', `wells.${twice}: ${message}`, { fields: [{ field: `wells.${twice}`, message }] })
  }
  const settings = settingsSchema.parse({
    name: request.name,
    kit: { ...DEFAULT_KIT, ounceMl: request.ounceMl },
    standardDrinkG: request.standardDrinkG,
  })
  const book: HouseBook = { settings, wells, glasses: starterGlasses(), ingredients: starterIngredients() }
  return database.db.transaction(async (tx) => {
    if (await loadHouse(tx)) throw new Refusal('exists', 'this house is set up already')
    await insertHouse(tx, book, false)
    await recordAudit(tx, { at: now(), by: actor.name, act: 'setUpHouse', subject: request.name, detail: {} })
    return getHouse(tx)
  })
}

/** One thing of the house, changed. */
export type Change =
  | { kind: 'settings'; document: Settings }
  | { kind: 'wells'; document: Well }
  | { kind: 'glasses'; document: Glass }
  | { kind: 'ingredients'; document: Ingredient }

/** What the house keeps by slug. */
export type ShelfKind = Exclude<Change['kind'], 'settings'>

/**
 * Saves one thing of the house on top of the revision it was made from; revision 0 makes it new.
 * @throws Refusal `conflict` with what stands there now, when somebody else saved in between
 */
export async function changeHouse(
  change: Change,
  revision: number,
  actor: Actor,
  { database, now }: Services,
): Promise<{ revision: number }> {
  return database.db.transaction(async (tx) => {
    const before = await getHouse(tx)
    if (change.kind === 'ingredients') assertRecipe(change.document, before.ingredients)
    const saved = await save(tx, change, revision)
    const subject = change.kind === 'settings' ? 'settings' : change.document.slug
    const was =
      change.kind === 'settings' ? before.settings : before[change.kind].find((x) => x.slug === change.document.slug)
    if (saved.outcome === 'stale') {
      const detail = revision === 0 ? `“${subject}” is there already` : `“${subject}” was changed in between`
      throw new Refusal(revision === 0 ? 'exists' : 'conflict', `${detail}; load it again and repeat`, {
        current: was ?? null,
      })
    }
    const detail = { was: was ?? null, is: change.document }
    await recordAudit(tx, { at: now(), by: actor.name, act: `change ${change.kind}`, subject, detail })
    return { revision: saved.revision }
  })
}

/** @throws Refusal naming the loop, or the component that is not there */
function assertRecipe(ingredient: Ingredient, others: readonly Ingredient[]): void {
  if (!ingredient.recipe) return
  const shelf = [...others.filter((i) => i.slug !== ingredient.slug), ingredient]
  const fields = recipeProblems(ingredient.slug, shelf).map((p) => ({
    field: `document.recipe.${p.path.join('.')}`,
    message: p.message,
  }))
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields })
}

function save(db: Database, change: Change, revision: number): Promise<Saved> {
  switch (change.kind) {
    case 'settings':
      return saveSettings(db, change.document, revision)
    case 'wells':
      return saveWell(db, change.document, revision)
    default:
      return saveOnShelf(db, change.kind, change.document, revision)
  }
}
