/** A round as steps for a hand: what is poured, with which jigger, into which tin; then each load's ice, chill, pour and finish. */

import { dayText } from '../calendar/index.ts'
import { ICE_KINDS, type IcePortion, POURS } from '../cold/index.ts'
import { type DrinkDocument, type ResolvedDrink, type ResolvedPour, resolveDrink } from '../drink/index.ts'
import { type BuildOrder, bySlug, type HouseBook, nameApart, type Well } from '../house/index.ts'
import { massGOf } from '../liquid/index.ts'
import { inScoops } from '../means/index.ts'
import {
  type Amount,
  amountText,
  isCounted,
  type JiggerMoves,
  jiggerMoves,
  usualMeasures,
  valueText,
} from '../measure/index.ts'
import { drinkTonight } from '../tonight/index.ts'
import { pourRank } from './buildOrder.ts'
import { byGo, goesOf, type InTin, isWorked, type MadeLoad, type Poured } from './load.ts'

/** What is done. `glass`: set out or fetched; `soda`: into the glass before what is poured off; `after`: into it then. */
export const STEP_KINDS = [
  'glass',
  'pour',
  'ice',
  'chill',
  'soda',
  'strain',
  'after',
  'topIce',
  'float',
  'garnish',
  'flame',
] as const
export type StepKind = (typeof STEP_KINDS)[number]

/** The same thing for several loads, poured one after the other. */
export interface SharedPour {
  /** Of each load in this order, as it is written: “¾”, “1½”. */
  parts: { load: string; text: string }[]
  totalText: string
  totalMl: number
  /** Which of them this step is. */
  index: number
}

export interface Step {
  /** Stable while the round is made: `pour:a:2` is the third line of load a. */
  id: string
  load: string
  kind: StepKind
  /** As it is called tonight. */
  name: string
  /** The figure that is read from two metres: “1½ oz”, “190 g”, “8 s”. */
  amount?: string
  /** The same otherwise: “45 ml”, “2 × steel scoop”. */
  also?: string
  /** What is still to be poured, ml. */
  volumeMl?: number
  /** What the load wants of it with what is in already. */
  whole?: { volumeMl: number; text: string }
  /** What that weighs, g: for a scale beside the tin. */
  massG?: number
  moves?: JiggerMoves
  /** Liquid in the vessel before this pour and after it, ml. */
  levelMl?: { from: number; to: number }
  shared?: SharedPour
  /** Of what is made in several goes: in which of how many this is. */
  go?: { number: number; of: number }
  /** What is to be minded just now; the first is the most pressing. */
  minds: string[]
  /** What is otherwise, or good to know: a stand-in, a lot. */
  notes: string[]
}

/** A load as its steps need it. */
export interface LoadToMake {
  id: string
  name: string
  document: DrinkDocument
  glasses: number
  /** Undefined while it is being reckoned: then ice and seconds are those of the spec, for one glass. */
  made: MadeLoad | undefined
  /** What was poured otherwise than asked for, ml by the line's index: in its vessel, or go by go. */
  inTin?: Poured
  /** In how many goes it was begun; left out: as many as it takes at this well. Read as it is written it is 1. */
  goes?: number
}

/** What is made at once of a load: all of it, or one go of it. */
interface Ready extends Omit<LoadToMake, 'inTin'> {
  drink: ResolvedDrink
  go: { number: number; of: number }
  /** What is in already, ml by the line's index. */
  inTin: InTin
  /** Of all that is in already, ml. */
  inTinMl: number
  /** What was poured in the goes before that counts for more than they were asked for, ml by the line's index. */
  before: InTin
}

/** The name of one go of a load in its steps and clocks: “a”, “a2”. */
export const goName = (load: string, go: number): string => (go > 1 ? `${load}${go}` : load)

/** A load as it is made: in one go, or go by go; what was too much in one is less in the last. */
function goesFor(load: LoadToMake, drink: ResolvedDrink): Ready[] {
  const of = load.glasses === 1 ? (load.goes ?? goesOf(drink)) : 1
  const inGoes = byGo(load.inTin ?? {})
  return Array.from({ length: of }, (_, i): Ready => {
    const inTin = inGoes[i] ?? {}
    const before: Record<number, number> = {}
    if (i === of - 1)
      for (const [line, { volumeMl }] of drink.pours.entries())
        for (const earlier of inGoes.slice(0, i))
          before[line] = (before[line] ?? 0) + Math.max(0, (earlier[line] ?? 0) - volumeMl / of)
    const inTinMl = Object.values(inTin).reduce((sum, ml) => sum + ml, 0)
    return { ...load, drink, go: { number: i + 1, of }, inTin, inTinMl, before }
  })
}

