import { ICE_KINDS, type IceFill, type IceKind, type IcePortion } from '../cold/index.ts'
import type { Well } from '../house/index.ts'
import { ICE_G_PER_ML } from '../liquid/index.ts'
import { type MeasureKit, NUMBER_PATTERN, readNumber } from '../measure/index.ts'

/** How much ice, as bars say it: grams, scoops, cups and pieces; or as far as it has to come. */
export type ReadIce =
  | { ok: true; massG: number; asWritten: string }
  /** Solved with the drink: up to where it should stand, or half of that glass of ice alone. */
  | { ok: true; fill: IceFill; asWritten: string }
  | { ok: false; reason: string }

export interface IceContext {
  kit: MeasureKit
  /** Of the well that it is scooped at. */
  scoops: NonNullable<Well['scoops']>
}

/** Edges of what is counted in pieces, mm: a cube of ice weighs so much by that. */
const PIECE_MM: Partial<Record<IceKind, number>> = { machineCube: 28, freezerCube: 28, bigCube: 50 }

/** One piece of an ice, g; undefined for what nobody counts. */
export function pieceG(kind: IceKind): number | undefined {
  const mm = PIECE_MM[kind]
  return mm === undefined ? undefined : Math.round((mm / 10) ** 3 * ICE_G_PER_ML)
}

const MOST_G = 2000
const NUMBER_THEN = new RegExp(
  `^(?:about |ca\\.? |~)?(${NUMBER_PATTERN})\\s*(g|gr|gram|grams|kg|scoops?|cups?|ml|cl|oz|ounces?|pieces?|cubes?|rocks?|spheres?)?(?:\\s+of)?\\b\\s*(.*)$`,
  'i',
)

/** A cup of loose ice, g: its gaps hold none. */
const bulkG = (ml: number, kind: IceKind) => ml * ICE_KINDS[kind].packedSolidFraction * ICE_G_PER_ML

/**
 * Reads an amount of one kind of ice: "180", "180 g", "2 scoops", "1½ cups", "8 oz" (of the cup), "2 cubes", "to the line",
 * "half the glass".
 */
export function readIce(text: string, kind: IceKind, { kit, scoops }: IceContext): ReadIce {
  const asWritten = text.trim()
  const plain = asWritten.toLowerCase()
  if (/^(?:up )?to the (?:wash )?line\b|^fill(?:ed)?\b|^to (?:the )?top\b|^to fill\b|^full\b/.test(plain))
    return { ok: true, fill: 'toLine', asWritten }
  if (/^half (?:of )?(?:the |a )?glass|^half[- ]full/.test(plain)) return { ok: true, fill: 'halfGlass', asWritten }
  const match = NUMBER_THEN.exec(asWritten)
  const value = match?.[1] === undefined ? undefined : readNumber(match[1])
  if (!match || value === undefined || (match[3] ?? '') !== '')
    return {
      ok: false,
      reason: `“${asWritten}” is no amount of ice; write it like 180 g, 2 scoops, 1½ cups or to the line`,
    }
  const unit = (match[2] ?? 'g').toLowerCase()
  const massG = gramsOf(value, unit, kind, { kit, scoops })
  if (typeof massG === 'string') return { ok: false, reason: massG }
  if (massG > MOST_G) return { ok: false, reason: `“${asWritten}” is ${Math.round(massG)} g; at most ${MOST_G} g` }
  return { ok: true, massG: Math.round(massG), asWritten }
}

function gramsOf(value: number, unit: string, kind: IceKind, { kit, scoops }: IceContext): number | string {
  if (/^g/.test(unit)) return value
  if (unit === 'kg') return 1000 * value
  if (/^scoop/.test(unit)) {
    const scoop = scoops.find((s) => s.kind === kind)
    return scoop
      ? value * scoop.massG
      : `nobody has weighed a scoop of ${ICE_KINDS[kind].label} at this well; weigh one on the ice bench, or write grams`
  }
  if (/^cup/.test(unit)) return bulkG(value * kit.cupMl, kind)
  if (unit === 'ml') return bulkG(value, kind)
  if (unit === 'cl') return bulkG(10 * value, kind)
  if (/^o/.test(unit)) return bulkG(value * kit.ounceMl, kind)
  const piece = pieceG(kind)
  return piece === undefined ? `${ICE_KINDS[kind].label} is not counted; write grams, scoops or cups` : value * piece
}

const KIND_WORDS: readonly (readonly [RegExp, IceKind])[] = [
  [/\bcrush(?:ed)?\b|\bshaved\b|\bsnow\b/i, 'crushed'],
  [/\bpebbles?\b|\bnuggets?\b/i, 'pebble'],
  [/\bcracked\b/i, 'cracked'],
  [
    /\b(?:one|a|1|single)?\s*(?:big|large|clear|king)\s*(?:format )?(?:ice ?)?(?:cube|rock|block|sphere|ball)\b|\bbig ice\b/i,
    'bigCube',
  ],
  [/\b(?:dry|freezer) (?:ice )?cubes?\b/i, 'freezerCube'],
  [/\bcubes?d?\b|\brocks\b/i, 'machineCube'],
]

/** The kind of ice that words name; undefined for ice of no named kind. */
export function iceKindNamed(text: string): IceKind | undefined {
  return KIND_WORDS.find(([words]) => words.test(text))?.[1]
}

/** Whether a text speaks of ice at all. */
export const speaksOfIce = (text: string): boolean =>
  /\bice\b/i.test(text) || KIND_WORDS.some(([words]) => words.test(text))

const AMOUNT_IN_TEXT = new RegExp(
  `(?:^|[\\s(])((?:about )?${NUMBER_PATTERN}\\s*(?:g|gr|grams?|kg|scoops?|cups?|oz|ounces?|ml)(?![a-z]))`,
  'i',
)
const COUNT_IN_TEXT = new RegExp(
  `(?:^|[\\s(])(${NUMBER_PATTERN})\\s+(?:large |big |clear |small |ice )*(?:cubes?|rocks?|pieces?|spheres?|blocks?)\\b`,
  'i',
)

/** Ice as a sentence speaks of it: what kind, and how much where that is said. */
export interface SpokenIce {
  kind: IceKind | undefined
  amount: ReadIce | undefined
}

/** Reads "120 g crushed ice", "two scoops of pebble", "one big cube", "ice". */
export function readSpokenIce(text: string, context: IceContext): SpokenIce | undefined {
  if (!speaksOfIce(text)) return undefined
  const kind = iceKindNamed(text)
  const of = kind ?? 'machineCube'
  const measured = AMOUNT_IN_TEXT.exec(text)?.[1]
  if (measured) return { kind, amount: readIce(measured, of, context) }
  const counted = COUNT_IN_TEXT.exec(text)?.[1]
  const count = counted === undefined ? (of === 'bigCube' ? 1 : undefined) : readNumber(counted)
  const piece = pieceG(of)
  if (count !== undefined && piece !== undefined && count > 0 && count * piece <= MOST_G)
    return { kind, amount: { ok: true, massG: count * piece, asWritten: text.trim() } }
  return { kind, amount: undefined }
}

/** A portion of it, with the words it was written in. */
export const portionOf = (kind: IceKind, massG: number, asWritten: string): IcePortion => ({
  kind,
  massG,
  asWritten: asWritten.slice(0, 60),
})
