import { MODEL_VERSION } from '../cold/index.ts'
import type { Station } from './schema.ts'

/** Whether somebody typed how this gear works for another model of the ice than today's, and nobody has said it again. */
export function isForAnotherModel({ parameters, confirmedModel }: Station): boolean {
  const isTyped = parameters.uaWPerK !== undefined || parameters.stirringPowerW !== undefined
  return isTyped && confirmedModel !== MODEL_VERSION
}

/** What a station's gear does differently from its method's preset, as far as it counts under today's model. */
export function gearOf(station: Station): Station['parameters'] {
  if (!isForAnotherModel(station)) return station.parameters
  const { uaWPerK: _, stirringPowerW: __, ...others } = station.parameters
  return others
}
