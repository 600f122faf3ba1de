import type { AddLotEvent, LotPage, lotsQuery, MakeLot } from '@conch/contract'
import { dayAfter, dayText } from '@conch/core/calendar'
import {
  currentLots,
  earliestUseBy,
  lotsWithin,
  type Mixer,
  type MixProblem,
  mixerOfToday,
  SEALED_PROBLEM,
} from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { valuesOf } from '@conch/core/house'
import { liquidFromFigures } from '@conch/core/liquid'
import { brixOf, daysOf, endOf, figuresOf, type Lot, type LotDocument } from '@conch/core/lots'
import type { z } from 'zod'
import { type Actor, stampOf } from '../../access/actor.ts'
import { closeHouse, closeLot, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { heldHouse, partFor } from '../../held/index.ts'
import { findLot, findLots, insertLot, insertLotEvent } from '../../stores/lots.ts'
import { dayAsked } from '../house/index.ts'
import { endOutsOf } from '../tonight/index.ts'
import { findLotPage } from './lotPages.ts'

/** A scale, and what clings to a bowl: more than this above what went in cannot have come out. */
const MOST_GAIN_FRACTION = 0.01
/** A page of the lots, as one who asks may see them. */
export async function listLots(asked: z.output<typeof lotsQuery>, actor: Actor, db: Database): Promise<LotPage> {
  const held = await heldHouse(db)
  const { total, isNear, rows } = await findLotPage(db, held, {
    words: asked.words?.trim() ?? '',
    of: asked.of,
    isOpen: asked.open === 'yes',
    sort: asked.sort,
    isDown: asked.down === 'yes',
    from: asked.from,
    limit: asked.limit,
  })
  const seen = mayOpen(actor.role) ? rows : await closeLots(db, rows)
  return { total, from: asked.from, open: held.openLotCount, isNear, rows: seen }
}

async function closeLots(db: Database, lots: Lot[]): Promise<Lot[]> {
  const held = await heldHouse(db)
  const shelf = held.onShelf()
  return lots.map((lot) => {
    const needs = [lot.ingredient, ...(lot.document.recipe?.components ?? []).map((c) => c.ingredient)]
    return closeLot(lot, closeHouse({ ...partFor(held, needs), lots: [] }, shelf).ingredients)
  })
}

/** One lot as one who asks may see it. @throws Refusal `notFound` */
export async function showLot(db: Database, id: number, actor: Actor): Promise<Lot> {
  const lot = await getLot(db, id)
  return mayOpen(actor.role) ? lot : ((await closeLots(db, [lot]))[0] as Lot)
}

/** Several lots by their numbers, as one who asks may see them; those that are there. */
export async function showLots(db: Database, ids: readonly number[], actor: Actor): Promise<Map<number, Lot>> {
  const lots = await findLots(db, ids)
  const shown = mayOpen(actor.role) ? lots : await closeLots(db, lots)
  return new Map(shown.map((lot) => [lot.id, lot]))
}

/** The whole lot, sealed formula and all: not for an answer. @throws Refusal `notFound` */
export async function getLot(db: Database, id: number): Promise<Lot> {
  const lot = await findLot(db, id)
  if (!lot) throw new Refusal('notFound', `there is no lot ${id}`)
  return lot
}

/**
 * Writes down a lot that was made or pressed: its recipe, weights and theory as they are now, for ever.
 * @throws Refusal naming the field that cannot be
 */
export async function makeLot(request: MakeLot, actor: Actor, write: Write): Promise<Lot> {
  const { db: tx, now, record } = write
  const held = await heldHouse(tx)
  const ingredient = held.ingredient(request.ingredient)
  if (!ingredient) throw invalid('ingredient', `there is no ingredient “${request.ingredient}”`)
  const isClosed = ingredient.isSealed === true && !mayOpen(actor.role)
  if (isClosed && request.weighed.length > 0)
    throw invalid(
      'weighed',
      `${ingredient.name} is sealed; each of two weighs a half by a sheet, and nobody writes it here`,
    )
  const part = partFor(held, [ingredient.slug])
  // Something open that holds something sealed is made of what others may know of that.
  const house = isClosed || mayOpen(actor.role) ? part : closeHouse(part, held.onShelf())
  const at = now()
  const { day: madeOn, today } = dayAsked('madeOn', request.madeOn, house.settings, at)
  const current = currentLots(house.lots, today)
  const mixer = mixerOfToday(house, today)
  const written = writeLot(ingredient, request, mixer)
  const keepsDays = isClosed ? (ingredient.sealedAs?.keepsDays ?? undefined) : written.keepsDays
  const fresh = ingredient.recipe ? mixer.freshMixOf(ingredient.slug) : undefined
  const madeWith = fresh?.ok ? lotsWithin(fresh.mix, current) : []
  const document: LotDocument = {
    ...written.document,
    ...(madeOn === today ? { madeAt: at.toISOString() } : {}),
    ...(madeWith.length > 0 ? { madeWith } : {}),
  }
  const byDays = keepsDays === undefined ? null : dayAfter(madeOn, keepsDays)
  // What is in it would be told by the day that it is good until.
  const byParts =
    ingredient.recipe?.keepsDecision || isClosed ? undefined : earliestUseByOf(ingredient, mixer, current, today)
  const useBy = request.useBy ?? [byDays, byParts].filter((d) => d != null).sort()[0] ?? null
  if (useBy !== null && useBy < madeOn)
    throw invalid('useBy', `${dayText(useBy)} is before the day it was made, ${dayText(madeOn)}`)
  const id = await insertLot(tx, {
    ingredient: ingredient.slug,
    madeOn,
    useBy,
    document,
    ...stampOf(actor, at),
  })
  const kept: [string, number][] = [['lots', id]]
  if (request.measured && Object.keys(request.measured).length > 0) {
    assertPossible(document, request.measured)
    const event = { kind: 'measured' as const, measured: request.measured }
    kept.push(['lot_events', await insertLotEvent(tx, { lot: id, at, by: actor.name, byId: actor.id ?? null, event })])
  }
  const detail = { ingredient: ingredient.slug, madeOn, useBy }
  record({ kind: 'lot', subject: String(id), verb: 'made', detail, kept })
  await endOutsOf(ingredient.slug, actor, write)
  return showLot(tx, id, actor)
}

function earliestUseByOf(
  ingredient: Ingredient,
  mixer: Mixer,
  current: ReadonlyMap<string, Lot>,
  today: string,
): string | undefined {
  if (!ingredient.recipe) return undefined
  const fresh = mixer.freshMixOf(ingredient.slug)
  return fresh.ok ? earliestUseBy(fresh.mix, current, today) : undefined
}

/**
 * What is written down of a lot, and the days that it keeps.
 * @throws Refusal naming the field that cannot be
 */
export function writeLot(
  ingredient: Ingredient,
  request: MakeLot,
  mixer: Mixer,
): { document: LotDocument; keepsDays: number | undefined } {
  return ingredient.recipe ? mixLot(ingredient, request, mixer) : boughtLot(ingredient, request)
}

/** A mix: what was to be weighed in for this size, what was, and what should come out. */
function mixLot(
  ingredient: Ingredient,
  request: MakeLot,
  mixer: Mixer,
): { document: LotDocument; keepsDays: number | undefined } {
  // The theory of a new lot is the recipe's, whatever an older lot of it measured.
  const result = mixer.freshMixOf(ingredient.slug)
  if (!result.ok) throw invalid('ingredient', `${ingredient.name} ${whyNot(ingredient, result.problems)}`)
  const { mix } = result
  const known = new Set(mix.parts.map((p) => p.ingredient.slug))
  request.weighed.forEach((w, i) => {
    if (!known.has(w.ingredient)) throw invalid(`weighed.${i}.ingredient`, `“${w.ingredient}” is not in this recipe`)
  })
  const actual = new Map(request.weighed.map((w) => [w.ingredient, w.actualG]))
  const weighedG = Object.fromEntries(
    mix.parts.map((p) => [p.ingredient.slug, actual.get(p.ingredient.slug) ?? p.massG * request.factor]),
  )
  const made = mixer.freshMixOf(ingredient.slug, weighedG)
  if (!made.ok) throw invalid('weighed', `${ingredient.name} ${whyNot(ingredient, made.problems)}`)
  if (!(made.mix.massG > 0)) throw invalid('weighed', 'nothing was weighed in; at least one weight is more than 0')
  const f = mix.figures
  return {
    keepsDays: mix.keeps.days,
    document: {
      ...(ingredient.recipe ? { recipe: ingredient.recipe } : {}),
      factor: request.factor,
      weighed: mix.parts.map((p) => ({
        ingredient: p.ingredient.slug,
        name: p.name,
        plannedG: p.massG * request.factor,
        actualG: actual.get(p.ingredient.slug) ?? null,
      })),
      made: made.mix.liquid,
      theory: {
        massG: mix.massG * request.factor,
        volumeMl: mix.volumeMl * request.factor,
        brix: mix.brix,
        abvPct: f.abvPct,
        sugarGPer100Ml: f.sugarGPer100Ml,
        acidGPer100Ml: f.acidGPer100Ml,
      },
      allergens: mix.allergens.map((a) => a.allergen),
      ...(request.note ? { note: request.note } : {}),
    },
  }
}

const whyNot = (ingredient: Ingredient, problems: readonly MixProblem[]): string =>
  ingredient.isSealed ? SEALED_PROBLEM : (problems[0]?.message ?? 'cannot be computed')

/** Juice that was pressed, or a bottle that was opened and measured. */
function boughtLot(ingredient: Ingredient, request: MakeLot): { document: LotDocument; keepsDays: number | undefined } {
  if (request.weighed.length > 0) throw invalid('weighed', `${ingredient.name} has no recipe to weigh`)
  const figures = valuesOf(ingredient)
  const made = liquidFromFigures(100, figures)
  const { abvPct, sugarGPer100Ml, acidGPer100Ml } = made.ok ? figuresOf(made.liquid) : figures
  return {
    keepsDays: daysOf(ingredient),
    document: {
      weighed: [],
      ...(request.pressed ? { pressed: request.pressed } : {}),
      theory: {
        massG: 0,
        volumeMl: 0,
        brix: made.ok ? brixOf(made.liquid) : 0,
        abvPct,
        sugarGPer100Ml,
        acidGPer100Ml,
      },
      allergens: ingredient.allergens,
      ...(request.note ? { note: request.note } : {}),
    },
  }
}

/** @throws Refusal when more came out than went in */
function assertPossible(document: LotDocument, measured: { massG?: number | undefined }): void {
  if (measured.massG === undefined || document.weighed.length === 0) return
  const inG = document.weighed.reduce((sum, w) => sum + (w.actualG ?? w.plannedG), 0)
  if (measured.massG > inG * (1 + MOST_GAIN_FRACTION)) {
    const message = `${measured.massG} g came out of ${inG.toFixed(0)} g; at most what went in. Was the bowl tared?`
    throw invalid('measured.massG', message)
  }
}

/** Adds what happened to a lot. @throws Refusal when it is gone already */
export async function addLotEvent(
  id: number,
  { event }: AddLotEvent,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<Lot> {
  const lot = await getLot(tx, id)
  const at = now()
  const end = endOf(lot)
  if (end && event.kind !== 'reopened') {
    const words = end === 'discarded' ? 'discarded' : 'used up'
    throw new Refusal('immutable', `lot ${id} was ${words}; take that back first, or make a new one`)
  }
  if (!end && event.kind === 'reopened') throw new Refusal('invalid', `lot ${id} is there; nothing is to be taken back`)
  if (event.kind === 'measured') {
    if (Object.keys(event.measured).length === 0) throw invalid('event.measured', 'has no reading; give one or more')
    assertPossible(lot.document, event.measured)
  }
  const row = await insertLotEvent(tx, { lot: id, at, by: actor.name, byId: actor.id ?? null, event })
  record({ kind: 'lot', subject: String(id), verb: event.kind, detail: { event }, kept: [['lot_events', row]] })
  return showLot(tx, id, actor)
}
