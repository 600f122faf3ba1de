import {
  ALLERGENS,
  type Allergen,
  type Figure,
  INGREDIENT_KINDS,
  type Ingredient,
  type IngredientKind,
  PLACES,
  type Place,
  STOCK_STATES,
  type StockState,
  toSlug,
} from '../house/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { type ReadFigure, readGrams, readPrice, readSize, readStrength, readSugar } from './readFigures.ts'

/** The columns of a table of bottles, in order. Everything but the name may be empty. */
export const BOTTLE_COLUMNS = [
  'name',
  'kind',
  'strength',
  'sugar',
  'acid',
  'fat',
  'known by',
  'kept',
  'size',
  'price',
  'stock',
  'style',
  'colour',
  'made from',
  'origin',
  'allergens',
  'earlier names',
  'keeps days',
  'note',
] as const
export type BottleColumn = (typeof BOTTLE_COLUMNS)[number]
export type BottleRow = Partial<Record<BottleColumn, string>>

export interface CellProblem {
  column: BottleColumn
  message: string
}

const SEPARATOR = /\s*[;|]\s*/
/** How a figure of a table is known unless the row says: somebody copied it from a label. */
const BASIS_WORDS: Record<string, Figure['basis']> = {
  measured: 'measured',
  label: 'label',
  'from the label': 'label',
  assumed: 'assumed',
  unknown: 'unknown',
}

/** Reads a row of a table of bottles. Every cell that cannot be is named. */
export function readBottleRow(
  row: BottleRow,
): { ok: true; ingredient: Ingredient } | { ok: false; problems: CellProblem[] } {
  const problems: CellProblem[] = []
  const cell = (column: BottleColumn) => row[column]?.trim() ?? ''
  const refuse = (column: BottleColumn, message: string) => problems.push({ column, message })
  const figure = (column: BottleColumn, read: (text: string) => ReadFigure): number | undefined => {
    if (cell(column) === '') return undefined
    const result = read(cell(column))
    if (result.ok) return result.value
    refuse(column, result.reason)
    return undefined
  }
  const oneOf = <T extends string>(column: BottleColumn, words: Record<T, string>, fallback: T): T => {
    const wanted = cell(column).toLowerCase()
    if (wanted === '') return fallback
    const keys = keysOf(words)
    const found = keys.find((k) => k.toLowerCase() === wanted || words[k].toLowerCase() === wanted)
    if (!found) refuse(column, `“${cell(column)}” is not one of ${keys.map((k) => words[k]).join(', ')}`)
    return found ?? fallback
  }
  const name = cell('name')
  const slug = toSlug(name)
  if (slug === '') refuse('name', 'give it a name')
  if (name.length > 120) refuse('name', `is too long: ${name.length} characters; at most 120`)
  const basisWord = cell('known by').toLowerCase()
  const basis = basisWord === '' ? 'label' : BASIS_WORDS[basisWord]
  if (!basis) refuse('known by', `“${cell('known by')}” is not one of measured, label, assumed, unknown`)
  const kind = oneOf<IngredientKind>('kind', INGREDIENT_KINDS, 'spirit')
  const storedIn = oneOf<Place>('kept', PLACES, 'shelf')
  const known = (value: number | undefined): Figure => ({ value: value ?? 0, basis: basis ?? 'label' })
  const abvPct = figure('strength', readStrength)
  const sugar = figure('sugar', readSugar)
  const acid = figure('acid', (t) => readGrams(t, 100))
  const fat = figure('fat', (t) => readGrams(t, 100))
  const size = figure('size', readSize)
  const price = figure('price', readPrice)
  const keepsDays = figure('keeps days', (t) =>
    /^\d{1,4}$/.test(t) ? { ok: true, value: Number(t) } : { ok: false, reason: `“${t}” is no number of days` },
  )
  const stock = cell('stock') === '' ? undefined : oneOf<StockState>('stock', STOCK_STATES, 'stocked')
  const allergens = cell('allergens').split(SEPARATOR).filter(Boolean)
  const unknown = allergens.filter((a) => !(ALLERGENS as readonly string[]).includes(a.toLowerCase()))
  if (unknown.length > 0) refuse('allergens', `“${unknown.join(', ')}” is not one of ${ALLERGENS.join(', ')}`)
  if (problems.length > 0) return { ok: false, problems }
  const text = (column: BottleColumn, most: number) => cell(column).slice(0, most)
  return {
    ok: true,
    ingredient: {
      slug,
      name,
      kind,
      figures: {
        abvPct: known(abvPct),
        sugarGPer100Ml: known(sugar),
        acidGPer100Ml: known(acid),
        ...(fat === undefined ? {} : { fatGPer100Ml: known(fat) }),
      },
      storedIn,
      allergens: allergens.map((a) => a.toLowerCase() as Allergen),
      formerNames: cell('earlier names').split(SEPARATOR).filter(Boolean).slice(0, 20),
      ...(cell('note') ? { note: text('note', 500) } : {}),
      ...(size === undefined ? {} : { size }),
      ...(price === undefined ? {} : { price }),
      ...(stock === undefined ? {} : { stock }),
      ...(cell('style') ? { style: text('style', 80) } : {}),
      ...(cell('colour') ? { colour: text('colour', 40) } : {}),
      ...(cell('made from') ? { base: text('made from', 80) } : {}),
      ...(cell('origin') ? { origin: text('origin', 80) } : {}),
      ...(keepsDays === undefined ? {} : { keepsDays }),
    },
  }
}

/** The same the other way: a bottle as a row. */
export function toBottleRow(i: Ingredient): Record<BottleColumn, string> {
  const { figures: f } = i
  const number = (value: number | undefined) =>
    value === undefined || value === 0 ? '' : String(Number(value.toFixed(4)))
  return {
    name: i.name,
    kind: INGREDIENT_KINDS[i.kind],
    strength: number(f.abvPct.value),
    sugar: number(f.sugarGPer100Ml.value),
    acid: number(f.acidGPer100Ml.value),
    fat: number(f.fatGPer100Ml?.value),
    'known by': f.sugarGPer100Ml.value > 0 ? f.sugarGPer100Ml.basis : f.abvPct.basis,
    kept: PLACES[i.storedIn],
    size: number(i.size),
    price: i.price === undefined ? '' : String(i.price),
    stock: i.stock === undefined ? '' : STOCK_STATES[i.stock],
    style: i.style ?? '',
    colour: i.colour ?? '',
    'made from': i.base ?? '',
    origin: i.origin ?? '',
    allergens: i.allergens.join('; '),
    'earlier names': i.formerNames.join('; '),
    'keeps days': i.keepsDays === undefined ? '' : String(i.keepsDays),
    note: i.note ?? '',
  }
}
