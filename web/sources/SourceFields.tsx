import { CERTAINTIES, CLAIM_SUBJECTS, readWhen, SOURCE_KINDS, yearsText } from '@conch/core/lineage'
import { useFieldArray, useFormContext } from 'react-hook-form'
import { Field } from '../ui/Field.tsx'
import type { SourceForm } from './sourceForm.ts'

type Fields = SourceForm & { when: string; fromYear: string; toYear: string }

/** What a source is, and what it claims: within a form around it. */
export function SourceFields() {
  const { register, control, formState } = useFormContext<Fields>()
  const { errors } = formState
  const claims = useFieldArray({ control, name: 'claims' })
  return (
    <div>
      <div className="grid gap-x-3 sm:grid-cols-[8rem_minmax(0,1fr)]">
        <Field label="What it is">
          {(props) => (
            <select {...props} {...register('sourceKind')}>
              {SOURCE_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {kind}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Title" error={errors.title?.message}>
          {(props) => <input {...props} maxLength={200} {...register('title')} />}
        </Field>
      </div>
      <div className="grid gap-x-3 sm:grid-cols-[6rem_8rem_minmax(0,1fr)]">
        <Field label="Page" error={errors.page?.message}>
          {(props) => <input {...props} maxLength={40} {...register('page')} />}
        </Field>
        <Field label="Its year" error={errors.year?.message}>
          {(props) => <input {...props} maxLength={40} {...register('year')} />}
        </Field>
        <Field label="Who says so" error={errors.saidBy?.message}>
          {(props) => <input {...props} maxLength={120} {...register('saidBy')} />}
        </Field>
      </div>
      <fieldset className="mb-3">
        <legend className="text-sm font-semibold">What it claims</legend>
        {claims.fields.map((field, i) => {
          const error = errors.claims?.[i]?.says?.message
          return (
            <div key={field.id} className="mt-1">
              <div className="flex flex-wrap gap-2">
                <select aria-label="About" className="field w-auto" {...register(`claims.${i}.about`)}>
                  {CLAIM_SUBJECTS.map((about) => (
                    <option key={about} value={about}>
                      {about}
                    </option>
                  ))}
                </select>
                <input
                  aria-label="It says"
                  aria-invalid={error !== undefined}
                  className="field min-w-40 flex-1"
                  maxLength={200}
                  {...register(`claims.${i}.says`)}
                />
                <select aria-label="How sure" className="field w-auto" {...register(`claims.${i}.certainty`)}>
                  {CERTAINTIES.map((certainty) => (
                    <option key={certainty} value={certainty}>
                      {certainty}
                    </option>
                  ))}
                </select>
                <button
                  type="button"
                  className="act act-quiet"
                  aria-label="Take this claim away"
                  onClick={() => claims.remove(i)}
                >
                  ×
                </button>
              </div>
              {error && <p className="mt-0.5 text-sm text-stop">{error}</p>}
            </div>
          )
        })}
        <button
          type="button"
          className="act act-quiet mt-1 text-sm"
          onClick={() => claims.append({ about: 'creator', says: '', certainty: 'attributed' })}
        >
          Put in a claim
        </button>
      </fieldset>
    </div>
  )
}

/** When it was poured: words that sort, or words and years. */
export function WhenFields() {
  const { register, watch, formState } = useFormContext<Fields>()
  const { errors } = formState
  const words = watch('when')
  const read = readWhen(words)
  return (
    <div>
      <Field
        label="When it was poured"
        error={errors.when?.message}
        hint={
          read
            ? `Stands among the others as ${yearsText(read)}.`
            : '“about 1952”, “late 1930s”, “between the wars”, or nothing: nobody knows.'
        }
      >
        {(props) => <input {...props} maxLength={60} {...register('when')} />}
      </Field>
      {!read && words.trim() !== '' && (
        <div className="grid max-w-xs grid-cols-2 gap-x-3">
          <Field label="not before" error={errors.fromYear?.message}>
            {(props) => <input {...props} inputMode="numeric" maxLength={4} {...register('fromYear')} />}
          </Field>
          <Field label="not after" error={errors.toYear?.message}>
            {(props) => <input {...props} inputMode="numeric" maxLength={4} {...register('toYear')} />}
          </Field>
        </div>
      )}
    </div>
  )
}
