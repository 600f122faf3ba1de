import { RANGES } from '@conch/core/schema/ranges'
import { useHouse } from '../../app/house.tsx'
import { useSaveThing } from '../../foresight/index.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { VerifyHistory } from './VerifyHistory.tsx'

/** Until the house says otherwise, as on the server. */
const KEPT_DAYS = 14

/** Copies, back-ups, and whether history is still what was written: for whoever answers for it. */
export function Keeping() {
  const { house } = useHouse()
  const save = useSaveThing()
  const { settings } = house
  return (
    <section aria-label="Keeping" className="mb-6">
      <h2 className="mb-1 border-b border-ink text-lg">Keeping</h2>
      <p className="max-w-2xl">
        A back-up of everything is written each night beside the data, and kept{' '}
        <NumberField
          label="Days that a back-up is kept"
          value={settings.keepBackupsDays ?? KEPT_DAYS}
          {...RANGES.keepBackupsDays}
          step={1}
          digits={0}
          isSettling
          onChange={(keepBackupsDays) =>
            save(
              '/api/house/settings',
              { ...settings, keepBackupsDays: Math.round(keepBackupsDays) },
              house.revisions.settings,
            )
          }
        />{' '}
        days. A copy that you take away holds the whole history and comes back on any machine.
      </p>
      <p className="no-print mt-2 flex flex-wrap items-center gap-2">
        <a className="act" href="/api/export" download="house.ndjson">
          Take a copy of the whole house
        </a>
      </p>
      <VerifyHistory />
    </section>
  )
}