const times = (n: number) => (n > 1 ? `${n} × ` : '')

/**
 * Every step of a round in its order. What is on the shelf is set out first; what must wait cold is fetched when it is poured
 * into. Everything for tins and glasses is poured next, bottle by bottle in the house's order; then load by load: ice, chill,
 * pour off, top up, float, garnish. Ice goes in before its pours where the spec lets the drink lie on it.
 * Loads that cannot be made have no steps.
 */
export function stepsOf(loads: readonly LoadToMake[], book: HouseBook, well: string): Step[] {
  const all = loads.map((load) => {
    const resolution = resolveDrink(load.document, book, well)
    return resolution.ok ? goesFor(load, resolution.drink) : []
  })
  const ready = all.flatMap(([first]) => first ?? [])
  const order = book.settings.buildOrder ?? 'cheapestFirst'
  const setOut = ready.filter((l) => !waitsCold(l, book, well)).map((l) => glassStep(l, book, well))
  const iceFirst = ready.filter(isIceFirst)
  const first = iceFirst.flatMap((l) => [...iceSteps(l, book, well), ...poursOf([l], book, order)])
  const poured = poursOf(
    ready.filter((l) => !isIceFirst(l)),
    book,
    order,
  )
  const chilled = all.flatMap((goes) =>
    goes.flatMap((go, i) => [
      ...(i === 0 ? [] : againOf(go, book, well, order)),
      ...(go.go.number < go.go.of ? chillOf(go, book, well) : finishOf(go, book, well)),
    ]),
  )
  return [...setOut, ...poured, ...first, ...chilled]
}

/** A further go of the same: into the empty vessel as before. */
function againOf(go: Ready, book: HouseBook, well: string, order: BuildOrder): Step[] {
  const pours = poursOf([go], book, order)
  return isIceFirst(go) ? [...iceSteps(go, book, well), ...pours] : pours
}

/** The spec lets the drink lie on its ice: then that is in the tin first. */
const isIceFirst = ({ drink }: Ready): boolean => (drink.stages[0]?.parameters.waitS ?? 0) > 0

const glassSlugOf = (document: DrinkDocument, well: string) => document.glassByWell?.[well] ?? document.glass
function waitsCold({ document, drink }: Ready, book: HouseBook, well: string): boolean {
  const glass = bySlug(book.glasses, glassSlugOf(document, well))
  return glass !== undefined && glass.storedIn !== 'shelf' && drink.stages[0]?.inGlass !== true
}

function glassStep({ id, glasses, drink, document }: Ready, book: HouseBook, well: string): Step {
  const glass = bySlug(book.glasses, glassSlugOf(document, well))
  const place = glass?.storedIn
  const notes = place && place !== 'shelf' ? [`from the ${place}, so that it is cold when it is filled`] : []
  const name = drink.glass?.name ?? 'a glass: the spec names none'
  const amount = document.serves > 1 ? `for ${document.serves}` : undefined
  return {
    id: `glass:${id}`,
    load: id,
    kind: 'glass',
    name,
    amount: amount ?? `${glasses} ×`,
    minds: [],
    notes,
  }
}

/** A line of a spec that is poured into the vessel, or into the glass before anything chills in it. */
interface Line {
  load: Ready
  index: number
  pour: ResolvedPour
  amount: Amount | undefined
}

function linesOf(load: Ready): Line[] {
  const startsInGlass = load.drink.stages[0]?.inGlass ?? true
  return load.drink.pours.flatMap((pour, index): Line[] => {
    const isNow = pour.into === 'tin' || (pour.into === 'glass' && startsInGlass)
    const amount = load.document.pours[index]?.amount
    const isForThis = isNow && (load.go.number === 1 || partMl({ load, pour, amount }) > 0)
    return isForThis ? [{ load, index, pour, amount }] : []
  })
}

/** What is still to be poured of a line for its load, ml. */
const wantedMl = ({ load, index, pour, amount }: Line): number =>
  Math.max(0, partMl({ load, pour, amount }) - (load.inTin[index] ?? 0) - (load.before[index] ?? 0))

/** Nobody halves a dash: what is counted goes into the first go. */
function partMl({ load: { glasses, go }, pour, amount }: Omit<Line, 'index'>): number {
  const ml = pour.volumeMl * glasses
  if (amount && isCounted(amount.unit)) return go.number === 1 ? ml : 0
  return ml / go.of
}

