import { changedSchema, type Foresee } from '@conch/contract'
import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { ApiError, api } from '../app/api.ts'
import { untilSaved } from '../app/leaving.ts'
import { refreshHouse } from '../app/queries.ts'
import { foretell } from './BeforeSaving.tsx'
import { askBeforeSaving } from './question.ts'
import { hurts, isOnMenu } from './words.ts'

/** What is saved as soon as one leaves it, by its address. */
function changeAt(path: string, document: unknown): Foresee | undefined {
  if (path === '/api/house/settings') return { kind: 'settings', document } as Foresee
  const kind = /^\/api\/(wells|glasses|ingredients|slots)\//.exec(path)?.[1]
  return kind === undefined ? undefined : ({ kind, document } as Foresee)
}

/** Whether it may be saved: what hurts the menu is asked about first. A house that cannot say keeps nobody from it. */
async function mayBeSaved(path: string, document: unknown): Promise<boolean> {
  const change = changeAt(path, document)
  if (!change) return true
  try {
    const foresight = await foretell(change)
    return foresight.drinks.some((d) => isOnMenu(d) && hurts(d)) ? await askBeforeSaving(foresight) : true
  } catch (error) {
    if (error instanceof ApiError) return true
    throw error
  }
}

async function saveAt(path: string, document: unknown, revision: number): Promise<boolean> {
  if (!(await mayBeSaved(path, document))) return false
  await api.put(path, changedSchema, { document, revision })
  return true
}

/** Saves one thing of the house; a refusal is told where one looks. Says whether it was saved. */
export function useSaveThing() {
  const queryClient = useQueryClient()
  return async (path: string, document: unknown, revision: number): Promise<boolean> => {
    try {
      return await untilSaved(saveAt(path, document, revision))
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
      return false
    } finally {
      await refreshHouse(queryClient)
    }
  }
}
