import { allergensOf, type DrinkDocument, glassFor, juiceHoursOf, type Predictions } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import type { KeptGlass } from './keptGlassSchema.ts'

/** Decimals that a kept figure has: more than anybody is shown, fewer than a computer writes. */
const DIGITS = 4
const rounded = (value: number) => Number(value.toFixed(DIGITS))

/** The glass of a well: the drink's own there, else the drink's. */
const glassAt = ({ glass, glassByWell }: DrinkDocument, well: string) => glassByWell?.[well] ?? glass

/**
 * A drink at a well in brief.
 * @param book the part of the house that it needs, for a night; not for a moment of it: hours are counted when it is read
 */
export function keptGlassOf(document: DrinkDocument, book: HouseBook, well: string): KeptGlass {
  const { at: _, ...night } = book
  const glass = glassAt(document, well)
  const brief = {
    name: document.name,
    ...(glass === undefined ? {} : { glass }),
    standard: document.standard,
    serves: document.serves,
  }
  const made = glassFor(document, night, well)
  if (!made.ok)
    return {
      ...brief,
      stations: [],
      predictions: {},
      allergens: [],
      cautions: [],
      pressed: [],
      pours: [],
      problems: made.problems,
    }
  const { drink, result, consequences } = made
  const predictions: Predictions = Object.fromEntries(
    Object.entries(result.predictions).map(([measure, p]) => [
      measure,
      { value: rounded(p.value), low: rounded(p.low), high: rounded(p.high) },
    ]),
  )
  return {
    ...brief,
    stations: [...new Set(drink.stages.flatMap((s) => s.station ?? []))],
    predictions,
    alcoholG: rounded(result.serve.alcoholG),
    allergens: allergensOf(drink),
    cautions: consequences.filter((c) => c.weight !== 'note'),
    pressed: pressedIn(drink.pours, night),
    pours: drink.pours.map((p, i) => ({
      ...(p.ingredient ? { slug: p.ingredient.slug } : {}),
      ...(p.slot ? { slot: document.pours[i]?.slot } : {}),
      name: p.name,
      volumeMl: rounded(p.volumeMl),
    })),
    problems: [],
  }
}

function pressedIn(
  pours: readonly { name: string; ingredient: { slug: string; kind: string } | undefined }[],
  { mixes }: HouseBook,
): KeptGlass['pressed'] {
  const juices = new Map(
    pours.flatMap(({ name, ingredient }): [string, { name: string; madeAt: string }][] => {
      const madeAt = ingredient?.kind === 'juice' ? mixes?.[ingredient.slug]?.lot?.madeAt : undefined
      return ingredient && madeAt !== undefined ? [[ingredient.slug, { name, madeAt }]] : []
    }),
  )
  return [...juices.values()]
}

/** A kept glass at a moment: with a word for each juice that is older than the house pours it. */
export function atMoment(glass: KeptGlass, settings: HouseBook['settings'], at: Date): KeptGlass {
  const old = glass.pressed.flatMap(({ name, madeAt }) => juiceHoursOf(name, madeAt, settings, at.toISOString()) ?? [])
  if (old.length === 0) return glass
  return { ...glass, cautions: [...glass.cautions, ...old] }
}
