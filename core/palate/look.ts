/**
 * What a drink looks like: each ingredient's colour and cloudiness as seen through a small glass of it, mixed as absorbances
 * by volume (Beer and Lambert), so that water from ice thins them. A swatch, not a photograph.
 */

import type { Ingredient } from '../house/index.ts'
import { COLOURS, colourDepthOf } from './colour.ts'

/** As seen through a glass of it against white. */
export interface Look {
  /** #rrggbb */
  colour: string
  /** 0 clear to 1 opaque. */
  cloudiness: number
}

export interface KnownLook extends Look {
  /** Nobody said so here: things like it look so. */
  isAssumed: boolean
}

const CLEAR: Look = { colour: '#fbfbf8', cloudiness: 0 }

/** Spirits by the depth of their colour, 0 to 10. */
const DEPTHS: readonly (readonly [number, string])[] = [
  [0, '#fbfbf8'],
  [2, '#f4ecc6'],
  [4, '#eac765'],
  [6, '#cc8a2c'],
  [8, '#8a4417'],
  [10, '#2e150b'],
]

/** Of what is no spirit, by a word of its name; the first that fits decides. */
const BY_WORD: readonly (readonly [RegExp, Look])[] = [
  [/\b(lime)\b/i, { colour: '#dfe3ad', cloudiness: 0.55 }],
  [/\b(lemon)\b/i, { colour: '#efe8b2', cloudiness: 0.55 }],
  [/\b(grapefruit)\b/i, { colour: '#eeb49d', cloudiness: 0.6 }],
  [/\b(orange|mandarin|tangerine)\b/i, { colour: '#f0a93c', cloudiness: 0.75 }],
  [/\b(pineapple)\b/i, { colour: '#eed672', cloudiness: 0.65 }],
  [/\b(passion ?-?fruit|mango|apricot|peach)\b/i, { colour: '#e89b2b', cloudiness: 0.85 }],
  [/\b(guava|watermelon)\b/i, { colour: '#ec9486', cloudiness: 0.8 }],
  [/\b(pomegranate|hibiscus|raspberry|cherry|grenadine|strawberry)\b/i, { colour: '#a3142c', cloudiness: 0.15 }],
  [/\b(coffee|cola|cocoa|chocolate)\b/i, { colour: '#2c150b', cloudiness: 0.3 }],
  [/\b(cinnamon|ginger|honey|demerara|cane|maple|spice)/i, { colour: '#dcae5f', cloudiness: 0.15 }],
  [/\b(coconut|orgeat|almond|nut|milk|cream|egg)/i, { colour: '#f4efe3', cloudiness: 0.9 }],
  [/\b(mint|basil|cucumber|green|melon)\b/i, { colour: '#a9c46a', cloudiness: 0.25 }],
  [/\b(blue)\b/i, { colour: '#2f6fc4', cloudiness: 0 }],
]

const BY_KIND: Partial<Record<Ingredient['kind'], Look>> = {
  juice: { colour: '#ead79a', cloudiness: 0.55 },
  puree: { colour: '#e8b45c', cloudiness: 0.9 },
  syrup: { colour: '#f5efd6', cloudiness: 0.02 },
  bitters: { colour: '#6b2413', cloudiness: 0.05 },
  dairy: { colour: '#f4efe3', cloudiness: 0.95 },
  liqueur: { colour: '#ecd9a0', cloudiness: 0 },
  wine: { colour: '#eadf9f', cloudiness: 0 },
  houseMix: { colour: '#ecd9a0', cloudiness: 0.3 },
}

const SPIRITS: readonly Ingredient['kind'][] = ['spirit', 'blend']

function colourAtDepth(depth: number): string {
  const upper = Math.max(
    1,
    DEPTHS.findIndex(([d]) => d >= depth),
  )
  const [d0, c0] = DEPTHS[upper - 1] as [number, string]
  const [d1, c1] = DEPTHS[upper] as [number, string]
  const share = Math.min(1, Math.max(0, (depth - d0) / (d1 - d0)))
  const [a, b] = [absorbancesOf(c0), absorbancesOf(c1)]
  return colourOf(a.map((v, i) => v + share * ((b[i] as number) - v)))
}

