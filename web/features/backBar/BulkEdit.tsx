import { changedSchema } from '@conch/contract'
import { type Ingredient, PLACES, type Place, STOCK_STATES, type StockState } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { houseQuery } from '../../app/queries.ts'

/** Changes one thing about everything that is picked; one press takes it back. */
export function BulkEdit({ ingredients, onDone }: { ingredients: Ingredient[]; onDone: () => void }) {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const [isBusy, setBusy] = useState(false)

  const put = async (documents: Ingredient[], revisionOf: (slug: string) => number) => {
    const failed: string[] = []
    for (const document of documents) {
      await api
        .put(`/api/ingredients/${document.slug}`, changedSchema, { document, revision: revisionOf(document.slug) })
        .catch((e: Error) => failed.push(`${document.name}: ${e.message}`))
    }
    await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
    if (failed.length > 0) toast.error(failed.join('\n'))
    return failed.length === 0
  }
  const change = async (part: Partial<Ingredient>, words: string) => {
    setBusy(true)
    const revisionOf = (slug: string) => house.revisions.ingredients[slug] ?? 0
    const isDone = await put(
      ingredients.map((i) => ({ ...i, ...part })),
      revisionOf,
    )
    setBusy(false)
    if (!isDone) return
    onDone()
    toast(`${ingredients.length} ${ingredients.length === 1 ? 'thing is' : 'things are'} ${words}.`, {
      action: { label: 'Take it back', onClick: () => void put(ingredients, (slug) => revisionOf(slug) + 1) },
    })
  }
  return (
    <p className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-2 border border-ink bg-paper px-3 py-1.5">
      <span className="mr-2">{ingredients.length} picked:</span>
      <select
        aria-label="Set the stock of what is picked"
        className="field w-auto"
        disabled={isBusy}
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
        disabled={isBusy}
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
      <button type="button" className="act act-quiet ml-auto" onClick={onDone}>
        Pick none
      </button>
    </p>
  )
}
