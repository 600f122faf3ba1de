import type { Liquid } from '../liquid/index.ts'
import type { IceKind } from './ice.ts'

/** Pieces of ice of one kind. The ice is dry: its surface water has joined the liquid. */
export interface IcePile {
  /** Left out: ice of no kind in particular. */
  kind?: IceKind
  massG: number
  /** Of the core. */
  temperatureC: number
}

/** A liquid with solid ice in it. */
export interface Mixture {
  liquid: Liquid
  temperatureC: number
  ice: readonly IcePile[]
}

/** All the solid ice in it, g. */
export function iceGOf({ ice }: Pick<Mixture, 'ice'>): number {
  return ice.reduce((sum, p) => sum + p.massG, 0)
}