/** How an ingredient looks: as the house says, else as things of its colour, name or kind do. */
export function lookOf(ingredient: Pick<Ingredient, 'name' | 'kind' | 'colour' | 'look'>): KnownLook {
  if (ingredient.look) return { ...ingredient.look, isAssumed: false }
  if (SPIRITS.includes(ingredient.kind)) {
    const depth = colourDepthOf(ingredient.colour) ?? colourDepthOf(ingredient.name)
    // A blend that says nothing is between; a spirit that says nothing is clear.
    const colour = colourAtDepth(depth ?? (ingredient.kind === 'blend' ? COLOURS.gold.depth : 0))
    return { colour, cloudiness: 0, isAssumed: true }
  }
  const found = BY_WORD.find(([word]) => word.test(ingredient.name))?.[1]
  return { ...(found ?? BY_KIND[ingredient.kind] ?? CLEAR), isAssumed: true }
}

const toLinear = (byte: number) => (byte / 255 <= 0.04045 ? byte / 255 / 12.92 : ((byte / 255 + 0.055) / 1.055) ** 2.4)
const toByte = (linear: number) =>
  Math.round(255 * (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055))
/** Nothing is blacker than this, of the light that falls in. */
const LEAST_LIGHT = 0.0005
const MOST_CLOUDINESS = 0.995

/** Of red, green and blue, in a glass of it. */
function absorbancesOf(colour: string): number[] {
  return [1, 3, 5].map(
    (at) => -Math.log(Math.max(LEAST_LIGHT, toLinear(Number.parseInt(colour.slice(at, at + 2), 16)))),
  )
}
const colourOf = (absorbances: readonly number[]) =>
  `#${absorbances.map((a) => toByte(Math.exp(-a)).toString(16).padStart(2, '0')).join('')}`

/**
 * The look of a mixture: absorbances and cloudiness by volume, with so much water that has none.
 * @param parts volumes in ml
 */
export function mixLooks(parts: readonly { volumeMl: number; look: Look }[], waterMl: number): Look {
  const totalMl = parts.reduce((sum, p) => sum + p.volumeMl, 0) + Math.max(0, waterMl)
  if (!(totalMl > 0)) return CLEAR
  const absorbances = [0, 0, 0]
  let scattering = 0
  for (const { volumeMl, look } of parts) {
    const share = volumeMl / totalMl
    absorbancesOf(look.colour).forEach((a, i) => {
      absorbances[i] = (absorbances[i] as number) + share * a
    })
    scattering += share * -Math.log(1 - Math.min(MOST_CLOUDINESS, look.cloudiness))
  }
  return { colour: colourOf(absorbances), cloudiness: 1 - Math.exp(-scattering) }
}

/** Hue in degrees, saturation and lightness, 0 to 1. */
function hueOf(colour: string) {
  const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255) as [
    number,
    number,
    number,
  ]
  const [most, least] = [Math.max(r, g, b), Math.min(r, g, b)]
  const span = most - least
  const lightness = (most + least) / 2
  const saturation = span === 0 ? 0 : span / (1 - Math.abs(2 * lightness - 1))
  if (span === 0) return { hue: 0, saturation, lightness }
  const sextant = most === r ? ((g - b) / span + 6) % 6 : most === g ? (b - r) / span + 2 : (r - g) / span + 4
  return { hue: 60 * sextant, saturation, lightness }
}

const CLOUDY = 0.25

/** Whether a liquid is brown and cloudy: the look of dishwater, whatever it tastes of. */
export function isMuddy({ colour, cloudiness }: Look): boolean {
  const { hue, saturation, lightness } = hueOf(colour)
  return cloudiness >= CLOUDY && hue >= 12 && hue <= 48 && saturation < 0.75 && lightness < 0.52
}

/** A look in words: "amber, cloudy". */
export function lookWords({ colour, cloudiness }: Look): string {
  const { hue, saturation, lightness } = hueOf(colour)
  const clear = cloudiness < 0.1 ? 'clear' : cloudiness < CLOUDY ? 'hazy' : cloudiness < 0.7 ? 'cloudy' : 'opaque'
  return `${colourName(hue, saturation, lightness)}, ${clear}`
}

function colourName(hue: number, saturation: number, lightness: number): string {
  if (lightness > 0.93 || saturation < 0.08) return lightness > 0.8 ? 'colourless' : lightness < 0.2 ? 'black' : 'grey'
  if (lightness < 0.12) return 'near black'
  const pale = lightness > 0.78 ? 'pale ' : ''
  if (hue < 12 || hue >= 340) return lightness > 0.7 ? 'pink' : 'red'
  if (hue < 48) {
    if (lightness < 0.38) return 'brown'
    if (hue < 25) return lightness > 0.7 ? 'salmon' : 'orange'
    return lightness < 0.52 ? 'amber' : `${pale}gold`
  }
  if (hue < 70) return `${pale}yellow`
  if (hue < 165) return `${pale}green`
  if (hue < 260) return `${pale}blue`
  return `${pale}violet`
}
