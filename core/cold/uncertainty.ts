import type { Method } from './methods.ts'

/** Volumes before ice, ml. */
export interface VolumeRange {
  lowMl: number
  highMl: number
}

/** What the presets were held against: what bars teach, which knows no volume, agrees with them here. */
const PRESET_VOLUMES: VolumeRange = { lowMl: 105, highMl: 105 }

/**
 * How much less is known of the dilution for each natural logarithm of the volume away from what was tried, as a
 * fraction. Heat of the tin, surface water and conductance are the same for less liquid by the model and unknown by
 * the rules that are taught: at 75 to 150 ml they part by +19 to −17 % of the dilution shaken, +28 to −25 % stirred. The
 * truth is taken to lie between: half of it.
 */
const PER_LN_VOLUME = { worked: 0.25, still: 0.38 } as const
const STILL: readonly Method[] = ['stir', 'swizzle', 'build']

const MOST_UNCERTAIN = 0.6

/**
 * How far off the dilution of a stage may be, as a fraction of itself: what is known of its gear, and how far its volume
 * is from the volumes of which that is known.
 * @param volumeMl before ice
 * @param known volumes of the trials behind `ownFraction`; left out: those of the presets
 */
export function dilutionUncertainty(
  ownFraction: number,
  method: Method | undefined,
  volumeMl: number,
  known: VolumeRange = PRESET_VOLUMES,
): number {
  if (!(volumeMl > 0)) return ownFraction
  const nearestMl = Math.min(known.highMl, Math.max(known.lowMl, volumeMl))
  const perLn = method && STILL.includes(method) ? PER_LN_VOLUME.still : PER_LN_VOLUME.worked
  return Math.min(MOST_UNCERTAIN, Math.hypot(ownFraction, perLn * Math.log(volumeMl / nearestMl)))
}