/** Bottle by bottle: whoever has it in hand pours it for all. What goes into the glass first (soda) stays first. */
function poursOf(loads: readonly Ready[], book: HouseBook, order: BuildOrder): Step[] {
  const lines = loads.flatMap(linesOf)
  const bottleOf = ({ pour, load, index }: Line) => pour.ingredient?.slug ?? `${load.id} ${index}`
  const groups = new Map<string, Line[]>()
  for (const line of lines) groups.set(bottleOf(line), [...(groups.get(bottleOf(line)) ?? []), line])
  // A bottle goes in where the dearest of its pours does: then no tin waits for it with more in it than need be.
  const ranked = [...groups.values()]
    .map((group) => ({
      group,
      isFirst: group.some(
        ({ pour, index, load }) => pour.into === 'glass' && index === 0 && load.drink.stages[0]?.inGlass,
      ),
      rank: Math.max(...group.map(({ pour }) => pourRank(pour, order))),
    }))
    .sort((a, b) => Number(b.isFirst) - Number(a.isFirst) || a.rank - b.rank)
  const levels = new Map<string, number>()
  return ranked.flatMap(({ group }) => {
    const parts = group.map((line) => ({ load: line.load.id, text: partText(line, book) }))
    const totalMl = group.reduce((sum, l) => sum + wantedMl(l), 0)
    return group.map((line, index): Step => {
      const { load } = line
      const volumeMl = wantedMl(line)
      const from = levels.get(load.id) ?? load.inTinMl
      levels.set(load.id, from + volumeMl)
      const shared =
        group.length > 1 ? { parts, totalText: totalText(group, book, totalMl), totalMl, index } : undefined
      return {
        ...pourStep(line, 'pour', book),
        levelMl: { from, to: from + volumeMl },
        ...(shared ? { shared } : {}),
      }
    })
  })
}

const mlText = (ml: number) => amountText({ value: Number(ml.toFixed(1)), unit: 'ml' })

/** An amount so many times over, as the house reads it. */
function amountsOf(line: Line, { settings: { showsOunces, kit } }: HouseBook) {
  const ml = wantedMl(line)
  const isRest = ml < line.pour.volumeMl * line.load.glasses - 1e-6
  // The rest of what is in already is said as a jigger pours it.
  const amount: Amount | undefined = isRest ? { value: Number(ml.toFixed(1)), unit: 'ml' } : line.amount
  const { load } = line
  if (isRest && ml < LEAST_REST_ML) return { amount: 'enough', also: undefined }
  const mlWords = mlText(ml)
  if (!amount) return { amount: mlWords, also: undefined }
  const times = isRest ? 1 : load.glasses
  const written = { value: Number((amount.value * times).toFixed(4)), unit: amount.unit }
  const isMetric = amount.unit === 'ml' || amount.unit === 'cl'
  if (isCounted(amount.unit)) return { amount: amountText(written), also: undefined }
  if (showsOunces && isMetric) {
    const inOunces = ml / kit.ounceMl
    const isEven = Math.abs(inOunces * 8 - Math.round(inOunces * 8)) < 1e-6
    return isEven
      ? { amount: amountText({ value: Math.round(inOunces * 8) / 8, unit: 'oz' }), also: mlWords }
      : { amount: mlWords, also: undefined }
  }
  return showsOunces ? { amount: amountText(written), also: mlWords } : { amount: mlWords, also: amountText(written) }
}

/** Less than this nobody pours on, ml. */
const LEAST_REST_ML = 0.5

const partText = (line: Line, book: HouseBook) => amountsOf(line, book).amount.replace(/ oz$/, '')

function totalText(group: readonly Line[], book: HouseBook, totalMl: number): string {
  const isOunces = book.settings.showsOunces && group.every((l) => / oz$/.test(amountsOf(l, book).amount))
  if (isOunces) return `${valueText(Number((totalMl / book.settings.kit.ounceMl).toFixed(4)))} oz`
  if (group.every((l) => l.amount && isCounted(l.amount.unit) && l.amount.unit === group[0]?.amount?.unit)) {
    const value = group.reduce((sum, l) => sum + (l.amount?.value ?? 0) * l.load.glasses, 0)
    return amountText({ value, unit: group[0]?.amount?.unit ?? 'dash' })
  }
  return `${Number(totalMl.toFixed(1))} ml`
}

/** Nearer than this is what is wanted, in parts of it: a jigger's rim is no finer. */
const MEASURED_WITHIN = 0.03

