/** What is poured: every line with its amount as the house reads it, its jiggers, and what is to be minded of the bottle. */

import { dayText } from '../calendar/index.ts'
import type { ResolvedPour } from '../drink/index.ts'
import { type BuildOrder, type HouseBook, nameApart } from '../house/index.ts'
import { massGOf } from '../liquid/index.ts'
import { type Amount, amountText, isCounted, jiggerMoves, usualMeasures, valueText } from '../measure/index.ts'
import { pourRank } from './buildOrder.ts'
import { goName, ofGo, type Ready, type Step, type StepKind } from './step.ts'

/** A line of a spec that is poured into the vessel, or into the glass before anything chills in it. */
export interface Line {
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
export function poursOf(loads: readonly Ready[], book: HouseBook, order: BuildOrder): Step[] {
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
    line: index,
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

/** A pour into every glass of a load, all of it at once. */
export function intoEach(line: Line, kind: StepKind, book: HouseBook): Step {
  const { load } = line
  const step = pourStep({ ...line, load: { ...load, glasses: 1, go: { number: 1, of: 1 }, before: {} } }, kind, book)
  return { ...step, notes: [...(load.glasses > 1 ? [`in each of the ${load.glasses}`] : []), ...step.notes] }
}
