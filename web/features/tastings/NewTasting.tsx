import type { VersionKey } from '@conch/core/lineage'
import { MOST_SUBJECTS } from '@conch/core/tasting'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { drinkPageQuery, peopleQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { useWho } from '../../app/who.ts'
import { VersionPicker } from '../../shelf/VersionPicker.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { TASTINGS_KEY } from './queries.ts'

export interface Subject {
  key: VersionKey
  words: string
}

const form = z.object({
  question: z.string().trim().min(3, 'Say what it is to decide.'),
  tasters: z.string(),
  makerId: z.string(),
  subjects: z.string(),
})
const made = z.object({ id: z.number() })
const namesOf = (text: string) => text.split(/[,\n]/).flatMap((n) => n.trim() || [])

/** A blind tasting: which versions, who tastes, and who makes them. */
export function NewTasting({ start, onClose }: { start: readonly Subject[]; onClose: () => void }) {
  const who = useWho()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const people = (useQuery(peopleQuery).data ?? []).filter((p) => p.isActive)
  const [subjects, setSubjects] = useState<readonly Subject[]>(start)
  const first = useQuery(drinkPageQuery({ made: 'yes', limit: 1 })).data?.rows[0]
  const begin = subjects[0]
    ? { slug: subjects[0].key.drink, name: subjects[0].words.replace(/ v\d+$/, '') }
    : first && { slug: first.slug, name: first.name }
  const empty = { question: '', tasters: '', makerId: String(who.id), subjects: '' }
  const { register, submit, errorOf, problem, isBusy } = useSending(form, empty, async (values) => {
    const { id } = await api.post('/api/tastings', made, {
      question: values.question,
      subjects: subjects.map((s) => s.key),
      tasters: namesOf(values.tasters),
      makerId: Number(values.makerId),
    })
    await queryClient.invalidateQueries({ queryKey: TASTINGS_KEY })
    navigate(`/tastings/${id}`)
  })
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title="A blind tasting"
      lead="Codes and order are drawn; only who makes the drinks sees which glass is which, until it is closed."
    >
      <form onSubmit={submit}>
        <Field label="What it is to decide" error={errorOf('question')}>
          {(props) => <input {...props} maxLength={300} {...register('question')} />}
        </Field>
        <div className="mb-3">
          <p className="text-sm font-semibold">What is tasted</p>
          <ol>
            {subjects.map((s, i) => (
              <li key={s.words} className="flex items-center gap-2">
                {s.words}
                <button
                  type="button"
                  className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
                  aria-label={`Not ${s.words}`}
                  onClick={() => setSubjects(subjects.filter((_, n) => n !== i))}
                >
                  ×
                </button>
              </li>
            ))}
          </ol>
          {subjects.length < MOST_SUBJECTS && begin && (
            <VersionPicker
              drink={begin}
              without={subjects.map((s) => s.key)}
              main="Put it in"
              onPick={(key, words) => setSubjects([...subjects, { key, words }])}
            />
          )}
          {errorOf('subjects') && <p className="mt-0.5 text-sm text-stop">{errorOf('subjects')}</p>}
        </div>
        <Field label="Who tastes" error={errorOf('tasters')} hint="Names, with commas. They need not work here.">
          {(props) => <input {...props} maxLength={2000} {...register('tasters')} />}
        </Field>
        <Field label="Who makes the drinks, and does not taste" error={errorOf('makerId')}>
          {(props) => (
            <select key={people.length} {...props} {...register('makerId')}>
              {people.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          )}
        </Field>
        {problem && (
          <p role="alert" className="mb-2 text-sm text-stop">
            {problem}
          </p>
        )}
        <DialogButtons close="Not yet" onClose={onClose} main="Draw it" isBusy={isBusy || people.length === 0} />
      </form>
    </Dialog>
  )
}
