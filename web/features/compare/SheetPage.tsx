import { mayDo } from '@conch/contract'
import { NORMAL_STEP_NAMES, NORMAL_STEPS, type NormalStep } from '@conch/core/compare'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import { FindOne } from '../../ui/FindOne.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { versionKeyOf } from './comparedThings.ts'
import { SheetTable } from './SheetTable.tsx'
import { MOST_ON_SHEET, type OnSheet, readSheet, sheetAsked } from './sheetAddress.ts'
import { useOffered } from './useOffered.ts'
import { type SheetColumn, useSheet } from './useSheet.ts'

/** While this page is open, paper lies across. */
const PAPER = '@page { size: A4 landscape; margin: 8mm }'

/** Two to five versions beside each other on one sheet: pours by what they do, and what is in the glass. */
export function SheetPage() {
  const { well } = useHouse()
  const who = useWho()
  const { search, put } = useAddress()
  const text = search.toString()
  // The same sheet for the same address.
  const on = useMemo(() => readSheet(new URLSearchParams(text)), [text])
  const { sheet, error } = useSheet(on)
  const show = (next: Partial<OnSheet>) => put(sheetAsked({ ...on, ...next }))
  return (
    <div className="sheet-page px-4 pt-4 pb-10">
      <style>{PAPER}</style>
      <header className="mb-2 flex flex-wrap items-center gap-2">
        <div className="mr-auto">
          <h1 className="text-3xl">Side by side</h1>
          <p className="caption">at the {well.name} · the first is what the others are held against</p>
        </div>
        <Link className="act act-quiet" to="/compare">
          In the chart
        </Link>
        {on.keys.length < MOST_ON_SHEET && <PutIn keys={on.keys} onPick={(key) => show({ keys: [...on.keys, key] })} />}
        {sheet && sheet.columns.length > 1 && mayDo(who.role, 'planMenu') && (
          <Link className="act act-quiet" to={`/tastings?${new URLSearchParams({ new: subjectsText(sheet.columns) })}`}>
            Taste them blind
          </Link>
        )}
        <button type="button" className="act" disabled={!sheet} onClick={() => window.print()}>
          Print
        </button>
      </header>
      <Steps steps={on.steps} onChange={(steps) => show({ steps })} />
      {on.keys.length === 0 ? (
        <Empty title="Nothing is on the sheet yet">
          Put in two versions or more: of one drink, or of several. The address of the sheet can be sent.
        </Empty>
      ) : error ? (
        <Failure error={error} />
      ) : sheet ? (
        <SheetTable
          sheet={sheet}
          serves={on.steps.has('oneServe') ? 'one' : 'all'}
          onLeaveOut={(key) => show({ keys: on.keys.filter((k) => k !== key) })}
          onFirst={(key) => show({ keys: [key, ...on.keys.filter((k) => k !== key)] })}
        />
      ) : (
        <Loading what="the versions" />
      )}
    </div>
  )
}

/** What is to be tasted, for an address. */
const subjectsText = (columns: readonly SheetColumn[]) =>
  columns.map((c) => `${c.key}~${c.name} v${c.version.number}`).join('|')

function PutIn({ keys, onPick }: { keys: readonly string[]; onPick: (key: string) => void }) {
  const [typed, setTyped] = useState('')
  const ids = keys.map((k) => `drink:${k}`)
  const { groups, isLooking } = useOffered(typed, ids)
  return (
    <FindOne
      label="Find a version"
      placeholder="a drink, a version"
      nothing="Nothing of that name."
      align="end"
      groups={groups.slice(0, 1)}
      onWords={setTyped}
      onOpen={() => setTyped('')}
      isLooking={isLooking}
      onPick={(id) => {
        const [key] = versionKeyOf(id)
        if (key) onPick(key)
      }}
    >
      <button type="button" className="act">
        Put in …
      </button>
    </FindOne>
  )
}

/** What is counted alike: each step can be left out. On paper only those that were taken. */
function Steps({
  steps,
  onChange,
}: {
  steps: ReadonlySet<NormalStep>
  onChange: (steps: ReadonlySet<NormalStep>) => void
}) {
  const toggled = (step: NormalStep) => new Set(NORMAL_STEP_NAMES.filter((s) => steps.has(s) !== (s === step)))
  const taken = NORMAL_STEP_NAMES.filter((s) => steps.has(s)).map((s) => NORMAL_STEPS[s])
  return (
    <>
      <fieldset className="no-print mb-3 flex flex-wrap items-center gap-x-5 gap-y-1 text-sm">
        <legend className="sr-only">What is counted alike</legend>
        <span className="text-soft">counted alike</span>
        {NORMAL_STEP_NAMES.map((step) => (
          <label key={step} className="flex min-h-8 items-center gap-1.5 max-sm:min-h-11">
            <input type="checkbox" checked={steps.has(step)} onChange={() => onChange(toggled(step))} />
            {NORMAL_STEPS[step]}
          </label>
        ))}
      </fieldset>
      <p className="only-print text-sm">Counted alike: {taken.join(', ') || 'nothing'}.</p>
    </>
  )
}
