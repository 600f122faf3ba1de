/** How a version is made and served at a well, in words. Plain functions. */

import { ICE_KINDS, type IcePortion, METHODS, POURS } from '@conch/core/cold'
import type { DrinkDocument, Stage } from '@conch/core/drink'
import { bySlug, type HouseBook } from '@conch/core/house'
import { secondsText } from '../../graphics/format.ts'
import { glassAt, serveIceAt } from '../drink/index.ts'

const iceWords = (ice: readonly IcePortion[]) =>
  ice.map((p) => `${Math.round(p.massG)} g ${ICE_KINDS[p.kind].label}`).join(' + ')

function stageWords(stage: Stage, { wells }: HouseBook, well: string): string {
  const here = stage.byWell?.[well]
  const station = bySlug(bySlug(wells, well)?.stations ?? [], stage.station)
  const method = stage.method ? METHODS[stage.method].label : (station?.name ?? stage.station ?? 'a stage')
  const seconds = here?.durationS ?? stage.durationS
  const ice = here?.ice ?? stage.ice
  return [
    method,
    seconds !== undefined && secondsText(seconds),
    ice && iceWords(ice),
    stage.pour && POURS[stage.pour].label,
  ]
    .filter(Boolean)
    .join(', ')
}

/** Each of its lines; what there is none of is left out. */
export function specWords(document: DrinkDocument, book: HouseBook, well: string) {
  const glass = bySlug(book.glasses, glassAt(document, well))
  const ice = serveIceAt(document, well)
  return {
    method: document.stages.map((s) => stageWords(s, book, well)),
    glass: glass?.name ?? (document.glassProfile ? 'a glass of its own' : 'no glass'),
    ice: ice.length > 0 ? iceWords(ice) : undefined,
    garnish: document.garnish.map((g) => g.text).join(', ') || undefined,
  }
}
