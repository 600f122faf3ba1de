import { changedSchema } from '@conch/contract'
import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { api } from './api.ts'
import { refreshHouse } from './queries.ts'

/** Saves one thing of the house; a refusal is told where one looks. Says whether it was saved. */
export function useSaveThing() {
  const queryClient = useQueryClient()
  return async (path: string, document: unknown, revision: number): Promise<boolean> => {
    try {
      await api.put(path, changedSchema, { document, revision })
      return true
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
      return false
    } finally {
      await refreshHouse(queryClient)
    }
  }
}
