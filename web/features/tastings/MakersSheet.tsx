import type { Tasting } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { TASTINGS_KEY, tastingKeyQuery } from './queries.ts'

const ended = z.object({ id: z.number() })

/** For whoever makes the drinks: which glass is which, who gets which when, and the end of it. */
export function MakersSheet({ tasting }: { tasting: Tasting }) {
  const { id, document, names, judged } = tasting
  const key = useQuery(tastingKeyQuery(id))
  const queryClient = useQueryClient()
  const [isAsked, setAsked] = useState(false)
  const send = async (path: string, body: object | undefined) => {
    try {
      await api.post(`/api/tastings/${id}/${path}`, ended, body)
      await queryClient.invalidateQueries({ queryKey: TASTINGS_KEY })
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  if (key.isPending) return <Loading what="which glass is which" />
  if (!key.data) return <Failure error={key.error} />
  const { codes } = key.data
  return (
    <>
      <section aria-label="Which glass is which">
        <h2 className="text-lg">You make the drinks. Keep this to yourself.</h2>
        <ul className="mt-1">
          {names.map((name, i) => (
            <li key={name} className="flex items-baseline gap-4 border-b border-hair py-1">
              <b className="w-20 font-display text-2xl">{codes[i]}</b> {name}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="In which order" className="mt-4">
        <h2 className="text-lg">In which order</h2>
        <table className="mt-1 w-full text-left">
          <tbody>
            {document.tasters.map((taster, t) => (
              <tr key={taster} className="border-b border-hair/60">
                <th scope="row" className="py-1 pr-4 font-normal">
                  {taster}
                </th>
                {(document.orders[t] ?? []).map((code) => (
                  <td key={code} className="tabular-nums">
                    {code}
                  </td>
                ))}
                <td className="caption text-right">
                  {judged[taster] ?? 0} of {names.length} judged
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <div className="no-print mt-4 flex flex-wrap gap-2">
        <button type="button" className="act act-main" onClick={() => send('close', undefined)}>
          Close it: everybody sees
        </button>
        <button type="button" className="act act-quiet" onClick={() => setAsked(true)}>
          Give it up …
        </button>
      </div>
      {isAsked && (
        <ReasonDialog
          title="Give the tasting up?"
          lead="What was written stays; nobody learns which glass was which."
          main="Give it up"
          onClose={() => setAsked(false)}
          onReason={(why) => {
            setAsked(false)
            void send('abandon', { why })
          }}
        />
      )}
    </>
  )
}
