import { drinkSchema, type FoundVersion as Found, versionSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import type { VersionSource } from '@conch/core/lineage'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { DRINKS_KEY } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { DrinkPicker } from '../../shelf/DrinkPicker.tsx'
import { SourceFields, WhenFields } from '../../sources/SourceFields.tsx'
import {
  NO_SOURCE,
  NO_WHEN,
  sourceFields,
  toSource,
  toYears,
  whenFields,
  yearsProblem,
} from '../../sources/sourceForm.ts'
import { Field } from '../../ui/Field.tsx'

export interface DrinkIn {
  slug: string
  name: string
}

const foundForm = z
  .object({
    ...sourceFields,
    ...whenFields,
    label: z.string().trim().max(80),
    questions: z.string().max(3000),
  })
  .superRefine((values, context) => {
    const message = yearsProblem(values)
    if (message) context.addIssue({ code: 'custom', path: ['toYear'], message })
  })

interface FoundVersionProps {
  formId: string
  /** What was read; undefined: nothing yet. */
  document: DrinkDocument | undefined
  name: string
  /** The spec to the letter, and the measures and serves of its own. */
  written: Pick<VersionSource, 'asWritten' | 'measures' | 'serves'>
  /** A version of this drink; undefined: it may be a new one. */
  into: DrinkIn | undefined
  onDone: () => void
}

/** Where a pasted spec comes from: it is kept as a version as it is there, not as anybody's draft. */
export function FoundVersion({ formId, document, name, written, into, onDone }: FoundVersionProps) {
  const [chosen, setChosen] = useState<DrinkIn | undefined>(into)
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const empty = { ...NO_SOURCE, ...NO_WHEN, label: '', questions: '' }
  const form = useSending(foundForm, empty, async (values) => {
    if (!document) throw new Error('Nothing was read yet: paste the spec as it is written.')
    if (!chosen && name.trim() === '') throw new Error('Give the drink a name; it can be changed later.')
    const years = toYears(values)
    const found: Found = {
      label: values.label,
      era: values.when,
      origin: { kind: 'historical', ...(years ? { years } : {}) },
      sources: [{ ...toSource(values), ...written }],
      parents: [],
      questions: values.questions.split('\n').flatMap((line) => line.trim() || []),
      reason: '',
    }
    const called = { ...document, name: name.trim() || chosen?.name || document.name }
    const drink = chosen?.slug ?? (await makeDrink(name, called, found))
    const number = chosen ? await addTo(chosen.slug, called, found) : 1
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    // The page may be that of the lineage already.
    onDone()
    navigate(`/drinks/${drink}/lineage?v=${drink}@${number}`)
  })
  return (
    <FormProvider {...form.all}>
      <form id={formId} onSubmit={form.submit} aria-label="Where it comes from" className="border-t border-hair pt-3">
        {!into && (
          <p className="mb-3 flex flex-wrap items-center gap-2">
            <span>{chosen ? `A version of ${chosen.name}` : 'The first version of a new drink'}</span>
            <DrinkPicker label="Find the drink that it is a version of" onPick={setChosen}>
              <button type="button" className="act min-h-8 text-sm">
                {chosen ? 'Of another …' : 'Of a drink that is here …'}
              </button>
            </DrinkPicker>
            {chosen && (
              <button type="button" className="act act-quiet min-h-8 text-sm" onClick={() => setChosen(undefined)}>
                A new drink
              </button>
            )}
          </p>
        )}
        <div className="grid gap-x-6 md:grid-cols-2">
          <div>
            <SourceFields />
          </div>
          <div>
            <WhenFields />
            <Field label="Label, if it has one" error={form.errorOf('label')}>
              {(props) => <input {...props} maxLength={80} {...form.register('label')} />}
            </Field>
            <Field label="Still to research" error={form.errorOf('questions')} hint="A line for each question.">
              {(props) => <textarea {...props} rows={2} maxLength={3000} {...form.register('questions')} />}
            </Field>
          </div>
        </div>
        {form.problem && (
          <p role="alert" className="text-sm text-stop">
            {form.problem}
          </p>
        )}
      </form>
    </FormProvider>
  )
}

async function makeDrink(name: string, document: DrinkDocument, found: Found): Promise<string> {
  const drink = await api.post('/api/drinks', formOf(drinkSchema), { name, document, found })
  return drink.slug
}

async function addTo(slug: string, document: DrinkDocument, found: Found): Promise<number> {
  const version = await api.post(`/api/drinks/${slug}/found`, formOf(versionSchema), { document, ...found })
  return version.number
}