function pourStep(line: Line, kind: StepKind, book: HouseBook): Step {
  const { load, index, pour, amount } = line
  const volumeMl = wantedMl(line)
  const { settings } = book
  const isJiggered = !amount || !isCounted(amount.unit)
  const found = isJiggered ? jiggerMoves(volumeMl, settings.measures ?? usualMeasures(settings.kit)) : undefined
  const moves = found && Math.abs(found.volumeMl - volumeMl) <= MEASURED_WITHIN * volumeMl ? found : undefined
  const { minds, notes } = saidOf(line, book)
  const texts = amountsOf(line, book)
  const asked = { ...line, load: { ...load, inTin: {} } }
  const whole = { volumeMl: wantedMl(asked), text: amountsOf(asked, book).amount }
  const isMeasured = !isJiggered || moves !== undefined || volumeMl < LEAST_REST_ML
  const inMl = load.inTin[index]
  if (inMl !== undefined && inMl > whole.volumeMl + LEAST_REST_ML)
    minds.unshift(`${mlText(inMl)} of it is in, for ${whole.text}`)
  else if (inMl !== undefined) notes.push(`${mlText(inMl)} of it is in already`)
  return {
    id: `${kind}:${goName(load.id, load.go.number)}:${index}`,
    ...ofGo(load),
    kind,
    name: pour.name,
    amount: texts.amount,
    ...(texts.also ? { also: texts.also } : {}),
    volumeMl,
    whole,
    massG: pour.volumeMl > 0 ? (massGOf(pour.liquid) * volumeMl) / pour.volumeMl : 0,
    ...(moves ? { moves } : {}),
    minds: isMeasured ? minds : [...minds, 'no jigger of the house measures this: by the scale or by eye'],
    notes,
  }
}

/** What is to be known of what is in the bottle. */
function saidOf({ load, index, pour }: Line, book: HouseBook): { minds: string[]; notes: string[] } {
  const { ingredient, slot } = pour
  const minds: string[] = []
  const notes: string[] = []
  const facts = ingredient && book.mixes?.[ingredient.slug]
  const overproofPct = book.settings.overproofPct
  if (ingredient?.stock === 'out') minds.push(`${pour.name} is out: what is poured instead?`)
  if (facts && facts.stirs.length > 0) minds.push(`stir it first: ${facts.stirs.join(', ')}`)
  if (ingredient && ingredient.figures.abvPct.value > overproofPct) minds.push('overproof: no flame near it')
  if (facts?.lot?.standing === 'expired') minds.push(`lot ${facts.lot.id} is past its day`)
  if (slot?.insteadOf) notes.push(`for ${nameApart(slot.insteadOf, book.ingredients)}, which is out`)
  else if (slot) notes.push(`the house’s ${slot.name}`)
  if (facts?.lot) notes.push(`lot ${facts.lot.id} of ${dayText(facts.lot.madeOn)}`)
  const note = load.document.pours[index]?.note
  if (note) notes.push(note)
  return { minds, notes }
}

/** Ice as a hand takes it: grams, and the scoops of this well. */
function iceWords(
  ice: readonly IcePortion[],
  well: Well | undefined,
): { amount: string; also: string | undefined; name: string } {
  const there = ice.filter((p) => p.massG > 0)
  const scoops = there.map((p) => inScoops(well, p.kind, p.massG))
  const grams = there.map((p) => `${Math.round(p.massG)} g`).join(' + ')
  const names = there.map((p) => ICE_KINDS[p.kind].label).join(' + ')
  const written = there.map((p) => p.asWritten).filter((w) => w !== undefined)
  const also = scoops.every((s) => s !== undefined) && scoops.length > 0 ? scoops.join(' + ') : undefined
  return { amount: grams, also: also ? `about ${also}` : written.join(' + ') || undefined, name: names }
}

function iceSteps(load: Ready, book: HouseBook, wellSlug: string): Step[] {
  const { id, drink, made, go } = load
  const ice =
    made?.ice ?? (drink.stages[0]?.ice ?? []).map((p) => (go.of > 1 ? { kind: p.kind, massG: p.massG / go.of } : p))
  if (!ice.some((p) => p.massG > 0)) return []
  const { amount, also, name } = iceWords(ice, bySlug(book.wells, wellSlug))
  return [
    {
      id: `ice:${goName(id, go.number)}`,
      ...ofGo(load),
      kind: 'ice',
      name,
      amount,
      ...(also ? { also } : {}),
      minds: [],
      notes: [],
    },
  ]
}

