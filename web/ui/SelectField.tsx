import { keysOf } from '@conch/core/schema/keysOf'
import { Field } from './Field.tsx'

interface SelectFieldProps<K extends string> {
  label: string
  hint?: string
  error?: string | undefined
  /** What can be chosen, by key, in order. */
  options: Readonly<Record<K, string>>
  value: K
  onChange: (value: K) => void
}

/** A labelled choice of one. */
export function SelectField<K extends string>({ label, hint, error, options, value, onChange }: SelectFieldProps<K>) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(props) => (
        <select {...props} value={value} onChange={(e) => onChange(e.target.value as K)}>
          {keysOf(options).map((key) => (
            <option key={key} value={key}>
              {options[key]}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}
