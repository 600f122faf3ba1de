import { type SplitPrep, splitPrepSchema } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api } from '../../app/api.ts'
import { peopleQuery } from '../../app/queries.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { HalfSheet } from './HalfSheet.tsx'
import { splitPrepsQuery } from './useSplitPreps.ts'

/** Deals a sealed batch to two people: each gets half a sheet, under their name alone. */
export function DealDialog({
  ingredient,
  writtenMl,
  onClose,
}: {
  ingredient: Ingredient
  /** What the recipe as written yields. */
  writtenMl: number
  onClose: () => void
}) {
  const queryClient = useQueryClient()
  const [volumeMl, setVolumeMl] = useState(Math.max(700, Math.round(writtenMl)))
  const people = (useQuery(peopleQuery).data ?? []).filter((p) => p.isActive)
  // Managers know it all anyway: the others come first.
  const names = [...people.filter((p) => p.role !== 'manager'), ...people.filter((p) => p.role === 'manager')].map(
    (p) => p.name,
  )
  const [chosen, setHands] = useState<[string?, string?]>([])
  const hands = [chosen[0] ?? names[0] ?? '', chosen[1] ?? names[1] ?? ''] as const
  const [error, setError] = useState<string>()
  const [dealt, setDealt] = useState<SplitPrep>()
  const deal = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const request = { ingredient: ingredient.slug, factor: volumeMl / writtenMl, hands }
      setDealt(await api.post('/api/split-preps', splitPrepSchema, request))
      setError(undefined)
      await queryClient.invalidateQueries({ queryKey: splitPrepsQuery.queryKey })
    } catch (e) {
      setError(e instanceof Error ? e.message : String(e))
    }
  }
  return (
    <Dialog
      isOpen
      width={620}
      onClose={onClose}
      title={`${ingredient.name} in two hands`}
      lead="Each weighs half of the bottles into a jug of their own; neither sheet has them all, nor the total. Whoever weighed one half once is never dealt the other."
    >
      {dealt ? (
        <>
          {dealt.sheets.map((s) => (
            <HalfSheet key={s.hand} prep={dealt} sheet={s} />
          ))}
          <p className="caption my-3">Each finds their own sheet on the page of {ingredient.name}, under their name.</p>
          <DialogButtons close="Close" onClose={onClose} />
        </>
      ) : (
        <form onSubmit={deal}>
          <p className="mb-3 text-lg">
            <NumberField
              label="Batch in ml"
              value={volumeMl}
              low={10}
              high={200_000}
              step={100}
              digits={0}
              onChange={setVolumeMl}
            />{' '}
            ml in all
          </p>
          {hands.map((hand, i) => (
            <Field
              key={i === 0 ? 'first' : 'second'}
              label={i === 0 ? 'First half: who' : 'Second half: who'}
              error={i === 1 ? error : undefined}
            >
              {(props) => (
                <select
                  {...props}
                  value={hand}
                  onChange={(e) => setHands(i === 0 ? [e.target.value, hands[1]] : [hands[0], e.target.value])}
                >
                  {names.map((name) => (
                    <option key={name}>{name}</option>
                  ))}
                </select>
              )}
            </Field>
          ))}
          <DialogButtons close="Not yet" onClose={onClose} main="Deal the sheets" />
        </form>
      )}
    </Dialog>
  )
}