const ofGo = ({ id, go }: Ready): Pick<Step, 'load' | 'go'> => ({ load: id, ...(go.of > 1 ? { go } : {}) })

/** Lines that go into the glass beside what is poured off. */
const inGlassOf = (load: Ready): Line[] =>
  load.drink.pours.flatMap((pour, index): Line[] =>
    pour.into === 'glass' && !(load.drink.stages[0]?.inGlass ?? true)
      ? [{ load, index, pour, amount: load.document.pours[index]?.amount }]
      : [],
  )

const firstInTin = ({ drink }: Ready) => drink.pours.findIndex((p) => p.into === 'tin')

/** A pour into every glass of a load, all of it at once. */
function intoEach(line: Line, kind: StepKind, book: HouseBook): Step {
  const { load } = line
  const step = pourStep({ ...line, load: { ...load, glasses: 1, go: { number: 1, of: 1 }, before: {} } }, kind, book)
  return { ...step, notes: [...(load.glasses > 1 ? [`in each of the ${load.glasses}`] : []), ...step.notes] }
}

/** Ice, chill and what is poured off of one go; the first finds its glass, with what is in there first. */
function chillOf(load: Ready, book: HouseBook, wellSlug: string): Step[] {
  const { id, drink, glasses, made, go } = load
  const name = goName(id, go.number)
  const steps: Step[] = isIceFirst(load) ? [] : iceSteps(load, book, wellSlug)
  const said = { ...ofGo(load), minds: [], notes: [] }
  const [stage] = drink.stages
  if (stage && isWorked(drink)) {
    const seconds = made?.durationS ?? stage.parameters.durationS
    const amount = `${Number(seconds.toFixed(1))} s`
    steps.push({ ...said, id: `chill:${name}`, kind: 'chill', name: stage.name, amount })
  }
  if (go.number === 1) {
    if (waitsCold(load, book, wellSlug)) steps.push(glassStep(load, book, wellSlug))
    // Written before what is shaken: it is in the glass first, and keeps its gas.
    const soda = inGlassOf(load).filter((l) => l.index < firstInTin(load))
    steps.push(...soda.map((line) => intoEach(line, 'soda', book)))
  }
  if (stage && !stage.inGlass)
    steps.push({
      ...said,
      id: `strain:${name}`,
      kind: 'strain',
      name: POURS[stage.pour].sentence,
      amount: glasses > 1 ? `into ${glasses}` : 'pour',
      ...(glasses > 1 && made?.glass
        ? { also: `${Math.round(made.glass.strata.pouredMl + made.glass.strata.meltMl)} ml each` }
        : {}),
      notes: go.number < go.of ? ['the rest comes with the next go'] : [],
    })
  return steps
}

/** From the ice of one load, or of its last go, to its garnish. */
function finishOf(load: Ready, book: HouseBook, wellSlug: string): Step[] {
  const { id, drink, document, glasses } = load
  const steps = chillOf(load, book, wellSlug)
  const say = (step: Omit<Step, 'load' | 'minds' | 'notes'> & Partial<Pick<Step, 'minds' | 'notes'>>) =>
    steps.push({ load: id, minds: [], notes: [], ...step })
  if (drink.serveIce.some((p) => p.massG > 0)) {
    const { amount, also, name } = iceWords(drink.serveIce, bySlug(book.wells, wellSlug))
    say({
      id: `topIce:${id}`,
      kind: 'topIce',
      name,
      amount,
      ...(also ? { also } : {}),
      notes: glasses > 1 ? [`in each of the ${glasses}`] : [],
    })
  }
  const after = inGlassOf(load).filter((l) => l.index > firstInTin(load))
  steps.push(...after.map((line) => intoEach(line, 'after', book)))
  drink.pours.forEach((pour, index) => {
    if (pour.into === 'float')
      steps.push(intoEach({ load, index, pour, amount: document.pours[index]?.amount }, 'float', book))
  })
  const without = new Set(drinkTonight(document, book, wellSlug).without)
  document.garnish.forEach((g, i) => {
    const minds = [
      ...(g.isFood ? [] : ['not food: keep it out of the glass']),
      ...(without.has(g.text) ? ['is out tonight: leave it off'] : []),
    ]
    say({ id: `garnish:${id}:${i}`, kind: 'garnish', name: g.text, amount: `${times(glasses)}garnish`, minds })
  })
  if (document.hasFlame)
    say({
      id: `flame:${id}`,
      kind: 'flame',
      name: 'flame',
      amount: 'flame',
      minds: ['bottles away first, nothing poured near a flame'],
    })
  return steps
}
