import { type ReactNode, useId } from 'react'

interface FieldProps {
  label: string
  hint?: ReactNode
  error?: string | undefined
  children: (props: {
    id: string
    'aria-invalid': boolean
    'aria-describedby': string | undefined
    className: string
  }) => ReactNode
}

/** A labelled field with its hint and, in place, what is wrong with it. */
export function Field({ label, hint, error, children }: FieldProps) {
  const id = useId()
  const noteId = error || hint ? `${id}-note` : undefined
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-0.5 block text-sm font-semibold">
        {label}
      </label>
      {children({ id, 'aria-invalid': error !== undefined, 'aria-describedby': noteId, className: 'field' })}
      {noteId && (
        <p id={noteId} className={error ? 'mt-0.5 text-sm text-stop' : 'caption mt-0.5'}>
          {error ?? hint}
        </p>
      )}
    </div>
  )
}
