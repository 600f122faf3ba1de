import type { IcePortion } from '../cold/index.ts'
import type { ResolvedDrink, ResolvedStage } from '../drink/index.ts'
import { scaleLiquid } from '../liquid/index.ts'

/** Portions with other masses, to the gram. */
export function scalePortions(portions: readonly IcePortion[], factor: number): IcePortion[] {
  return portions.map((p) => ({ ...p, massG: p.massG * factor }))
}

function withFirstStage(drink: ResolvedDrink, change: (stage: ResolvedStage) => ResolvedStage): ResolvedDrink {
  return { ...drink, stages: drink.stages.map((s, i) => (i === 0 ? change(s) : s)) }
}

/** With this many times its ice in the first stage. */
export function withIceTimes(drink: ResolvedDrink, factor: number): ResolvedDrink {
  if (factor === 1) return drink
  return withFirstStage(drink, (s) => ({
    ...s,
    ice: scalePortions(s.ice, factor),
    parameters: {
      ...s.parameters,
      iceG: s.parameters.iceG * factor,
      ...(s.parameters.charges
        ? { charges: s.parameters.charges.map((c) => ({ ...c, massG: c.massG * factor })) }
        : {}),
    },
  }))
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
  return { ...drink, serveIce: scalePortions(drink.serveIce, factor) }
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
