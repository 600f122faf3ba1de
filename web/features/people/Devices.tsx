import { type Device, deviceSchema, done } from '@conch/contract'
import { momentText } from '@conch/core/calendar'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { EnrolDialog } from './EnrolDialog.tsx'
import { devicesQuery } from './queries.ts'

/** The devices of the house: on these one taps one's name, and nobody is ever locked out. */
export function Devices() {
  const queryClient = useQueryClient()
  const { book, clock } = useHouse()
  const devices = useQuery(devicesQuery).data ?? []
  const [isEnrolling, setEnrolling] = useState(false)
  const heard = () => queryClient.invalidateQueries({ queryKey: devicesQuery.queryKey })
  const ask = (what: Promise<unknown>) => void what.catch((e: Error) => toast.error(e.message)).finally(heard)
  const change = ({ id, revision, name, well }: Device, part: Partial<Device>) =>
    ask(api.put(`/api/devices/${id}`, deviceSchema, { revision, name, well, ...part }))
  return (
    <section aria-label="Devices of the house">
      <h2 className="mb-1 flex max-w-4xl items-baseline border-b border-ink text-lg">
        <span className="mr-auto">Devices of the house</span>
        <button
          type="button"
          className="act act-quiet font-text text-sm font-normal"
          onClick={() => setEnrolling(true)}
        >
          Enrol a device
        </button>
      </h2>
      {devices.length === 0 && (
        <p className="max-w-2xl text-soft">
          None yet. On a device of the house people tap their name and a PIN; on any other they type both, and ten wrong
          PINs shut it.
        </p>
      )}
      <ul className="max-w-4xl">
        {devices.map((d) => (
          <li key={d.id} className="flex min-h-11 flex-wrap items-center gap-x-3 border-b border-hair/60 py-1">
            <input
              key={d.name}
              aria-label={`Name of ${d.name}`}
              className="inplace min-w-40 flex-1"
              maxLength={120}
              defaultValue={d.name}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
              onBlur={(e) => {
                const next = e.target.value.trim()
                if (next && next !== d.name) change(d, { name: next })
                else e.target.value = d.name
              }}
            />
            <select
              aria-label={`The well of ${d.name}`}
              className="inplace text-soft"
              value={d.well ?? ''}
              onChange={(e) => change(d, { well: e.target.value === '' ? null : e.target.value })}
            >
              {book.wells.map((w) => (
                <option key={w.slug} value={w.slug}>
                  {w.name}
                </option>
              ))}
              <option value="">no well in particular</option>
            </select>
            <span className="text-sm text-soft">
              by {d.enrolledBy}, {momentText(d.enrolledAt, clock)}
            </span>
            <button
              type="button"
              className="act act-quiet min-h-11 text-sm text-soft lg:min-h-9"
              onClick={() => ask(api.delete(`/api/devices/${d.id}`, done))}
            >
              no longer ours
            </button>
          </li>
        ))}
      </ul>
      {isEnrolling && (
        <EnrolDialog
          onClose={() => {
            setEnrolling(false)
            void heard()
          }}
        />
      )}
    </section>
  )
}
