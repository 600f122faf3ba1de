import type { LiquidFigures } from '../liquid/index.ts'
import { isWeighed, type Place } from '../schema/lists.ts'
import type { Slot } from '../schema/palate.ts'
import type { StyleProfile } from '../schema/profile.ts'
import { plainText } from '../text/index.ts'
import { nameIn } from './nameApart.ts'
import type { Glass, Ingredient, Settings, StationCalibration, Well } from './schema.ts'

/** What there is to know about a mix, or a lot, besides its figures. */
export interface MixFacts {
  /** Emulsions in it: stirred before every pour. */
  stirs: string[]
  /** Sharpened with acids to stand in for a sour juice. */
  isAcidAdjusted: boolean
  /** As it is now, and as the recipe or the label says where that differs. */
  brix?: number
  theory?: LiquidFigures
  theoryBrix?: number
  lot?: {
    id: number
    madeOn: string
    useBy: string | null
    standing: 'fresh' | 'due' | 'expired' | 'gone'
    madeAt?: string
  }
  /** Lots of what it would be made of that are due or expired, while it has no lot of its own; or of what its lot was made of. */
  stale: { name: string; id: number; useBy: string | null; standing: 'due' | 'expired'; isInIt?: boolean }[]
  notes: string[]
  /** Why it cannot be computed: its typed figures stand in. */
  problems: string[]
  /** Something in a sealed mix should not wait; what it is stays sealed. */
  isClosedStale?: 'due' | 'expired'
  /** Of what is sealed: its allergens may be others by now. */
  isAllergenUnsure?: boolean
}

/** Everything of a house that a spec can refer to. An edition keeps a copy of what it used. */
export interface HouseBook {
  /** The moment for which it was put together, where that matters; ISO. */
  at?: string
  settings: Settings
  /** In the house's order; the first is where a drink is looked at unless another is named. */
  wells: Well[]
  ingredients: Ingredient[]
  glasses: Glass[]
  /** By slug, of what is made or pressed in the house. */
  mixes?: Record<string, MixFacts>
  slots?: Slot[]
  /** What the tasters say, by slug; of a blend what its parts make. */
  profiles?: Record<string, StyleProfile>
  /** What the trials say of stations, one for each ice. */
  calibrations?: StationCalibration[]
  /** What is out at a well tonight; left out: nobody asks for it, as in what is kept for ever. */
  outAt?: Record<string, OutHere>
}

/** What is out at one well, by slug. */
export interface OutHere {
  ingredients: string[]
  glasses: string[]
  fruits: string[]
}

/** Whether something to pour is there: in stock, and not out tonight at this well. */
export function isThereAt(
  { slug, stock }: Pick<Ingredient, 'slug' | 'stock'>,
  { outAt }: Pick<HouseBook, 'outAt'>,
  well: string | undefined,
): boolean {
  if (stock === 'out' || stock === 'discontinued') return false
  return well === undefined || !outAt?.[well]?.ingredients.includes(slug)
}

/** Temperature in °C of what waits in a place; the shelf has the room's. */
export function temperatureCIn(place: Place, settings: Settings, roomTemperatureC: number): number {
  if (place === 'fridge') return settings.fridgeTemperatureC
  if (place === 'freezer') return settings.freezerTemperatureC
  return roomTemperatureC
}

/** Grams of acid in 100 g above which a dry good is an acid. */
const ACID_POWDER_G_PER_100G = 50

/** Citric acid and its kind: weighed, and hardly anything but acid. */
export function isAcidPowder({ kind, figures }: Pick<Ingredient, 'kind' | 'figures'>): boolean {
  return isWeighed(kind) && figures.acidGPer100Ml.value >= ACID_POWDER_G_PER_100G
}

/** Names for the slugs that a spec refers to: of ingredients and of slots. */
export function namesIn({
  ingredients,
  slots = [],
}: Pick<HouseBook, 'ingredients' | 'slots'>): (slug: string) => string {
  return (slug) => (bySlug(ingredients, slug) ? nameIn(ingredients, slug) : (bySlug(slots, slug)?.name ?? slug))
}

/** Finds by slug, or undefined. */
export function bySlug<T extends { slug: string }>(list: readonly T[], slug: string | undefined): T | undefined {
  return list.find((item) => item.slug === slug)
}

/** A slug from a name: "Dark Gold Rum" → "dark-gold-rum". Empty when nothing of it can be used. */
export function toSlug(name: string): string {
  return plainText(name)
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80)
}
