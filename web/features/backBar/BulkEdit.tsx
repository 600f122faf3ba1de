import { type ChangeMany, changedManySchema } from '@conch/contract'
import { type Ingredient, PLACES, type Place, STOCK_STATES, type StockState } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { useShelfOf } from '../../app/shelf.ts'

/** Changes one thing about everything that is picked; one press takes it back. */
export function BulkEdit({ slugs, onDone }: { slugs: readonly string[]; onDone: () => void }) {
  const { house } = useHouse()
  const isKnown = useShelfOf(slugs).isReady
  const ingredients = house.ingredients.filter((i) => slugs.includes(i.slug))
  const queryClient = useQueryClient()
  const [isBusy, setBusy] = useState(false)

  type Set = Pick<ChangeMany['changes'][number], 'stock' | 'storedIn'>
  /** One write: all of it, or nothing. */
  const put = async (setOf: (i: Ingredient) => Set, revisions: Record<string, number>) => {
    try {
      const changes = ingredients.map((i) => ({ slug: i.slug, revision: revisions[i.slug] ?? 0, ...setOf(i) }))
      return await api.put('/api/ingredients', changedManySchema, { changes })
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
      return undefined
    } finally {
      await refreshHouse(queryClient)
    }
  }
  const change = async (set: Set, words: string) => {
    setBusy(true)
    const done = await put(() => set, house.revisions.ingredients)
    setBusy(false)
    if (!done) return
    onDone()
    const asBefore = (i: Ingredient): Set => ({
      ...(set.stock === undefined ? {} : { stock: i.stock ?? null }),
      ...(set.storedIn === undefined ? {} : { storedIn: i.storedIn }),
    })
    toast(`${ingredients.length} ${ingredients.length === 1 ? 'thing is' : 'things are'} ${words}.`, {
      action: { label: 'Take it back', onClick: () => void put(asBefore, done.revisions) },
    })
  }
  return (
    <>
      <select
        aria-label="Set the stock of what is picked"
        className="field w-auto"
        disabled={isBusy || !isKnown}
        value=""
        onChange={(e) => {
          const stock = e.target.value as StockState
          change({ stock }, STOCK_STATES[stock])
        }}
      >
        <option value="">stock …</option>
        {Object.entries(STOCK_STATES).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
      <select
        aria-label="Set where what is picked is kept"
        className="field w-auto"
        disabled={isBusy || !isKnown}
        value=""
        onChange={(e) => {
          const storedIn = e.target.value as Place
          change({ storedIn }, `kept ${PLACES[storedIn]}`)
        }}
      >
        <option value="">kept …</option>
        {Object.entries(PLACES).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
    </>
  )
}
