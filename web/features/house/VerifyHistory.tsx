import { type VerifyReport, verifyReportSchema } from '@conch/contract'
import { useState } from 'react'
import { api } from '../../app/api.ts'

/** Whether history is still what was written: the whole chain is walked, and every edition computed anew. */
export function VerifyHistory() {
  const [report, setReport] = useState<VerifyReport | string>()
  const [isBusy, setBusy] = useState(false)
  const verify = async () => {
    setBusy(true)
    setReport(undefined)
    try {
      setReport(await api.get('/api/verify', verifyReportSchema))
    } catch (error) {
      setReport(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  return (
    <>
      <p className="no-print mt-2">
        <button type="button" className="act" disabled={isBusy} onClick={verify}>
          {isBusy ? 'Looking through history …' : 'Is history still what was written?'}
        </button>
      </p>
      {report !== undefined && <Report report={report} />}
    </>
  )
}

function Report({ report }: { report: VerifyReport | string }) {
  if (typeof report === 'string')
    return (
      <p role="alert" className="mt-2 border-l-4 border-stop pl-3 text-stop">
        {report}
      </p>
    )
  const wrong = [
    ...report.problems,
    ...report.editions.flatMap((e) =>
      e.problems.map((p) => `edition “${e.name}”: ${p} does not follow from what it froze`),
    ),
  ]
  const recomputed = report.editions.filter((e) => e.how === 'recomputed').length
  return (
    <div role="status" className={`mt-2 max-w-2xl border-l-4 pl-3 ${wrong.length > 0 ? 'border-stop' : 'border-hair'}`}>
      {wrong.length === 0 ? (
        <p>
          It is: {report.events} events in one chain name {report.rows} rows of history, none changed, gone or added.{' '}
          {recomputed} of {report.editions.length} editions were computed anew from what they froze, figure by figure.
        </p>
      ) : (
        <ul className="text-stop">
          {wrong.slice(0, 20).map((w) => (
            <li key={w}>■ {w}</li>
          ))}
        </ul>
      )}
      <p className="caption mt-1">
        It does not prove who sat at a device, nor that nobody with the database itself wrote the whole chain anew: keep
        a copy elsewhere.
      </p>
    </div>
  )
}
