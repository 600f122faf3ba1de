import { type ImportProgress, importStateSchema } from '@conch/contract'
import { queryOptions } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { api } from '../../app/api.ts'
import { readStored, textSchema, writeStored } from '../../app/stored.ts'

const LOOK_EVERY_MS = 400
/** Who brought a house in opens it, after a reload, too. */
const CAME_IN = 'conch:came-in'
export const storedImport = (): string | undefined => readStored(CAME_IN, textSchema)
export const forgetImport = (): void => writeStored(CAME_IN, undefined)

export const importQuery = (id: string) =>
  queryOptions({ queryKey: ['import', id], queryFn: () => api.get(`/api/import/${id}`, importStateSchema) })

export interface HouseImport {
  progress: ImportProgress | 'sending' | undefined
  error: string | undefined
  /** @returns whether it came in */
  bring: (file: File) => Promise<boolean>
  cancel: () => void
}

/** Sends a copy, or a house file of before, and follows how it comes in. */
export function useImport(): HouseImport {
  const [progress, setProgress] = useState<ImportProgress | 'sending'>()
  const [error, setError] = useState<string>()
  const id = useRef<string>(undefined)
  return {
    progress,
    error,
    bring: async (file) => {
      setError(undefined)
      setProgress('sending')
      try {
        const isPacked = file.name.endsWith('.gz')
        const sent = new Blob([file], { type: isPacked ? 'application/gzip' : 'application/x-ndjson' })
        let state = await api.upload('/api/import', importStateSchema, sent)
        id.current = state.id
        while (state.state === 'running') {
          setProgress(state)
          await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
          state = await lookAgain(state)
        }
        if (state.state === 'done') {
          writeStored(CAME_IN, state.id)
          return true
        }
        setError(state.problem?.detail ?? 'It could not be brought in.')
        return false
      } catch (e) {
        setError(e instanceof Error ? e.message : String(e))
        return false
      } finally {
        setProgress(undefined)
        id.current = undefined
      }
    },
    cancel: () => {
      if (id.current)
        void api
          .upload(`/api/import/${id.current}/cancel`, importStateSchema, new Blob([]))
          .catch((e: Error) => setError(e.message))
    },
  }
}

/** While the new database is put in place nobody is answered for a moment. */
async function lookAgain(state: ImportProgress): Promise<ImportProgress> {
  try {
    return await api.get(`/api/import/${state.id}`, importStateSchema)
  } catch (error) {
    if (error instanceof Error && 'isAway' in error && error.isAway === true) return state
    throw error
  }
}
