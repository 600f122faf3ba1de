import { LEAST_PASSPHRASE } from '@conch/contract'
import type { UseFormRegisterReturn } from 'react-hook-form'
import { z } from 'zod'
import { Field } from '../../ui/Field.tsx'

/** A manager's own word, as it is asked for where a house is opened for the first time. */
export const passphraseSchema = z
  .string()
  .refine((s) => [...s].length >= LEAST_PASSPHRASE, `A sentence of at least ${LEAST_PASSPHRASE} letters.`)

export function PassphraseField({ error, register }: { error: string | undefined; register: UseFormRegisterReturn }) {
  return (
    <Field
      label="Your passphrase"
      error={error}
      hint={`A sentence of ${LEAST_PASSPHRASE} letters or more that only you would write. Lost, it is made anew on this machine alone.`}
    >
      {(props) => <input {...props} type="password" autoComplete="new-password" maxLength={200} {...register} />}
    </Field>
  )
}
