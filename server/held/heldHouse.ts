/** The house as the server holds it in memory: what is typed, the lots that are open, and what tasters said. */

import type { EventKind, House, Menu, Person } from '@conch/contract'
import type { OnShelf } from '@conch/core/formula'
import { INGREDIENT_KINDS, type Ingredient, plainName } from '@conch/core/house'
import { type FruitYield, fruitYieldOf, type Lot } from '@conch/core/lots'
import { type Flight, profileOfWords, type StyleProfile, type TastedWords, taste } from '@conch/core/palate'

import type { StoredChoice, StoredOut } from '../stores/tonight.ts'
import { Finder } from './finder.ts'

/** How far the chain of events was, and its hash there: another house has another one. */
export interface ChainPoint {
  sequence: number
  hash: string
}

/** What is small, and read whole. */
export type HouseBase = Pick<House, 'settings' | 'wells' | 'glasses' | 'slots' | 'calibrations' | 'isDemo'> & {
  revisions: House['revisions']
}

export interface HeldIngredient {
  document: Ingredient
  position: number
  revision: number
}

/** A drink without its versions. */
export interface HeldDrink {
  slug: string
  name: string
  isHidden: boolean
  versionCount: number
  latestVersion: number | null
  /** The newest that is neither historical nor a trial, else the newest: by which it is shown, and put on a menu. */
  ownVersion: number | null
  /** When its newest version was saved. */
  changedAt: string | null
}

interface NamedDrinks {
  all: HeldDrink[]
  /** Without those that were put out of the way. */
  inSight: HeldDrink[]
}

/** What is being drafted. */
export interface HeldDrafts {
  /** Another one for each state of any draft. */
  state: string
  /** The drinks that somebody is drafting. */
  drinks: ReadonlySet<string>
}

/** What is planned for the next edition, and what the newest one pours: the version of each drink. */
export interface Listed {
  /** Undefined before anybody planned. */
  plan: Menu | undefined
  planned: ReadonlyMap<string, number>
  /** Of the newest edition; 0 before the first. */
  edition: number
  poured: ReadonlyMap<string, number>
}

/** What an event changed, as it stands afterwards. */
export interface Changes {
  at: ChainPoint
  events: readonly { sequence: number; kind: EventKind; subject: string }[]
  /** They are not in the chain. */
  drafts: HeldDrafts
  listed?: Listed
  base?: HouseBase | undefined
  people?: Person[]
  ingredients?: HeldIngredient[]
  /** By slug; undefined: it was thrown away. */
  drinks?: Map<string, HeldDrink | undefined>
  /** By number; undefined: it is gone. */
  lots?: Map<number, Lot | undefined>
  pressings?: Lot[]
  flights?: Flight[]
  tonight?: HeldTonight
}

/** What is out, and what was chosen for the newest nights. */
export interface HeldTonight {
  outs: readonly StoredOut[]
  choices: readonly StoredChoice[]
}

/** All of it, for a beginning. */
export type Whole = Omit<Changes, 'events' | 'lots' | 'drinks'> &
  Required<Pick<Changes, 'listed' | 'people' | 'ingredients' | 'pressings' | 'flights' | 'tonight'>> & {
    openLots: Lot[]
    allDrinks: HeldDrink[]
  }

export class HeldHouse {
  at: ChainPoint
  drafts: HeldDrafts
  listed: Listed
  /** Undefined before a house is set up. */
  base: HouseBase | undefined
  people: Person[]
  tonight: HeldTonight
  /** Which house this is, and which reading of it. */
  readonly id: string = `${++readings}`
  /** The last flight that is counted in. */
  lastFlight = 0
  private readonly ingredients = new Map<string, HeldIngredient>()
  readonly drinks = new Map<string, HeldDrink>()
  /** Finds bottles and mixes by any name that they had, and by what is said of them. */
  readonly ingredientFinder = new Finder()
  /** Finds drinks by their names. */
  readonly drinkFinder = new Finder()
  private readonly lots = new Map<number, Lot>()
  private readonly lotsOfSlug = new Map<string, Set<number>>()
  private readonly tasted = new Map<string, TastedWords>()
  private readonly profiles = new Map<string, StyleProfile>()
  private readonly namesakes = new Map<string, Set<string>>()
  /** What has something as a component, by its slug. */
  private readonly holders = new Map<string, Set<string>>()
  private readonly touched = new Map<string, number>()
  private readonly log: Changes['events'][number][] = []
  private readonly began: number
  private pressings: Lot[]
  private inOrder: Ingredient[] | undefined
  private shelf: OnShelf[] | undefined
  private namedDrinks: NamedDrinks | undefined

