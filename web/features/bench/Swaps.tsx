import { METHODS } from '@conch/core/cold'
import { iceWords, missWords, type Swap } from '@conch/core/means'
import { measureText, secondsText } from '../../graphics/format.ts'
import { useSwaps } from '../../workers/bench.ts'
import type { BenchProps } from './benchProps.ts'

/** The same standard by every method at this well, and what stays different. */
export function Swaps({ document, book, well, mayEdit, use }: BenchProps) {
  const answer = useSwaps(book, document, well.slug)
  return (
    <section aria-label="By another method" className="mt-5">
      <h2 className="border-b border-ink text-lg">By another method, at the {well.name}</h2>
      {!answer && <p className="py-3 text-soft">Trying every method …</p>}
      {answer && !answer.ok && <p className="text-stop">{answer.problems[0]?.message}</p>}
      {answer?.ok && (
        <div className="overflow-x-auto">
          <table className="w-full min-w-[36rem]">
            <tbody>
              {answer.swaps.map((s) => (
                <SwapRow key={s.method} swap={s} use={mayEdit ? use : undefined} wellName={well.name} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

function SwapRow({ swap, use, wellName }: { swap: Swap; use: BenchProps['use'] | undefined; wellName: string }) {
  const { solved, method, isOwn, cannotMatch, hasStation, document } = swap
  const label = METHODS[method].label
  const at =
    solved.outcome === 'reached' ? solved.at : solved.outcome === 'cannotBeReached' ? solved.nearest : undefined
  return (
    <tr className="border-b border-hair/60 align-baseline">
      <th scope="row" className={`py-1.5 pr-3 text-left whitespace-nowrap ${isOwn ? '' : 'font-normal'}`}>
        {label}
        {isOwn && <span className="caption block font-normal">as it is written</span>}
        {!hasStation && <span className="caption block font-normal">no such gear here</span>}
      </th>
      <td className="pr-3 whitespace-nowrap">
        {solved.outcome === 'reached' ? (
          <>
            <b className="font-display text-lg">{secondsText(solved.durationS)}</b>
            <span className="caption block">
              {secondsText(solved.window.lowS)} to {solved.isOpenEnded ? '…' : secondsText(solved.window.highS)}
            </span>
          </>
        ) : (
          <span className="text-stop">not to be reached</span>
        )}
      </td>
      <td className="pr-3 text-sm">
        {'ice' in solved && iceWords(solved.ice)}
        {!isOwn && document.serveIce.length > 0 && (
          <span className="caption block">and {iceWords(document.serveIce)} in the glass</span>
        )}
        {solved.outcome === 'cannotBeReached' && (
          <span className="block text-stop">{[...new Set(solved.misses.map(missWords))].slice(0, 3).join(', ')}</span>
        )}
      </td>
      <td className="text-right text-sm whitespace-nowrap">
        {at?.predictions.temperatureC && measureText('temperatureC', at.predictions.temperatureC.value)}
      </td>
      <td className="pl-3 text-sm text-soft">{cannotMatch.join(' · ')}</td>
      <td className="text-right">
        {use && !isOwn && solved.outcome === 'reached' && (
          <button
            type="button"
            className="act act-quiet text-sm"
            aria-label={`Use ${label}`}
            onClick={() => use(document, `${label} at the ${wellName}, solved to the same standard.`)}
          >
            use it
          </button>
        )}
      </td>
    </tr>
  )
}
