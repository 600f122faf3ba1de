import { type BottleTableReport, bottleTableReportSchema, mayDo } from '@conch/contract'
import { BOTTLE_COLUMNS } from '@conch/core/reading'
import { useQueryClient } from '@tanstack/react-query'
import { type ChangeEvent, useRef, useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { refreshHouse } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { addReports, splitTable } from './splitTable.ts'

const PATH = '/api/ingredients.csv'
const ROWS_AT_ONCE = 400

/** The back bar out to a spreadsheet, and back: first looked at, row by row, then brought in. */
export function BottleTableDialog({ onClose }: { onClose: () => void }) {
  const who = useWho()
  const queryClient = useQueryClient()
  const [file, setFile] = useState<{ name: string; csv: string }>()
  const [progress, setProgress] = useState<number>()
  const [report, setReport] = useState<BottleTableReport>()
  const [error, setError] = useState<string>()
  const isCancelled = useRef(false)

  const look = async (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = event.target.files?.[0]
    event.target.value = ''
    if (!chosen) return
    setReport(undefined)
    setError(undefined)
    isCancelled.current = false
    try {
      const csv = await chosen.text()
      setFile({ name: chosen.name, csv })
      let sum: BottleTableReport | undefined
      const parts = splitTable(csv, ROWS_AT_ONCE)
      for (const [i, part] of parts.entries()) {
        setProgress(i / parts.length)
        const looked = await api.post(PATH, bottleTableReportSchema, { ...part, mode: 'check' })
        if (isCancelled.current) return
        sum = sum ? addReports(sum, looked) : looked
      }
      setReport(sum)
    } catch (e) {
      setError(e instanceof Error ? e.message : String(e))
    } finally {
      setProgress(undefined)
    }
  }
  const bringIn = async (mode: 'whole' | 'good') => {
    if (!file) return
    setProgress(1)
    try {
      const saved = await api.post(PATH, bottleTableReportSchema, { csv: file.csv, mode })
      if (!saved.saved) {
        setReport(saved)
        return
      }
      await refreshHouse(queryClient)
      toast(`${saved.made} new, ${saved.changed} changed, ${saved.same} as they were.`)
      onClose()
    } catch (e) {
      setError(e instanceof Error ? e.message : String(e))
    } finally {
      setProgress(undefined)
    }
  }
  const badLines = new Set(report?.problems.map((p) => p.line)).size
  const goodRows = report ? report.made + report.changed : 0
  return (
    <Dialog
      isOpen
      width={760}
      onClose={() => {
        isCancelled.current = true
        onClose()
      }}
      title="The back bar as a table"
      lead="A CSV file with the names of the columns in its first line. Strength may be proof, sugar °Bx or g/l. An empty cell leaves a bottle as it is."
    >
      <p className="caption mb-3">columns: {BOTTLE_COLUMNS.join(', ')}</p>
      <div className="flex flex-wrap gap-2">
        <a className="act" href={PATH} download="back-bar.csv">
          Take it out
        </a>
        {mayDo(who.role, 'editHouse') && (
          <label className="act cursor-pointer">
            Look at a file …
            <input type="file" accept=".csv,text/csv" className="sr-only" onChange={look} />
          </label>
        )}
      </div>
      {progress !== undefined && (
        <p className="mt-3 flex items-center gap-3" role="status">
          <progress className="flex-1" value={progress} max={1} aria-label="Rows looked at" />
          <button
            type="button"
            className="act act-quiet"
            onClick={() => {
              isCancelled.current = true
            }}
          >
            Stop
          </button>
        </p>
      )}
      {error && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {error}
        </p>
      )}
      {report && (
        <section aria-label="What was found" className="mt-4">
          <p>
            {file?.name}: {report.rows} rows, {report.made} new, {report.changed} changed, {report.same} as they are
            {badLines > 0 && <b className="font-semibold text-stop">, {badLines} that cannot be</b>}.
          </p>
          {report.unknownColumns.length > 0 && (
            <p className="text-sm text-mind">▲ not read: {report.unknownColumns.join(', ')}</p>
          )}
          {report.problems.length > 0 && (
            <div className="mt-2 max-h-64 overflow-y-auto border border-hair">
              <table className="w-full text-sm">
                <thead>
                  <tr className="caption border-b border-hair text-left">
                    <th className="px-2 font-normal">line</th>
                    <th className="px-2 font-normal">column</th>
                    <th className="px-2 font-normal">what is wrong</th>
                  </tr>
                </thead>
                <tbody>
                  {report.problems.map((p) => (
                    <tr key={`${p.line} ${p.column} ${p.message}`} className="border-b border-hair/60 align-top">
                      <td className="px-2">{p.line}</td>
                      <td className="px-2 whitespace-nowrap">{p.column}</td>
                      <td className="px-2">{p.message}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          <div className="mt-3 flex flex-wrap justify-end gap-2">
            <button type="button" className="act" onClick={onClose}>
              {badLines > 0 ? 'Refuse the file' : 'Not yet'}
            </button>
            <button
              type="button"
              className="act act-main"
              disabled={goodRows === 0 || progress !== undefined}
              onClick={() => bringIn(badLines > 0 ? 'good' : 'whole')}
            >
              {badLines > 0 ? `Keep the ${goodRows} good rows` : `Bring ${goodRows} rows in`}
            </button>
          </div>
        </section>
      )}
    </Dialog>
  )
}