  constructor(whole: Whole) {
    this.at = whole.at
    this.began = whole.at.sequence
    this.drafts = whole.drafts
    this.listed = whole.listed
    this.base = whole.base
    this.people = whole.people
    this.tonight = whole.tonight
    this.pressings = whole.pressings
    for (const i of whole.ingredients) this.putIngredient(i)
    for (const drink of whole.allDrinks) this.putDrink(drink.slug, drink)
    for (const lot of whole.openLots) this.putLot(lot.id, lot)
    for (const flight of whole.flights) this.putFlight(flight)
  }

  /** Takes what events changed. Told twice it is the same. */
  apply(changes: Changes): void {
    // Somebody who looked in between may be further.
    if (changes.at.sequence >= this.at.sequence) this.at = changes.at
    this.drafts = changes.drafts
    if (changes.listed) this.listed = changes.listed
    if (changes.base) this.base = changes.base
    if (changes.people) this.people = changes.people
    if (changes.tonight) this.tonight = changes.tonight
    for (const i of changes.ingredients ?? []) this.putIngredient(i)
    for (const [slug, drink] of changes.drinks ?? []) this.putDrink(slug, drink)
    for (const [id, lot] of changes.lots ?? []) this.putLot(id, lot)
    if (changes.pressings) this.pressings = changes.pressings
    for (const flight of changes.flights ?? []) this.putFlight(flight)
    for (const { sequence, kind, subject } of changes.events) {
      this.touched.set(kind, sequence)
      this.touched.set(`${kind}/${subject}`, sequence)
      if (sequence > (this.log.at(-1)?.sequence ?? this.began)) this.log.push({ sequence, kind, subject })
    }
    if (this.log.length > MOST_LOGGED) this.log.splice(0, this.log.length - MOST_LOGGED)
  }

  /** Another one for each state of a kind of thing, of one thing, of the drafts, or of the drinks that are planned. */
  stateOf(topic: EventKind | `${EventKind}/${string}` | 'drafts' | 'plannedDrinks'): string {
    if (topic === 'drafts') return this.drafts.state
    if (topic === 'plannedDrinks')
      return String(
        Math.max(this.began, ...[...this.listed.planned.keys()].map((d) => this.touched.get(`drink/${d}`) ?? 0)),
      )
    return String(this.touched.get(topic) ?? this.began)
  }

  /** The last event of some kinds; the beginning where there was none since. */
  lastOf(kinds: readonly EventKind[]): number {
    return Math.max(...kinds.map((kind) => this.touched.get(kind) ?? this.began))
  }

  /** What happened after an event, oldest first; undefined where that is not remembered. */
  eventsSince(sequence: number): readonly Changes['events'][number][] | undefined {
    const first = this.log[0]?.sequence ?? this.at.sequence + 1
    return sequence + 1 < first ? undefined : this.log.filter((e) => e.sequence > sequence)
  }

  person(id: number): Person | undefined {
    return this.people.find((p) => p.id === id)
  }

  ingredient(slug: string): Ingredient | undefined {
    return this.ingredients.get(slug)?.document
  }

  /** 0 for what is not there. */
  ingredientRevision(slug: string): number {
    return this.ingredients.get(slug)?.revision ?? 0
  }

  get openLotCount(): number {
    return this.lots.size
  }

  /** The whole back bar in the house's order. */
  allIngredients(): readonly Ingredient[] {
    this.inOrder ??= [...this.ingredients.values()]
      .sort((a, b) => a.position - b.position || compareSlugs(a.document.slug, b.document.slug))
      .map((i) => i.document)
    return this.inOrder
  }

  positionOf(slug: string): number {
    return this.ingredients.get(slug)?.position ?? 0
  }

  /** What stands on the shelf and which allergens are in it, in the shelf's order. */
  onShelf(): readonly OnShelf[] {
    this.shelf ??= this.allIngredients().map(({ slug, allergens }) => ({
      slug,
      allergens,
      position: this.positionOf(slug),
    }))
    return this.shelf
  }

  /** Every drink by its name; and without those that were put out of the way. */
  drinksByName(): Readonly<NamedDrinks> {
    if (!this.namedDrinks) {
      const all = [...this.drinks.values()].sort(
        (a, b) => BY_NAME.compare(a.name, b.name) || compareSlugs(a.slug, b.slug),
      )
      this.namedDrinks = { all, inSight: all.filter((d) => !d.isHidden) }
    }
    return this.namedDrinks
  }

