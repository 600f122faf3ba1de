/** What one practised, and sending it: kept on this device where the house is not heard. */

import { practicePeopleSchema, practicesSchema, type SayPractice, saidPracticeSchema } from '@conch/contract'
import { answerSchema } from '@conch/core/learn/practiceSchema'
import { formOf } from '@conch/core/schema'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { tap } from '../../alone/tap.ts'
import { api } from '../../app/api.ts'
import { queryClient } from '../../app/queries.ts'
import { readStored, writeStored } from '../../app/stored.ts'

const ownForm = formOf(practicesSchema)
const peopleForm = formOf(practicePeopleSchema)

export const practiceQuery = queryOptions({
  queryKey: ['practice'],
  queryFn: () => api.get('/api/practice', ownForm),
})
export const practicePeopleQuery = queryOptions({
  queryKey: ['practice', 'people'],
  queryFn: () => api.get('/api/practice/people', peopleForm),
})

/** @returns whether this device keeps it. @throws ApiError with what is wrong */
export async function sendPractice(body: SayPractice): Promise<boolean> {
  const words = body.kind === 'drill' ? `a drill of ${body.answers.length}` : `${body.pours.length} test pours`
  const sent = await tap({ kind: 'practice', path: '/api/practice', body, name: words, words }, saidPracticeSchema)
  await queryClient.invalidateQueries({ queryKey: practiceQuery.queryKey })
  return 'kept' in sent
}

const STORE = 'conch:drill'
const storedSchema = z.object({ person: z.number(), well: z.string(), answers: z.array(answerSchema) })

/** Answers that are not sent yet, on the disk as they are given: nobody answers twice because a tablet fell. */
export const storedAnswers = (person: number) => {
  const stored = readStored(STORE, storedSchema)
  return stored?.person === person && stored.answers.length > 0 ? stored : undefined
}
export const storeAnswers = (stored: z.infer<typeof storedSchema> | undefined): void => writeStored(STORE, stored)
