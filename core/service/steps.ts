/** A round as steps for a hand: what is poured, with which jigger, into which tin; then each load's ice, chill, pour and finish. */

import { ICE_KINDS, type IcePortion, POURS } from '../cold/index.ts'
import { type DrinkDocument, resolveDrink } from '../drink/index.ts'
import { type BuildOrder, bySlug, type HouseBook, type Well } from '../house/index.ts'
import { inScoops } from '../means/index.ts'
import { drinkTonight } from '../tonight/index.ts'
import { intoEach, type Line, poursOf } from './pourSteps.ts'
import { isWorked } from './shared.ts'
import { goesFor, goName, type LoadToMake, ofGo, type Ready, type Step } from './step.ts'

const times = (n: number) => (n > 1 ? `${n} × ` : '')

/**
 * Every step of a round in its order. What is on the shelf is set out first; what must wait cold is fetched when it is poured
 * into. Everything for tins and glasses is poured next, bottle by bottle in the house's order; then load by load: ice, chill,
 * pour off, top up, float, garnish; a bowl in goes is poured, chilled and poured off go by go. Ice goes in before its pours where the spec lets the drink lie on it.
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

/** Lines that go into the glass beside what is poured off. */
const inGlassOf = (load: Ready): Line[] =>
  load.drink.pours.flatMap((pour, index): Line[] =>
    pour.into === 'glass' && !(load.drink.stages[0]?.inGlass ?? true)
      ? [{ load, index, pour, amount: load.document.pours[index]?.amount }]
      : [],
  )

const firstInTin = ({ drink }: Ready) => drink.pours.findIndex((p) => p.into === 'tin')

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
