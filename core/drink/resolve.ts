import { type IcePortion, METHODS } from '../cold/index.ts'
import {
  bySlug,
  type Figure,
  type Glass,
  type HouseBook,
  type Ingredient,
  isThereAt,
  isWeighed,
  nameApart,
  temperatureCIn,
  valuesOf,
  type Well,
} from '../house/index.ts'
import { type Liquid, liquidFromFigures } from '../liquid/index.ts'
import { UNITS, volumeMlOfAmount } from '../measure/index.ts'
import { resolveSlot } from '../palate/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { missing, type Problem } from './problem.ts'
import { type ResolvedStage, resolveStage } from './resolveStage.ts'
import type { DrinkDocument, PourLine } from './schema.ts'

export interface ResolvedPour {
  name: string
  /** The house's entry, when it is one. */
  ingredient: Ingredient | undefined
  /** The slot that it fills, and what the pick was when that is not there. */
  slot: { name: string; insteadOf: Ingredient | undefined; isOut: boolean } | undefined
  into: PourLine['into']
  volumeMl: number
  temperatureC: number
  liquid: Liquid
  /** Figures of this pour that nobody measured or read off a label. */
  assumed: string[]
  /** Figures of this pour that nobody knows at all. */
  unknown: string[]
}

export interface ResolvedDrink {
  name: string
  serves: number
  well: Well | undefined
  roomTemperatureC: number
  handOverS: number
  /** Given by the document, or undefined: from where each thing is kept. */
  startTemperatureC: number | undefined
  pours: ResolvedPour[]
  stages: ResolvedStage[]
  glass: Pick<Glass, 'profile' | 'heatCapacityJPerK' | 'name' | 'stemMm' | 'isOpaque'> | undefined
  glassTemperatureC: number
  serveIce: readonly IcePortion[]
  ice: Well['ice']
}

export type Resolution = { ok: true; drink: ResolvedDrink } | { ok: false; problems: Problem[] }

/** The largest pour that is believed, ml. */
export const MOST_POUR_ML = 1000

const NEUTRAL_ROOM_C = 20
const FIGURE_WORDS = { abvPct: 'strength', sugarGPer100Ml: 'sugar', acidGPer100Ml: 'acid' } as const

/**
 * A drink document on a well of a house: every reference looked up, every amount in ml, every
 * stage with all its parameters and where each came from. All problems are reported at once.
 * @param wellSlug the well to pour at; default the document's, else the house's first
 */
export function resolveDrink(document: DrinkDocument, book: HouseBook, wellSlug?: string): Resolution {
  const problems: Problem[] = []
  const wanted = wellSlug ?? document.well
  const well = wanted === undefined ? book.wells[0] : bySlug(book.wells, wanted)
  if (wanted !== undefined && !well) {
    problems.push({ path: ['well'], message: missing('well', wanted, book.wells) })
  }
  const roomTemperatureC = well?.roomTemperatureC ?? NEUTRAL_ROOM_C
  const pours = document.pours.map((line, i) =>
    resolvePour(line, i, document, book, well?.slug, roomTemperatureC, problems),
  )
  const stages = document.stages.map((stage, i) => resolveStage(stage, i, well, book, roomTemperatureC, problems))
  const { glass, glassTemperatureC } = resolveGlass(document, book, well, roomTemperatureC, problems)
  if (problems.length > 0) return { ok: false, problems }
  return {
    ok: true,
    drink: {
      name: document.name,
      serves: document.serves,
      well,
      roomTemperatureC,
      handOverS: well?.handOverS ?? 0,
      startTemperatureC: document.startTemperatureC,
      pours: pours as ResolvedPour[],
      stages: stages as ResolvedStage[],
      glass,
      glassTemperatureC,
      serveIce: (well && document.serveIceByWell?.[well.slug]) ?? document.serveIce,
      ice: well?.ice ?? {},
    },
  }
}

