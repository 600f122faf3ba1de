import { type Ingredient, nameIn } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { drinkPageQuery } from '../../app/queries.ts'
import { useShelf } from '../../app/shelf.ts'
import type { Found } from '../../ui/FindOne.tsx'
import { useSettled } from '../../ui/useSettled.ts'
import { drinkId, thingId } from './comparedThings.ts'

const TYPING_MS = 120
const DRINKS_FOUND = 12
const MOST_FOUND = 40
/** Versions of a drink that are offered, the newest first. */
const MOST_VERSIONS = 12
const versionsDown = (latest: number | null, only?: number) =>
  Array.from({ length: latest ?? 0 }, (_, i) => (latest ?? 0) - i)
    .filter((v) => only === undefined || v === only)
    .slice(0, MOST_VERSIONS)

/** What can be put into the chart by what is typed, and is not there yet. */
export function useOffered(typed: string, ids: readonly string[]) {
  const { book } = useHouse()
  // "low water bell, v1": its name, and which version of it.
  const asOf = /[\s,]*\bv(\d+)\s*$/i.exec(typed)
  const wantedVersion = asOf ? Number(asOf[1]) : undefined
  const typedName = typed.slice(0, asOf?.index ?? typed.length).trim()
  const words = useSettled(typedName, TYPING_MS)
  const nearDrinks = useQuery(drinkPageQuery({ words, made: 'yes', limit: DRINKS_FOUND }))
  const near = nearDrinks.data
  const wanted = useMemo(() => (words === '' ? undefined : { words, limit: MOST_FOUND }), [words])
  const nearThings = useShelf(wanted)
  const things = book.ingredients.filter((i) => i.figures.abvPct.value > 0)
  const offered = things.filter((i) => nearThings.picked.includes(i.slug))
  const isFree = (t: { id: string }) => !ids.includes(t.id)
  const named = (i: Ingredient): Found => ({ id: thingId(i.slug), name: nameIn(book.ingredients, i.slug) })
  const groups = [
    {
      heading: near?.isNear ? 'Drinks near it' : 'Drinks',
      things: (near?.rows ?? []).flatMap((d) =>
        versionsDown(d.latestVersion, wantedVersion).map((v) => ({
          id: drinkId(d.slug, v),
          name: d.latestVersion === 1 ? d.name : `${d.name}, v${v}`,
          words,
        })),
      ),
    },
    { heading: 'Blends', things: offered.filter((i) => i.kind === 'blend').map(named) },
    { heading: 'Back bar', things: offered.filter((i) => i.kind !== 'blend').map(named) },
  ].map(({ heading, things: all }) => ({
    heading,
    things: all.filter(isFree).slice(0, MOST_FOUND),
  }))
  return { groups, isLooking: typedName !== words || nearDrinks.isPlaceholderData || !nearThings.isReady }
}
