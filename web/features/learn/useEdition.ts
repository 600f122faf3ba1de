import { changedSince, type DrinkToLearn, type Question, questionsOf } from '@conch/core/learn'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, editionQuery, editionsQuery, queryClient } from '../../app/queries.ts'
import type { RailDrink } from '../rail/index.ts'

/** The spec of each drink as it is written, whatever was chosen for tonight. */
function written({ drink, version, name }: RailDrink): DrinkToLearn[] {
  const known = queryClient.getQueryData(drinkQuery(drink).queryKey)
  const document = known?.versions.find((v) => v.number === version)?.document
  return document ? [{ drink, name, document }] : []
}

export interface Edition {
  drinks: DrinkToLearn[]
  questions: Question[]
  /** Questions that the edition before had otherwise, or not at all; and what that one is called. */
  changed: Set<string>
  before: string | undefined
}

/** Everything that there is to know of the poured edition at the well one stands at. */
export function useEdition(menu: readonly RailDrink[]): Edition {
  const { book, well } = useHouse()
  const older = useQuery(editionsQuery).data?.[1]
  const lock = useQuery({ ...editionQuery(older?.number ?? 0), enabled: older !== undefined }).data?.lock
  return useMemo(() => {
    const drinks = menu.flatMap(written)
    const questions = questionsOf(drinks, book, well.slug)
    const then = (lock?.chapters ?? []).flatMap((c) =>
      c.drinks.map((d): DrinkToLearn => ({ drink: d.drink, name: d.name, document: d.document })),
    )
    // Of the first edition nothing is changed: all of it is new.
    const changed = lock ? changedSince(questions, questionsOf(then, lock.book, well.slug)) : new Set<string>()
    return { drinks, questions, changed, before: lock && older?.name }
  }, [menu, book, well.slug, lock, older?.name])
}
