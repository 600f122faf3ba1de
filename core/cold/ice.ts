/** What an ice kind is like. A house measures its own; these are the shipped starting values. */
export interface Ice {
  label: string
  /** Share of the scooped mass that is water on the surface, 0 to 1. */
  surfaceWaterFraction: number
  /** Share of the bulk volume that is solid when packed; 1 for a single block. */
  packedSolidFraction: number
  temperatureC: number
  /** How far off the surface water of ice that nobody measured may be, as a fraction of itself. */
  wetnessUncertaintyFraction: number
  /** Surface that a gram offers, beside crushed ice: how several kinds in one tin share the heat. */
  surfaceShare: number
  /** Share that comes through a gated pour: the small pieces do, the big ones stay. */
  gatedThroughFraction: number
  /** Liquid that stays on a gram of this ice when it is strained off, g. */
  clingFraction: number
  /**
   * In which 63 % of the core's heat has passed by conduction when the surface is held, s: the first mode of a cube of
   * edge L, 0.0125·L²/α with α = 1.16e-6 m²/s, rounded (pieces are no sharp cubes): 50, 28, 12, 10 and 6 mm.
   */
  coreS: number
}

/**
 * Chosen, because houses differ and are asked to measure: surface water is what a cold cloth takes off ice as it is scooped,
 * with a wide uncertainty of its own; packing that of loose cubes and grains; surface by the size of the pieces, beside crushed
 * ice; what clings and what passes a gate, by the scale, in grams.
 */
export const ICE_KINDS = {
  freezerCube: {
    label: 'dry cubes',
    surfaceWaterFraction: 0.01,
    packedSolidFraction: 0.52,
    temperatureC: -12,
    wetnessUncertaintyFraction: 0.8,
    surfaceShare: 0.2,
    gatedThroughFraction: 0.05,
    clingFraction: 0.02,
    coreS: 8,
  },
  machineCube: {
    label: 'cubes',
    surfaceWaterFraction: 0.03,
    packedSolidFraction: 0.52,
    temperatureC: -1,
    wetnessUncertaintyFraction: 0.5,
    surfaceShare: 0.2,
    gatedThroughFraction: 0.05,
    clingFraction: 0.03,
    coreS: 8,
  },
  cracked: {
    label: 'cracked',
    surfaceWaterFraction: 0.05,
    packedSolidFraction: 0.55,
    temperatureC: -1,
    wetnessUncertaintyFraction: 0.5,
    surfaceShare: 0.45,
    gatedThroughFraction: 0.3,
    clingFraction: 0.06,
    coreS: 1.5,
  },
  crushed: {
    label: 'crushed',
    surfaceWaterFraction: 0.08,
    packedSolidFraction: 0.6,
    temperatureC: -0.5,
    wetnessUncertaintyFraction: 0.4,
    surfaceShare: 1,
    gatedThroughFraction: 0.85,
    clingFraction: 0.14,
    coreS: 0.4,
  },
  pebble: {
    label: 'pebble',
    surfaceWaterFraction: 0.14,
    packedSolidFraction: 0.6,
    temperatureC: -0.2,
    wetnessUncertaintyFraction: 0.4,
    surfaceShare: 0.8,
    gatedThroughFraction: 0.7,
    clingFraction: 0.12,
    coreS: 1.0,
  },
  bigCube: {
    label: 'one big cube',
    surfaceWaterFraction: 0.005,
    packedSolidFraction: 1,
    temperatureC: -8,
    wetnessUncertaintyFraction: 0.8,
    surfaceShare: 0.08,
    gatedThroughFraction: 0,
    clingFraction: 0.01,
    coreS: 26,
  },
} as const satisfies Record<string, Ice>

export type IceKind = keyof typeof ICE_KINDS

/** Of ice that nobody named a kind of. */
export const NO_KIND: Pick<Ice, 'surfaceShare' | 'coreS'> = { surfaceShare: 1, coreS: 3 }

/** A measured amount of one kind of ice. */
export interface IcePortion {
  kind: IceKind
  massG: number
  /** As a bar says it: "2 scoops", "to the line". */
  asWritten?: string | undefined
  /** The grams are what fills the glass so far. */
  fill?: IceFill | undefined
}
/** How far a glass is filled with ice: up to where the drink should stand, or half of it before anything is poured. */
export const ICE_FILLS = ['toLine', 'halfGlass'] as const
export type IceFill = (typeof ICE_FILLS)[number]

type Measurable = 'surfaceWaterFraction' | 'packedSolidFraction' | 'temperatureC'
/** One kind's figures as this house measured them. */
export type IceFigures = Partial<Pick<Ice, Measurable>>

/** One kind of ice as it goes into a stage: as scooped, its surface water included. */
export interface IceCharge {
  /** Left out: ice of no kind in particular. */
  kind?: IceKind
  massG: number
  temperatureC: number
  surfaceWaterFraction: number
}

/** Each portion with its figures, measured ones first. */
export function chargesOf(
  portions: readonly IcePortion[],
  measured: Partial<Record<IceKind, IceFigures>> = {},
): IceCharge[] {
  return portions
    .filter((p) => p.massG > 0)
    .map(({ kind, massG }) => ({
      kind,
      massG,
      temperatureC: measured[kind]?.temperatureC ?? ICE_KINDS[kind].temperatureC,
      surfaceWaterFraction: measured[kind]?.surfaceWaterFraction ?? ICE_KINDS[kind].surfaceWaterFraction,
    }))
}

/** The kind that most of the ice is of; undefined for none. */
export function mainKindOf(portions: readonly IcePortion[]): IceKind | undefined {
  return [...portions].sort((a, b) => b.massG - a.massG).find((p) => p.massG > 0)?.kind
}

/** Several portions as one: masses add, the rest is weighted by mass; `undefined` for no ice. */
export function mixIce(
  portions: readonly IcePortion[],
  measured: Partial<Record<IceKind, IceFigures>> = {},
): { massG: number; surfaceWaterFraction: number; temperatureC: number; packedSolidFraction: number } | undefined {
  const massG = portions.reduce((sum, p) => sum + p.massG, 0)
  if (massG <= 0) return undefined
  const weighted = (figure: Measurable) =>
    portions.reduce((sum, p) => sum + p.massG * (measured[p.kind]?.[figure] ?? ICE_KINDS[p.kind][figure]), 0) / massG
  return {
    massG,
    surfaceWaterFraction: weighted('surfaceWaterFraction'),
    temperatureC: weighted('temperatureC'),
    packedSolidFraction: weighted('packedSolidFraction'),
  }
}
