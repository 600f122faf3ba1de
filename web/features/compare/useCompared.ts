import type { ShownDrink } from '@conch/contract'
import { bySlug, type Ingredient, nameIn } from '@conch/core/house'
import type { StyleProfile } from '@conch/core/palate'
import { useQuery } from '@tanstack/react-query'
import { useHouse } from '../../app/house.tsx'
import { versionsQuery } from '../../app/queries.ts'
import { useShelfFor, useShelfOf } from '../../app/shelf.ts'
import type { ScatterPoint } from '../../graphics/ScatterMap.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { type GlassAnswer, useGlasses } from '../../workers/compute.ts'
import { glassAt } from '../drink/index.ts'
import { baseProfile, drinkId, thingId, thingSlugOf, versionKeyOf } from './comparedThings.ts'

export const UNITS = {
  sweet: 'g sugar/100 ml',
  sour: 'g acid/100 ml',
  strength: '% ABV',
  volume: 'ml',
  weight: 'steps',
  funk: 'steps',
  oak: 'steps of wood',
} as const

/** One thing among those compared, with the figures of its chart. */
export interface Compared {
  id: string
  name: string
  href: string
  shape: ScatterPoint['shape']
  /** What is not known is not in the chart. */
  figures: Partial<Record<keyof typeof UNITS, number>>
  profile: StyleProfile
  glass:
    | {
        answer: Extract<GlassAnswer, { ok: true }>
        vessel: { profile: { heightMm: number; radiusMm: number }[]; stemMm: number }
      }
    | undefined
}

/** What is compared, each with its figures as it is poured now. */
export function useCompared(ids: readonly string[], menu: readonly ShownDrink[] | undefined) {
  const { book, well } = useHouse()
  const keys = ids.flatMap(versionKeyOf)
  const found = useQuery({ ...versionsQuery(keys), enabled: keys.length > 0 }).data
  const versions = keys.length > 0 ? (found ?? []) : []
  const isTwice = (drink: string) => versions.filter((v) => v.drink === drink).length > 1
  const chosen = versions.map(({ drink, number, document }) => ({
    id: drinkId(drink, number),
    name:
      isTwice(drink) || !menu?.some((d) => d.drink === drink && d.version === number)
        ? `${document.name}, v${number}`
        : document.name,
    href: `/drinks/${drink}?v=${number}`,
    document,
  }))
  const documents = chosen.map((v) => v.document)
  const poured = useShelfFor(documents)
  useShelfOf(ids.flatMap(thingSlugOf))
  const answers = useGlasses(documents, book, well.slug, poured.isReady)
  const compared: Compared[] = [
    ...chosen.flatMap((v, i): Compared[] => {
      const answer = answers[i]
      if (!answer?.ok) return []
      const p = answer.result.predictions
      const glass = bySlug(book.glasses, glassAt(v.document, well.slug))
      const profile = v.document.glassProfile ?? glass?.profile
      const base = baseProfile(v.document, book, well.slug)
      return [
        {
          ...v,
          shape: 'circle',
          figures: {
            sweet: p.sweetGPer100Ml?.value ?? 0,
            sour: p.sourGPer100Ml?.value ?? 0,
            strength: p.strengthPct?.value ?? 0,
            volume: p.volumeMl?.value ?? 0,
            ...styleFigures(base),
          },
          profile: base,
          glass: profile && { answer, vessel: { profile, stemMm: glass?.stemMm ?? 0 } },
        },
      ]
    }),
    ...book.ingredients
      .filter((i) => i.figures.abvPct.value > 0)
      .filter((i) => ids.includes(thingId(i.slug)))
      .map((i) => comparedThing(i, nameIn(book.ingredients, i.slug), book.profiles?.[i.slug])),
  ]
  return { compared, isComputing: chosen.length > 0 && answers.every((a) => a === undefined) }
}

const styleFigures = ({ weight, funk, oak }: StyleProfile): Compared['figures'] => ({
  ...(weight ? { weight: weight.value } : {}),
  ...(funk ? { funk: funk.value } : {}),
  ...(oak ? { oak: oak.value } : {}),
})

function comparedThing(i: Ingredient, name: string, profile: StyleProfile | undefined): Compared {
  const f = i.figures
  return {
    id: thingId(i.slug),
    name,
    href: placeOf(i),
    shape: i.kind === 'blend' ? 'rect' : 'triangle',
    figures: {
      sweet: f.sugarGPer100Ml.value,
      sour: f.acidGPer100Ml.value,
      strength: f.abvPct.value,
      volume: i.size ?? 700,
      ...styleFigures(profile ?? {}),
    },
    profile: profile ?? {},
    glass: undefined,
  }
}