function resolvePour(
  line: PourLine,
  index: number,
  document: DrinkDocument,
  book: HouseBook,
  wellSlug: string | undefined,
  roomTemperatureC: number,
  problems: Problem[],
): ResolvedPour | undefined {
  const at = (...rest: (string | number)[]) => ['pours', index, ...rest]
  const volumeMl = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, book.settings.kit, document.partMl))
  if (volumeMl === undefined) {
    problems.push({ path: at('amount'), message: 'is in parts; say how large a part is (partMl)' })
    return undefined
  }
  if (volumeMl > MOST_POUR_ML) {
    const { value, unit } = line.amount ?? { value: volumeMl, unit: 'ml' as const }
    const written = `${value} ${UNITS[unit].label} is ${Math.round(volumeMl)} ml`
    problems.push({
      path: at('amount', 'value'),
      message: `${written}; a pour is more than 0 and at most ${MOST_POUR_ML} ml`,
    })
    return undefined
  }
  const slot = bySlug(book.slots ?? [], line.slot)
  if (line.slot !== undefined && !slot) {
    problems.push({ path: at('slot'), message: missing('slot', line.slot, book.slots ?? []) })
    return undefined
  }
  const inSlot = slot && resolveSlot(slot, book, wellSlug)
  if (slot && !inSlot) {
    problems.push({ path: at('slot'), message: `nothing that the slot ${slot.name} names is on the back bar` })
    return undefined
  }
  const ingredient = inSlot?.ingredient ?? bySlug(book.ingredients, line.ingredient)
  if (line.ingredient !== undefined && !ingredient) {
    problems.push({ path: at('ingredient'), message: missing('ingredient', line.ingredient, book.ingredients) })
    return undefined
  }
  if (ingredient && isWeighed(ingredient.kind)) {
    problems.push({ path: at('ingredient'), message: `${ingredient.name} is weighed, not poured; make a mix of it` })
    return undefined
  }
  if (ingredient?.recipe && isDry(ingredient)) {
    problems.push({ path: at('ingredient'), message: `${ingredient.name} is dry; make a mix of it with water` })
    return undefined
  }
  const figures = ingredient ? valuesOf(ingredient) : line.figures
  if (!figures) throw new Error('bug: a pour without ingredient and figures passed the schema')
  const made = liquidFromFigures(volumeMl, figures)
  if (!made.ok) {
    problems.push({ path: at(ingredient ? 'ingredient' : 'figures'), message: made.reason })
    return undefined
  }
  return {
    name: (ingredient && nameApart(ingredient, book.ingredients)) ?? line.figures?.name ?? `pour ${index + 1}`,
    // Whoever reads what is poured hears that it is not there at this well.
    ingredient: ingredient && !isThereAt(ingredient, book, wellSlug) ? gone(ingredient) : ingredient,
    slot: slot && inSlot && { name: slot.name, insteadOf: inSlot.insteadOf, isOut: inSlot.isOut },
    into: line.into,
    volumeMl,
    temperatureC: line.temperatureC ?? temperatureCIn(ingredient?.storedIn ?? 'shelf', book.settings, roomTemperatureC),
    liquid: made.liquid,
    assumed: ingredient ? assumedFigures(ingredient) : [],
    unknown: ingredient ? unknownFigures(ingredient) : [],
  }
}

/** Out tonight is out; what is no longer made stays so. */
const gone = ({ stock, ...ingredient }: Ingredient): Ingredient =>
  stock === 'discontinued' ? { ...ingredient, stock } : { ...ingredient, stock: 'out' }

/** Grams of solids in 100 ml above which nothing pours. */
const MOST_SOLIDS_G_PER_100ML = 130

/** A mix of powders: its figures are no liquid's. */
function isDry({ figures: f }: Ingredient): boolean {
  return f.sugarGPer100Ml.value + f.acidGPer100Ml.value + (f.otherGPer100Ml?.value ?? 0) > MOST_SOLIDS_G_PER_100ML
}

/** Figures that nobody has said anything of: what is computed is without them. */
function unknownFigures(ingredient: Ingredient): string[] {
  return keysOf(FIGURE_WORDS)
    .filter((key) => ingredient.figures[key].basis === 'unknown')
    .map((key) => FIGURE_WORDS[key])
}

/** Zero counts as known: nobody assumes that rum has no acid. */
function assumedFigures(ingredient: Ingredient): string[] {
  return keysOf(FIGURE_WORDS)
    .filter((key) => {
      const figure: Figure = ingredient.figures[key]
      return figure.basis === 'assumed' && figure.value !== 0
    })
    .map((key) => FIGURE_WORDS[key])
}

function resolveGlass(
  document: DrinkDocument,
  book: HouseBook,
  well: Well | undefined,
  roomTemperatureC: number,
  problems: Problem[],
): Pick<ResolvedDrink, 'glass' | 'glassTemperatureC'> {
  if (document.glassProfile) {
    const glass = {
      name: 'glass',
      profile: document.glassProfile,
      heatCapacityJPerK: METHODS.build.vesselJPerK,
      stemMm: 0,
      isOpaque: false,
    }
    return { glass, glassTemperatureC: roomTemperatureC }
  }
  const own = well && document.glassByWell?.[well.slug]
  const slug = own ?? document.glass
  if (slug === undefined) return { glass: undefined, glassTemperatureC: roomTemperatureC }
  const glass = bySlug(book.glasses, slug)
  if (!glass) {
    const path = own && well ? ['glassByWell', well.slug] : ['glass']
    problems.push({ path, message: missing('glass', slug, book.glasses) })
    return { glass: undefined, glassTemperatureC: roomTemperatureC }
  }
  return { glass, glassTemperatureC: temperatureCIn(glass.storedIn, book.settings, roomTemperatureC) }
}
