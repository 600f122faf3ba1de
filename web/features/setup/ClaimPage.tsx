import { youSchema } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useSending } from '../../app/useSending.ts'
import { setWho } from '../../app/who.ts'
import { Field } from '../../ui/Field.tsx'
import { Loading } from '../../ui/States.tsx'
import { PassphraseField, passphraseSchema } from './passphrase.tsx'
import { forgetImport, importQuery } from './useImport.ts'

const claimForm = z.object({
  name: z.string(),
  secret: passphraseSchema,
})

/** A house has come in: its people came along, their PINs did not. */
export function ClaimPage({ importId, children }: { importId: string; children: ReactNode }) {
  const asked = useQuery(importQuery(importId))
  if (asked.isPending) return <Loading what="who came along" />
  // The server has been started anew since: on its machine a passphrase can be made all the same.
  if (!asked.data) return children
  return <Claim importId={importId} managers={asked.data.came?.managers ?? []} />
}

function Claim({ importId, managers }: { importId: string; managers: readonly string[] }) {
  const queryClient = useQueryClient()
  const form = useSending(claimForm, { name: managers[0] ?? '', secret: '' }, async (values) => {
    setWho(await api.post('/api/claim', youSchema, { importId, ...values }))
    forgetImport()
    await queryClient.resetQueries()
  })
  return (
    <div className="mx-auto max-w-xl px-4 py-10">
      <h1 className="text-4xl">It came in, whole</h1>
      <p className="mt-2 mb-6 text-lg text-soft">
        PINs and passphrases are in no copy. Choose a manager’s passphrase now; inside, everybody gets a first PIN under
        House, People.
      </p>
      <form onSubmit={form.submit}>
        <Field label="Who are you?" error={form.errorOf('name')}>
          {(props) => (
            <select {...props} {...form.register('name')}>
              {managers.map((m) => (
                <option key={m}>{m}</option>
              ))}
            </select>
          )}
        </Field>
        <PassphraseField error={form.errorOf('secret') ?? form.problem} register={form.register('secret')} />
        <button type="submit" className="act act-main" disabled={form.isBusy}>
          Open the house
        </button>
      </form>
    </div>
  )
}
