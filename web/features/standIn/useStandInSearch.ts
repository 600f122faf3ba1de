import { changedSchema } from '@conch/contract'
import type { PourLine } from '@conch/core/drink'
import { pourGrid, usualMeasures, volumeMlOfAmount } from '@conch/core/measure'
import {
  DEFAULT_LIMIT_STEPS,
  isSweetened,
  type Missing,
  refusedFor,
  SPIRIT_WEIGHTS,
  type StandInAnswer,
  type StandInWeights,
  SWEET_WEIGHTS,
  standInBottles,
  standInLines,
  targetOf,
} from '@conch/core/standin'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, refreshHouse } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { useStandInEffect, useStandIns } from '../../workers/compute.ts'
import { type ReplaceLine, withLines } from '../drink/index.ts'
import { correctedSeconds } from './InTheGlass.tsx'

/** The spec line that somebody came from. */
export interface AskedLine {
  drink: string
  version: number | 'draft' | undefined
  index: number
}

/** Bottles that are searched: the nearest by themselves. */
export const MOST_SEARCHED = 120

/** What counts how much and what is left out: as the house weighs it, until somebody says otherwise for this search. */
function useWeights(missing: Missing) {
  const { book, house } = useHouse()
  const queryClient = useQueryClient()
  const sweet = isSweetened(missing)
  const own = book.settings.standIn
  const usual: StandInWeights = (sweet ? own?.sweetWeights : own?.weights) ?? (sweet ? SWEET_WEIGHTS : SPIRIT_WEIGHTS)
  const usualLimit = own?.limitSteps ?? DEFAULT_LIMIT_STEPS
  const [weights, setWeights] = useState(usual)
  const [limitSteps, setLimit] = useState(usualLimit)
  const refused = refusedFor(missing, book.slots ?? [])
  const [without, setWithout] = useState<ReadonlySet<string>>(
    () => new Set([...refused.map((r) => r.slug), ...(own?.without ?? [])]),
  )
  const notTonight = [...without].filter((slug) => !refused.some((r) => r.slug === slug))
  const isOwn =
    JSON.stringify([weights, limitSteps, notTonight]) === JSON.stringify([usual, usualLimit, own?.without ?? []])
  const keepAsOwn = async () => {
    const standIn = { ...own, ...(sweet ? { sweetWeights: weights } : { weights }), limitSteps, without: notTonight }
    await api.put('/api/house/settings', changedSchema, {
      document: { ...house.settings, standIn },
      revision: house.revisions.settings,
    })
    await refreshHouse(queryClient)
    toast('The house weighs stand-ins like this from now on.')
  }
  return { weights, setWeights, limitSteps, setLimit, refused, without, setWithout, notTonight, isOwn, keepAsOwn }
}

/** What one searches for, and how: all that a page of stand-ins knows. */
export function useStandInSearch(missing: Missing, line: AskedLine | undefined) {
  const { book, well } = useHouse()
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const drink = useQuery({ ...drinkQuery(line?.drink ?? ''), enabled: line !== undefined }).data
  const version = drink?.versions.find((v) => v.number === line?.version) ?? drink?.versions.at(-1)
  const document = line?.version === 'draft' ? drink?.draft?.document : version?.document
  useShelfFor([document])
  const asked: PourLine | undefined = line && document?.pours[line.index]
  const { kit, measures } = book.settings
  const askedMl =
    asked && document && (asked.volumeMl ?? (asked.amount && volumeMlOfAmount(asked.amount, kit, document.partMl)))
  const [typedMl, setTypedMl] = useState<number>()
  const volumeMl = typedMl ?? askedMl ?? 2 * kit.ounceMl
  const [stepMl, setStepMl] = useState(kit.ounceMl / 4)
  const weighed = useWeights(missing)
  const { weights, limitSteps, without } = weighed
  const bottles = standInBottles(missing, book, without)
  const target = targetOf(missing, book)
  const units = Math.max(1, Math.round(volumeMl / stepMl))
  const grid = pourGrid(measures ?? usualMeasures(kit))
  const most = grid.at(-1)?.volumeMl ?? 0
  // What is more than two moves can measure is measured in more of them.
  const pourable = Array.from({ length: units }, (_, i) => (i + 1) * stepMl).filter(
    (ml) => ml > most || grid.some((g) => Math.abs(g.volumeMl - ml) < 0.05),
  )
  const isClosed = 'ingredient' in missing && missing.ingredient.closed !== undefined
  const result = useStandIns(
    book,
    isClosed ? undefined : target,
    bottles,
    { volumeMl: units * stepMl, stepMl, weights, limitSteps },
    pourable,
  )
  const answers = result?.byCount.flat() ?? []
  const [chosen, setChosen] = useState<string>()
  const shown = answers.find((a) => keyOf(a) === chosen) ?? bestOf(result?.byCount ?? []) ?? result?.nearest
  const name = 'slot' in missing ? missing.slot.name : missing.ingredient.name
  // A bottle that is struck out is not the chosen one any more.
  useEffect(() => {
    if (chosen && result && !answers.some((a) => keyOf(a) === chosen)) setChosen(undefined)
  }, [chosen, result, answers])
  const lines = shown && asked && standInLines(asked, shown, kit.ounceMl)
  const effect = useStandInEffect(book, line && document, line?.index ?? 0, shown, well.slug)
  const seconds = effect?.ok ? correctedSeconds(effect.effect) : undefined
  const replaced = (pours: PourLine[]): ReplaceLine | undefined =>
    line && asked
      ? {
          index: line.index,
          was: { ingredient: asked.ingredient, slot: asked.slot },
          lines: pours,
          ...(seconds === undefined ? {} : { seconds: { well: well.slug, durationS: seconds } }),
        }
      : undefined
  const found = lines && replaced(lines)
  /** The drink with the answer that is looked at in it. */
  const instead = document && found ? withLines(document, found) : undefined
  /** Takes the lines to the drink, or to its tuner, where the rest is brought after them. */
  const put = (pours: PourLine[], to: 'drink' | 'tuner' = 'drink') => {
    const replaceLine = replaced(pours)
    if (!line || !replaceLine) return
    const asks = new URLSearchParams(line.version === undefined ? {} : { v: String(line.version) })
    // Whoever looks for tonight goes on looking for that.
    const tonight = search.get('tonight')
    if (tonight !== null && to === 'tuner') asks.set('tonight', tonight)
    const page = asks.size > 0 ? `?${asks}` : ''
    navigate(`/drinks/${line.drink}${to === 'tuner' ? '/tune' : ''}${page}`, { state: { replaceLine } })
  }
  return {
    name,
    isClosed,
    drink,
    document,
    asked,
    line,
    volumeMl,
    setTypedMl,
    stepMl,
    setStepMl,
    pouredMl: units * stepMl,
    ...weighed,
    bottles,
    target,
    result,
    answers,
    shown,
    setChosen,
    lines,
    instead,
    effect,
    seconds,
    put,
  }
}

export type StandInSearch = ReturnType<typeof useStandInSearch>

export const keyOf = (a: StandInAnswer) => a.parts.map((p) => `${p.slug} ${p.volumeMl}`).join(' ')

/** A further bottle is opened only for this much nearer, in steps. */
const WORTH_A_BOTTLE = 0.15

/** The nearest, but with fewer bottles where a further one hardly helps. */
function bestOf(byCount: readonly StandInAnswer[][]): StandInAnswer | undefined {
  let best: StandInAnswer | undefined
  for (const [answer] of byCount) {
    if (answer && (!best || answer.distance.steps < best.distance.steps - WORTH_A_BOTTLE)) best = answer
  }
  return best
}