  /** The slugs of everything that is called alike, itself too. */
  namesakesOf(slug: string): ReadonlySet<string> {
    const name = this.ingredient(slug)?.name
    return (name !== undefined && this.namesakes.get(plainName(name))) || NONE
  }

  /** What has it as a component. */
  holdersOf(slug: string): ReadonlySet<string> {
    return this.holders.get(slug) ?? NONE
  }

  /** Lots of something that are neither used up nor discarded, oldest first. */
  openLotsOf(slug: string): Lot[] {
    return [...(this.lotsOfSlug.get(slug) ?? [])].sort((a, b) => a - b).map((id) => this.lots.get(id) as Lot)
  }

  /** One of the lots that are there. */
  openLot(id: number): Lot | undefined {
    return this.lots.get(id)
  }

  allOpenLots(): Lot[] {
    return [...this.lots.values()].sort((a, b) => a.id - b.id)
  }

  /** What tasters say of something; undefined: nobody did. */
  profileOf(slug: string): StyleProfile | undefined {
    const words = this.tasted.get(slug)
    if (!words) return undefined
    let profile = this.profiles.get(slug)
    if (!profile) {
      profile = profileOfWords(words)
      this.profiles.set(slug, profile)
    }
    return profile
  }

  tastedSlugs(): string[] {
    return [...this.tasted.keys()]
  }

  fruitYieldOf(slug: string): FruitYield | undefined {
    const ingredient = this.ingredient(slug)
    return ingredient && fruitYieldOf(ingredient, this.pressings)
  }

  private putIngredient(next: HeldIngredient): void {
    const { slug, name, recipe } = next.document
    const was = this.ingredients.get(slug)?.document
    if (was) {
      this.namesakes.get(plainName(was.name))?.delete(slug)
      for (const c of was.recipe?.components ?? []) this.holders.get(c.ingredient)?.delete(slug)
    }
    this.ingredients.set(slug, next)
    addTo(this.namesakes, plainName(name), slug)
    this.ingredientFinder.put({ slug, name, also: alsoOf(next.document) })
    for (const c of recipe?.components ?? []) addTo(this.holders, c.ingredient, slug)
    // A lot carries the name of what it is of.
    if (was && was.name !== name)
      for (const id of this.lotsOfSlug.get(slug) ?? []) this.lots.set(id, { ...(this.lots.get(id) as Lot), name })
    this.inOrder = undefined
    this.shelf = undefined
  }

  private putDrink(slug: string, drink: HeldDrink | undefined): void {
    const was = this.drinks.get(slug)
    if (was && drink && was.name === drink.name && was.isHidden === drink.isHidden) {
      // It stays where it stands: the others are not put in order again for it.
      for (const list of Object.values(this.namedDrinks ?? {})) replace(list, was, drink)
      this.drinks.set(slug, drink)
      return
    }
    this.namedDrinks = undefined
    if (drink) {
      this.drinks.set(slug, drink)
      this.drinkFinder.put(drink)
    } else {
      this.drinks.delete(slug)
      this.drinkFinder.drop(slug)
    }
  }

  private putLot(id: number, lot: Lot | undefined): void {
    const was = this.lots.get(id)
    if (was) this.lotsOfSlug.get(was.ingredient)?.delete(id)
    if (!lot) {
      this.lots.delete(id)
      return
    }
    this.lots.set(id, lot)
    addTo(this.lotsOfSlug, lot.ingredient, id)
  }

  private putFlight(flight: Flight): void {
    if (flight.id <= this.lastFlight) return
    this.lastFlight = flight.id
    for (const slug of taste(this.tasted, flight)) this.profiles.delete(slug)
  }
}

const BY_NAME = new Intl.Collator('en', { sensitivity: 'base', numeric: true })

/** Events that are remembered: those who follow are hardly behind. */
const MOST_LOGGED = 2_000

let readings = 0

/** Every word by which something of the shelf is found besides its name; nothing of what is sealed in it. */
const alsoOf = (i: Ingredient): string =>
  [...i.formerNames, i.style ?? '', i.colour ?? '', i.isSealed ? '' : (i.note ?? ''), INGREDIENT_KINDS[i.kind]].join(
    ' ',
  )

function replace<T>(list: T[], was: T, is: T): void {
  const place = list.indexOf(was)
  if (place >= 0) list[place] = is
}

const NONE: ReadonlySet<string> = new Set()

/** As the database orders text that is letters, digits and hyphens: byte by byte. */
const compareSlugs = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)

function addTo<K, V>(map: Map<K, Set<V>>, key: K, value: V): void {
  const set = map.get(key)
  if (set) set.add(value)
  else map.set(key, new Set([value]))
}
