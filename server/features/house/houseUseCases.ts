import type { EventKind, House, Person, SetUpHouse } from '@conch/contract'
import { recipeProblems, sealedAsOf, withLetters } from '@conch/core/formula'
import { type Glass, type HouseBook, type Ingredient, type Settings, toSlug, type Well } from '@conch/core/house'
import { settingsSchema } from '@conch/core/house/schema'
import { DEFAULT_KIT } from '@conch/core/measure'
import { type Slot, slotProblems } from '@conch/core/palate'
import { type Actor, stampOf } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, closureOf, type HeldHouse, heldHouse, readHouse } from '../../held/index.ts'
import { findDraft } from '../../stores/drafts.ts'
import { insertHouse, isSetUp, type Saved, saveOnShelf, saveSettings, saveWell } from '../../stores/house.ts'
import { findPerson, insertPerson } from '../../stores/people.ts'
import { endDraft } from '../drafts/index.ts'
import { houseOf } from './getHouse.ts'
import { keepRecipe, latestRecipeNumber } from './recipes.ts'
import { starterGlasses, starterIngredients, starterWell } from './starter.ts'

/** A new house with a starting shelf of generic ingredients, glasses and, at each well, every method. */
export async function setUpHouse(
  request: Omit<SetUpHouse, 'secret'>,
  actor: Actor,
  { db: tx, record, actAs }: Write,
): Promise<House & { you: Person }> {
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
    ...(request.clock ? { clock: request.clock } : {}),
  })
  const book: HouseBook = { settings, wells, glasses: starterGlasses(), ingredients: starterIngredients() }
  if (await isSetUp(tx)) throw new Refusal('exists', 'this house is set up already')
  await insertHouse(tx, book, false)
  // Whoever sets it up is its first manager.
  const you =
    actor.id === undefined
      ? await insertPerson(tx, { name: request.manager, role: 'manager' })
      : await findPerson(tx, actor.id)
  if (!you) throw new Error('bug: a new house has its first manager already')
  actAs(you)
  record({ kind: 'house', subject: request.name, verb: 'setUp', detail: { is: book.settings }, isBeginning: true })
  return { ...houseOf(await readHouse(tx)), you }
}

/** One thing of the house, changed. */
export type Change =
  | { kind: 'settings'; document: Settings }
  | { kind: 'wells'; document: Well }
  | { kind: 'glasses'; document: Glass }
  | { kind: 'ingredients'; document: Ingredient }
  | { kind: 'slots'; document: Slot }

/** What the house keeps by slug. */
export type ShelfKind = Exclude<Change['kind'], 'settings'>

const EVENT_KIND: Record<Change['kind'], EventKind> = {
  settings: 'settings',
  wells: 'well',
  glasses: 'glass',
  ingredients: 'ingredient',
  slots: 'slot',
}

/** What was saved was written as a draft: that draft has done its work. @throws Refusal when it is another one by now */
async function endDraftOf(
  db: Database,
  kind: Change['kind'],
  subject: string,
  revision: number | undefined,
  at: Date,
): Promise<void> {
  if (revision === undefined || (kind !== 'ingredients' && kind !== 'slots')) return
  const draftKind = kind === 'slots' ? 'slot' : 'ingredient'
  const draft = await findDraft(db, draftKind, subject)
  if (draft) await endDraft(db, draftKind, draft, revision, at)
}

/** Of what is sealed every component has a letter, and keeps it. */
function lettered(change: Change, before: HeldHouse): Change {
  if (change.kind !== 'ingredients' || !change.document.isSealed || !change.document.recipe) return change
  const was = before.ingredient(change.document.slug)?.recipe
  return { ...change, document: { ...change.document, recipe: withLetters(change.document.recipe, was) } }
}

/**
 * What others may know of a sealed mix is computed when a manager saves it, and then stays. It never comes from outside.
 */
function sealed(change: Change, held: HeldHouse, actor: Actor): Change {
  if (change.kind !== 'ingredients') return change
  const { sealedAs: _, ...document } = change.document
  if (!document.isSealed || !document.recipe || !mayOpen(actor.role)) return { ...change, document }
  const needs = document.recipe.components.map((c) => c.ingredient)
  const others = [...closureOf(held, needs)].flatMap((slug) => held.ingredient(slug) ?? [])
  const sealedAs = sealedAsOf(document, [...others.filter((i) => i.slug !== document.slug), document], held.onShelf())
  return { ...change, document: { ...document, ...(sealedAs ? { sealedAs } : {}) } }
}

