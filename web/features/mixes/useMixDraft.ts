import type { Recipe } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { houseQuery } from '../../app/queries.ts'
import { readStored, SEALED_KEYS, writeStored } from '../../app/stored.ts'

interface Kept {
  document: Ingredient
  /** The revision it was begun on; null: on top of whatever stands there now. */
  revision: number | null
}

export interface MixDraft {
  /** As it stands on the sheet. */
  mix: Ingredient
  recipe: Recipe
  isChanged: boolean
  problem: string | undefined
  /** Why it is changed: kept with the recipe. */
  reason: string
  setReason: (reason: string) => void
  canUndo: boolean
  change: (next: Partial<Ingredient>) => void
  changeRecipe: (next: Partial<Recipe>) => void
  undo: () => void
  drop: () => void
  save: () => Promise<void>
}

const isSame = (a: Ingredient, b: Ingredient) => JSON.stringify(a) === JSON.stringify(b)
/** What is sealed goes with whoever may open it: see forgetSealed. */
const keyOf = ({ slug, isSealed }: Ingredient) => `${isSealed ? SEALED_KEYS : 'conch:'}mix:${slug}`

/** A mix being changed on this device: kept through a reload until it is saved or dropped. */
export function useMixDraft(saved: Ingredient & { recipe: Recipe }): MixDraft {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const { slug } = saved
  const now = house.revisions.ingredients[slug] ?? 0
  const key = keyOf(saved)
  const [kept, setKept] = useState<Kept | undefined>(() => readStored<Kept>(key))
  const [reason, setReason] = useState('')
  const [past, setPast] = useState<Ingredient[]>([])
  const [problem, setProblem] = useState<string>()
  useEffect(() => writeStored(key, kept), [kept, key])
  const mix = kept?.document ?? saved
  const change = (next: Partial<Ingredient>) => {
    setPast([...past, mix])
    setKept({ document: { ...mix, ...next }, revision: kept ? kept.revision : now })
  }
  const recipe = mix.recipe ?? saved.recipe
  const forget = () => {
    setKept(undefined)
    setPast([])
    setReason('')
    setProblem(undefined)
  }
  return {
    mix,
    recipe,
    isChanged: kept !== undefined,
    problem,
    reason,
    setReason,
    canUndo: past.length > 0,
    change,
    changeRecipe: (next) => change({ recipe: { ...recipe, ...next } }),
    undo: () => {
      const before = past[past.length - 1]
      if (!before || !kept) return
      setPast(past.slice(0, -1))
      setKept(isSame(before, saved) ? undefined : { ...kept, document: before })
    },
    drop: forget,
    save: async () => {
      if (!kept) return
      try {
        await api.put(`/api/ingredients/${slug}`, {
          document: kept.document,
          revision: kept.revision ?? now,
          ...(reason.trim() ? { reason: reason.trim() } : {}),
        })
        forget()
        toast(`${kept.document.name} is saved. Lots that are made already stay what they are.`)
      } catch (error) {
        const isStale = error instanceof ApiError && error.problem?.code === 'conflict'
        setProblem(
          isStale
            ? 'Somebody else saved this mix meanwhile. Drop yours to see theirs, or save again to put yours on top; theirs stays in the book.'
            : error instanceof Error
              ? error.message
              : String(error),
        )
        if (isStale) setKept({ ...kept, revision: null })
      } finally {
        await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
        await queryClient.invalidateQueries({ queryKey: ['recipes', slug] })
      }
    },
  }
}
