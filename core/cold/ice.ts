/** What an ice kind is like. A house measures its own; these are the shipped starting values. */
export interface Ice {
  label: string
  /** Share of the scooped mass that is water on the surface, 0 to 1. */
  surfaceWaterFraction: number
  /** Share of the bulk volume that is solid when packed; 1 for a single block. */
  packedSolidFraction: number
  temperatureC: number
}

export const ICE_KINDS = {
  freezerCube: { label: 'dry cubes', surfaceWaterFraction: 0.01, packedSolidFraction: 0.52, temperatureC: -12 },
  machineCube: { label: 'cubes', surfaceWaterFraction: 0.03, packedSolidFraction: 0.52, temperatureC: -1 },
  cracked: { label: 'cracked', surfaceWaterFraction: 0.05, packedSolidFraction: 0.55, temperatureC: -1 },
  crushed: { label: 'crushed', surfaceWaterFraction: 0.08, packedSolidFraction: 0.6, temperatureC: -0.5 },
  pebble: { label: 'pebble', surfaceWaterFraction: 0.14, packedSolidFraction: 0.6, temperatureC: -0.2 },
  bigCube: { label: 'one big cube', surfaceWaterFraction: 0.005, packedSolidFraction: 1, temperatureC: -8 },
} as const satisfies Record<string, Ice>

export type IceKind = keyof typeof ICE_KINDS

/** A measured amount of one kind of ice. */
export interface IcePortion {
  kind: IceKind
  massG: number
}

/** One kind's figures as this house measured them. */
export type IceFigures = Partial<Omit<Ice, 'label'>>

/** Several portions as one: masses add, the rest is weighted by mass; `undefined` for no ice. */
export function mixIce(
  portions: readonly IcePortion[],
  measured: Partial<Record<IceKind, IceFigures>> = {},
): { massG: number; surfaceWaterFraction: number; temperatureC: number; packedSolidFraction: number } | undefined {
  const massG = portions.reduce((sum, p) => sum + p.massG, 0)
  if (massG <= 0) return undefined
  const weighted = (figure: keyof Omit<Ice, 'label'>) =>
    portions.reduce((sum, p) => sum + p.massG * (measured[p.kind]?.[figure] ?? ICE_KINDS[p.kind][figure]), 0) / massG
  return {
    massG,
    surfaceWaterFraction: weighted('surfaceWaterFraction'),
    temperatureC: weighted('temperatureC'),
    packedSolidFraction: weighted('packedSolidFraction'),
  }
}
