import { type Drink, drinkSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { DRINKS_KEY, drinkQuery } from '../../app/queries.ts'
import { AskFirst } from '../../ui/AskFirst.tsx'

const deleted = z.object({ deleted: z.literal(true) })

/** A drink that was begun by mistake, before it has a version. */
export function ThrowAway({ drink }: { drink: Drink }) {
  const [isAsked, setAsked] = useState(false)
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const throwAway = async () => {
    await api.delete(`/api/drinks/${drink.slug}`, deleted)
    navigate('/drinks')
    queryClient.removeQueries({ queryKey: drinkQuery(drink.slug).queryKey })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    toast(`${drink.name} is thrown away.`)
  }
  return (
    <>
      <button type="button" className="act act-quiet" onClick={() => setAsked(true)}>
        Throw away …
      </button>
      {isAsked && (
        <AskFirst
          title={`Throw ${drink.name} away?`}
          lead="It has no version yet. Once it has one it stays, and can only be put out of the way."
          close="Keep it"
          main="Throw it away"
          onClose={() => setAsked(false)}
          onYes={() => throwAway().catch((error: Error) => toast.error(error.message))}
        />
      )}
    </>
  )
}

/** Puts a drink out of the way of those who search, or back among the others. */
export function HideSwitch({ drink }: { drink: Drink }) {
  const queryClient = useQueryClient()
  const hide = async (isHidden: boolean) => {
    const changed = await api.put(`/api/drinks/${drink.slug}/hidden`, formOf(drinkSchema), { isHidden })
    queryClient.setQueryData(drinkQuery(drink.slug).queryKey, changed)
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    if (isHidden)
      toast(`${drink.name} is out of the way; nothing of it is gone.`, {
        action: { label: 'Take it back', onClick: () => void hide(false).catch((e: Error) => toast.error(e.message)) },
      })
  }
  return (
    <button
      type="button"
      className="act act-quiet"
      aria-pressed={drink.isHidden}
      onClick={() => hide(!drink.isHidden).catch((e: Error) => toast.error(e.message))}
    >
      {drink.isHidden ? 'Bring it back' : 'Hide'}
    </button>
  )
}
