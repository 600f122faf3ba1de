import type { Slot } from '@conch/core/style'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { houseQuery } from '../../app/queries.ts'
import { readStored, writeStored } from '../../app/stored.ts'

interface Kept {
  slot: Slot
  revision: number
}

export interface SlotDraft {
  slot: Slot
  isChanged: boolean
  /** What is wrong, by the field of the slot; `all` for the whole. */
  problems: Record<string, string>
  change: (next: Partial<Slot>) => void
  undo: () => void
  canUndo: boolean
  drop: () => void
  /** @returns whether it is saved */
  save: () => Promise<boolean>
}

/** A slot being changed on this device: kept through a reload until it is saved or dropped. */
export function useSlotDraft(saved: Slot, isNew: boolean): SlotDraft {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const key = `conch:slot:${isNew ? 'new' : saved.slug}`
  const [kept, setKept] = useState<Kept | undefined>(() => readStored<Kept>(key))
  const [past, setPast] = useState<Slot[]>([])
  const [problems, setProblems] = useState<Record<string, string>>({})
  useEffect(() => writeStored(key, kept), [key, kept])
  const slot = kept?.slot ?? saved
  const revision = kept?.revision ?? house.revisions.slots[saved.slug] ?? 0
  const forget = () => {
    setKept(undefined)
    setPast([])
    setProblems({})
  }
  return {
    slot,
    isChanged: kept !== undefined,
    problems,
    change: (next) => {
      setPast([...past, slot])
      setKept({ slot: { ...slot, ...next }, revision })
    },
    canUndo: past.length > 0,
    undo: () => {
      const before = past.at(-1)
      if (!before) return
      setPast(past.slice(0, -1))
      setKept(JSON.stringify(before) === JSON.stringify(saved) ? undefined : { slot: before, revision })
    },
    drop: forget,
    save: async () => {
      try {
        await api.put(`/api/slots/${slot.slug}`, { document: slot, revision: isNew ? 0 : revision })
        await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
        writeStored(key, undefined)
        forget()
        toast(`${slot.name} is saved. Published editions keep what it was.`)
        return true
      } catch (error) {
        const problem = error instanceof ApiError ? error.problem : undefined
        const fields = (problem?.fields ?? []).map((f) => [f.field.replace(/^document\./, ''), f.message])
        setProblems({ all: error instanceof Error ? error.message : String(error), ...Object.fromEntries(fields) })
        if (problem?.code === 'conflict') {
          await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
          setKept({ slot, revision: revision + 1 })
        }
        return false
      }
    },
  }
}
