/** What goes to the house of a round: finished, put aside, taken up. Kept on this device where the house is not heard. */

import { roundsSchema, type SaidRound, saidRoundSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import type { Round } from '@conch/core/service'
import { queryOptions } from '@tanstack/react-query'
import { takeBack, tap } from '../../alone/tap.ts'
import { api } from '../../app/api.ts'
import { queryClient } from '../../app/queries.ts'
import { roundWords } from './railRound.ts'

const roundsForm = formOf(roundsSchema)

export const roundsQuery = queryOptions({
  queryKey: ['rounds'],
  queryFn: () => api.get('/api/rounds', roundsForm),
})

const again = () => queryClient.invalidateQueries({ queryKey: roundsQuery.queryKey })

/** @returns the place where it is kept; undefined: the house has it */
async function send(state: 'made' | 'parked', round: Round, skipped: string[]): Promise<number | undefined> {
  const words = `${roundWords(round)} ${state === 'made' ? 'made' : 'put aside half made'}`
  const sent = await tap(
    { kind: 'round', path: '/api/rounds', body: { state, round, skipped }, name: roundWords(round), words },
    saidRoundSchema,
  )
  await again()
  return 'kept' in sent ? sent.kept : undefined
}

/** @param skipped names of what was never ticked. @throws ApiError with what is wrong, in words */
export const finishRound = (round: Round, skipped: string[]) => send('made', round, skipped)
/** @throws ApiError with what is wrong, in words */
export const parkRound = (round: Round) => send('parked', round, [])

/** One hand takes it, whoever reaches for it. @throws ApiError where somebody was faster, saying who */
export async function takeUp({ id }: Pick<SaidRound, 'id'>): Promise<void> {
  try {
    await api.post(`/api/rounds/${id}/end`, saidRoundSchema, { why: 'takenUp' })
  } finally {
    await again()
  }
}

/** @throws ApiError where somebody was faster, saying who */
export async function dropRound({ id }: Pick<SaidRound, 'id'>): Promise<void> {
  try {
    await api.post(`/api/rounds/${id}/end`, saidRoundSchema, { why: 'dropped' })
  } finally {
    await again()
  }
}

/** Put aside on this tablet and not sent yet: then nobody else ever heard of it. @throws Error where it was sent meanwhile */
export const takeUpHere = (place: number): Promise<void> => takeBack(place)
