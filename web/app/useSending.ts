import { zodResolver } from '@hookform/resolvers/zod'
import type { BaseSyntheticEvent } from 'react'
import {
  type DefaultValues,
  type FieldValues,
  type Path,
  type Resolver,
  type UseFormReturn,
  useForm,
} from 'react-hook-form'
import type { z } from 'zod'
import { ApiError } from './api.ts'

/**
 * A form with its schema: what is wrong stands beside its field, what the server refuses too, and it is sent once at a
 * time.
 * @param schema the words of its errors are for a person
 * @param send does it with what was typed, as the schema reads it; what it throws is shown
 */
export function useSending<T extends FieldValues>(
  schema: z.ZodObject & z.ZodType<T, T>,
  defaultValues: DefaultValues<T>,
  send: (values: T) => Promise<unknown>,
) {
  const resolver = zodResolver(schema) as unknown as Resolver<T>
  const all = useForm<T>({ resolver, defaultValues })
  const { handleSubmit, setError, formState, ...form } = all
  const refuse = (error: unknown) => {
    const named = error instanceof ApiError ? (error.problem?.fields ?? []) : []
    // A thing that is saved whole is sent as the document of a message.
    const byField = named.map((f) => [f.field.replace(/^document\./, '').split('.')[0] ?? '', f.message] as const)
    const known = byField.filter(([field]) => field in schema.shape)
    for (const [field, message] of known) setError(field as Path<T>, { message })
    if (known.length === 0) setError('root', { message: error instanceof Error ? error.message : String(error) })
  }
  const submit = (event: BaseSyntheticEvent) => {
    event.preventDefault()
    if (!formState.isSubmitting) void handleSubmit((values) => send(values).catch(refuse))(event)
  }
  return {
    ...form,
    /** For a `FormProvider`, where parts of the form are components of their own. */
    all: all as unknown as UseFormReturn<FieldValues>,
    submit,
    /** What is wrong with a field; undefined: nothing. */
    errorOf: (field: Path<T>): string | undefined => {
      const { message } = formState.errors[field] ?? {}
      return typeof message === 'string' ? message : undefined
    },
    /** What is wrong with no field alone. */
    problem: formState.errors.root?.message,
    isBusy: formState.isSubmitting,
  }
}
