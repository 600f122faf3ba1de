import { changedSchema, type Draft } from '@conch/contract'
import type { Slot } from '@conch/core/palate'
import { formOf } from '@conch/core/schema'
import { slotSchema } from '@conch/core/schema/palate'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { putSlotInHouse } from '../../app/putInHouse.ts'
import { refreshHouse } from '../../app/queries.ts'
import { readStored, writeStored } from '../../app/stored.ts'
import { draftQuery, draftTransport } from '../../drafts/queries.ts'
import { type DraftControl, useDraft } from '../../drafts/useDraft.ts'

export interface SlotDraft {
  control: DraftControl<Slot>
  slot: Slot
  isChanged: boolean
  /** What is wrong, by the field of the slot; `all` for the whole. */
  problems: Record<string, string>
  change: (next: Partial<Slot>) => void
  /** @returns whether it is saved */
  save: () => Promise<boolean>
}

const olderSchema = z.object({ slot: formOf(slotSchema), revision: z.number() })

/** What an earlier page kept on this device only. */
function olderKept(slug: string) {
  const key = `conch:slot:${slug}`
  const kept = readStored(key, olderSchema)
  writeStored(key, undefined)
  return kept && { document: kept.slot, baseVersion: kept.revision, revision: 0 }
}

/**
 * The draft of a slot, shared by everybody who writes on it, until it is saved or dropped.
 * @param saved as it is; of one that is not saved yet what it begins with
 */
export function useSlotDraft(saved: Slot, isNew: boolean, server: Draft<Slot> | null): SlotDraft {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const { slug } = saved
  const now = house.revisions.slots[slug] ?? 0
  const [problems, setProblems] = useState<Record<string, string>>({})
  const transport = useMemo(() => draftTransport('slot', slug, queryClient), [slug, queryClient])
  const control = useDraft<Slot>({
    ...transport,
    key: `slot:${slug}`,
    server,
    beneath: { document: saved, revision: now },
    olderKept: () => olderKept(slug),
  })
  const { draft } = control
  const slot = draft?.document ?? saved
  return {
    control,
    slot,
    isChanged: draft !== undefined || isNew,
    problems,
    change: (next) => {
      setProblems({})
      control.edit({ ...slot, ...next }, draft ? draft.baseVersion : now, saved)
    },
    save: async () => {
      const draftRevision = await control.flush()
      const revision = draft?.baseVersion ?? now
      try {
        const saved = await api.put(`/api/slots/${slug}`, changedSchema, {
          document: slot,
          revision,
          ...(draftRevision === undefined ? {} : { draftRevision }),
        })
        putSlotInHouse(queryClient, slot, saved.revision)
        control.end({ document: slot, baseVersion: saved.revision })
        setProblems({})
        void refreshHouse(queryClient)
        toast(`${slot.name} is saved. Published editions keep what it was.`)
        return true
      } catch (error) {
        const problem = error instanceof ApiError ? error.problem : undefined
        const fields = (problem?.fields ?? []).map((f) => [f.field.replace(/^document\./, ''), f.message])
        setProblems({ all: error instanceof Error ? error.message : String(error), ...Object.fromEntries(fields) })
        if (problem?.code === 'conflict' || problem?.code === 'exists') {
          await refreshHouse(queryClient)
          await queryClient.invalidateQueries({ queryKey: draftQuery('slot', slug).queryKey })
        }
        return false
      }
    },
  }
}
