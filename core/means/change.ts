import type { IcePortion } from '../cold/index.ts'
import type { ResolvedDrink, ResolvedStage } from '../drink/index.ts'
import { scaleLiquid } from '../liquid/index.ts'

const SCOOP_STEP_G = 5

/**
 * So many times the ice, as a hand scoops: each portion to five grams, never to nothing, and no longer in the words that it
 * was written in. As it is for 1.
 */
export function scoopedTimes(portions: readonly IcePortion[], factor: number): IcePortion[] {
  if (factor === 1) return [...portions]
  const scooped = (massG: number) => Math.max(SCOOP_STEP_G, Math.round((massG * factor) / SCOOP_STEP_G) * SCOOP_STEP_G)
  return portions.map(({ kind, massG }) => ({ kind, massG: massG > 0 ? scooped(massG) : massG }))
}

function withFirstStage(drink: ResolvedDrink, change: (stage: ResolvedStage) => ResolvedStage): ResolvedDrink {
  return { ...drink, stages: drink.stages.map((s, i) => (i === 0 ? change(s) : s)) }
}

/** With about this many times its ice in the first stage: what a hand scoops of it. */
export function withIceTimes(drink: ResolvedDrink, factor: number): ResolvedDrink {
  if (factor === 1) return drink
  return withFirstStage(drink, (s) => {
    const { charges, iceG } = s.parameters
    const ice = scoopedTimes(s.ice, factor)
    // Charges are the portions that weigh something, in their order.
    const ratios = s.ice.flatMap((p, i) => (p.massG > 0 ? [(ice[i]?.massG ?? 0) / p.massG] : []))
    const scaled = charges?.map((c, i) => ({ ...c, massG: c.massG * (ratios[i] ?? factor) }))
    return {
      ...s,
      ice,
      parameters: {
        ...s.parameters,
        iceG: scaled ? scaled.reduce((sum, c) => sum + c.massG, 0) : iceG * factor,
        ...(scaled ? { charges: scaled } : {}),
      },
    }
  })
}

/** With tin and glass of another temperature, °C; what is left out stays. */
export function withColder(drink: ResolvedDrink, tinC: number | undefined, glassC: number | undefined): ResolvedDrink {
  const chilled =
    tinC === undefined
      ? drink
      : withFirstStage(drink, (s) => ({ ...s, parameters: { ...s.parameters, vesselTemperatureC: tinC } }))
  return glassC === undefined ? chilled : { ...chilled, glassTemperatureC: glassC }
}

/** With everything poured from somewhere colder, °C. */
export function withStartC(drink: ResolvedDrink, startC: number): ResolvedDrink {
  return { ...drink, startTemperatureC: startC }
}

/** With this many times the ice that is added in the glass. */
export function withServeIceTimes(drink: ResolvedDrink, factor: number): ResolvedDrink {
  return { ...drink, serveIce: scoopedTimes(drink.serveIce, factor) }
}

/** Everything poured this many times as large. */
export function withPoursTimes(drink: ResolvedDrink, factor: number): ResolvedDrink {
  return {
    ...drink,
    pours: drink.pours.map((p) => ({
      ...p,
      volumeMl: p.volumeMl * factor,
      liquid: scaleLiquid(p.liquid, factor),
    })),
  }
}