/**
 * Saves one thing of the house on top of the revision it was made from; revision 0 makes it new.
 * @throws Refusal `conflict` with what stands there now, when somebody else saved in between
 */
export async function changeHouse(
  asked: Change,
  {
    revision,
    reason = '',
    draftRevision,
    touches,
  }: {
    revision: number
    reason?: string | undefined
    draftRevision?: number | undefined
    /** What it does, as it was foreseen. */
    touches?: object | undefined
  },
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<{ revision: number }> {
  const held = await heldHouse(tx)
  const before = baseOf(held)
  const change = sealed(lettered(asked, held), held, actor)
  if (change.kind === 'ingredients') {
    assertMayOpen(change.document, held, actor)
    assertRecipe(change.document, held)
  }
  if (change.kind === 'slots') assertSlot(change.document, held)
  const saved = await save(tx, change, revision)
  const subject = change.kind === 'settings' ? 'settings' : change.document.slug
  const was =
    change.kind === 'settings'
      ? before.settings
      : change.kind === 'ingredients'
        ? held.ingredient(change.document.slug)
        : before[change.kind].find((x) => x.slug === change.document.slug)
  if (saved.outcome === 'stale') {
    const detail = revision === 0 ? `“${subject}” is there already` : `“${subject}” was changed in between`
    throw new Refusal(revision === 0 ? 'exists' : 'conflict', `${detail}; load it again and repeat`, {
      current: change.kind === 'ingredients' && was ? { ...was, sealedAs: undefined } : (was ?? null),
    })
  }
  const kept: [string, string, number][] = []
  if (change.kind === 'ingredients' && change.document.recipe) {
    const { slug, recipe } = change.document
    const began = held.ingredient(slug)?.recipe
    const stamp = { reason, ...stampOf(actor, now()) }
    // A mix whose history was never kept begins with what it was until now.
    const numbers = [
      began && (await latestRecipeNumber(tx, slug)) === 0
        ? await keepRecipe(tx, slug, began, { ...stamp, reason: '' })
        : undefined,
      await keepRecipe(tx, slug, recipe, stamp),
    ]
    for (const number of numbers) if (number !== undefined) kept.push(['recipes', slug, number])
  }
  const detail = {
    was: was ?? null,
    is: change.document,
    ...(reason ? { reason } : {}),
    ...(touches ? { touches } : {}),
  }
  record({ kind: EVENT_KIND[change.kind], subject, verb: was === undefined ? 'made' : 'changed', detail, kept })
  await endDraftOf(tx, change.kind, subject, draftRevision, now())
  return { revision: saved.revision }
}

/**
 * What is sealed is changed by managers alone; and only they put it into another mix, or what that
 * refuses would tell what is in it.
 * @throws Refusal `notAllowed`
 */
function assertMayOpen(ingredient: Ingredient, others: HeldHouse, actor: Actor): void {
  if (ingredient.closed)
    throw invalid('document.closed', 'stands for a formula that is not shown; it is never stored. Leave it out')
  if (mayOpen(actor.role)) return
  const was = others.ingredient(ingredient.slug)
  if (was?.isSealed || ingredient.isSealed)
    throw new Refusal('notAllowed', `${was?.name ?? ingredient.name} is sealed; only a manager changes it`)
  const before = new Set(was?.recipe?.components.map((c) => c.ingredient))
  const sealed = ingredient.recipe?.components.find(
    (c) => !before.has(c.ingredient) && others.ingredient(c.ingredient)?.isSealed,
  )
  if (sealed) throw new Refusal('notAllowed', 'only a manager puts something sealed into another mix')
}

/** @throws Refusal naming the bottle or the well that is not there */
function assertSlot(slot: Slot, held: HeldHouse): void {
  const named = [...slot.candidates, ...slot.refused].flatMap((c) => held.ingredient(c.ingredient) ?? [])
  const fields = slotProblems(slot, { ingredients: named, wells: baseOf(held).wells }).map((p) => ({
    field: `document.${p.path.join('.')}`,
    message: p.message,
  }))
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields })
}

/** @throws Refusal naming the loop, or the component that is not there */
function assertRecipe(ingredient: Ingredient, held: HeldHouse): void {
  if (!ingredient.recipe) return
  const parts = closureOf(
    held,
    ingredient.recipe.components.map((c) => c.ingredient),
  )
  const others = [...parts].flatMap((slug) => (slug === ingredient.slug ? [] : (held.ingredient(slug) ?? [])))
  const shelf = [...others, ingredient]
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
