import { type SplitPrep, splitPrepSchema } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { peopleQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { HalfSheet } from './HalfSheet.tsx'
import { splitPrepsQuery } from './useSplitPreps.ts'

/** A batch that two can weigh by halves. */
const LEAST_ML = 700
const dealForm = z.object({ volumeMl: z.number(), first: z.string(), second: z.string() })

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
  // A guest tablet weighs nothing.
  const people = (useQuery(peopleQuery).data ?? []).filter((p) => p.isActive && p.role !== 'viewer')
  // Managers know it all anyway: the others come first.
  const names = [...people.filter((p) => p.role !== 'manager'), ...people.filter((p) => p.role === 'manager')].map(
    (p) => p.name,
  )
  const [dealt, setDealt] = useState<SplitPrep>()
  const form = useSending(
    dealForm,
    { volumeMl: Math.max(LEAST_ML, Math.round(writtenMl)), first: '', second: '' },
    async ({ volumeMl, first, second }) => {
      const request = { ingredient: ingredient.slug, factor: volumeMl / writtenMl, hands: [first, second] }
      setDealt(await api.post('/api/split-preps', splitPrepSchema, request))
      await queryClient.invalidateQueries({ queryKey: splitPrepsQuery.queryKey })
    },
  )
  // Those whom nobody chose are the first two.
  const { setValue, getValues } = form
  const [first = '', second = ''] = names
  useEffect(() => {
    if (getValues('first') === '') setValue('first', first)
    if (getValues('second') === '') setValue('second', second)
  }, [first, second, getValues, setValue])
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
        <form onSubmit={form.submit}>
          <p className="mb-3 text-lg">
            <NumberField
              label="Batch in ml"
              value={form.watch('volumeMl')}
              low={10}
              high={200_000}
              step={100}
              digits={0}
              onChange={(volumeMl) => form.setValue('volumeMl', volumeMl)}
            />{' '}
            ml in all
          </p>
          {(['first', 'second'] as const).map((half) => (
            <Field
              key={half}
              label={half === 'first' ? 'First half: who' : 'Second half: who'}
              error={half === 'second' ? form.problem : undefined}
            >
              {(props) => (
                <select key={names.length} {...props} {...form.register(half)}>
                  {names.map((name) => (
                    <option key={name}>{name}</option>
                  ))}
                </select>
              )}
            </Field>
          ))}
          <DialogButtons close="Not yet" onClose={onClose} main="Deal the sheets" isBusy={form.isBusy || !second} />
        </form>
      )}
    </Dialog>
  )
}
