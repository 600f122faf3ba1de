import { MEASURES } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { iceWords, missWords, solvedDocument } from '@conch/core/means'
import { Link } from 'react-router'
import { measureText, secondsText } from '../../graphics/format.ts'
import { SecondsWindow } from '../../graphics/SecondsWindow.tsx'
import type { WellMeans } from '../../workers/bench.ts'
import type { BenchProps } from './benchProps.ts'

/** A well's seconds for the standard: the window, what is written, what was solved; or why there are none. */
export function WellRow({ means, document, book, mayEdit, use }: { means: WellMeans } & Omit<BenchProps, 'well'>) {
  const well = bySlug(book.wells, means.well)
  const method = document.stages[0]?.method
  if (!well) return null
  if (!means.ok)
    return (
      <p className="border-b border-hair py-2">
        {well.name}: <span className="text-stop">{means.problems[0]?.message}</span>
      </p>
    )
  const { solved, writtenS, misses } = means
  const reached = solved.outcome === 'reached' ? solved : undefined
  const endS = reached
    ? Math.max(reached.isOpenEnded ? reached.window.highS : reached.window.highS * 1.4, writtenS * 1.3, 4)
    : Math.max(writtenS * 2, 6)
  const { calibration } = means
  const sentence = reached
    ? `${secondsText(reached.window.lowS)} to ${reached.isOpenEnded ? 'as long as one likes' : secondsText(reached.window.highS)}`
    : solved.outcome === 'cannotBeReached'
      ? 'cannot be reached'
      : 'nothing is chilled'
  return (
    <div className="border-b border-hair py-2" data-well={well.slug}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="w-28 text-base">{well.name}</h3>
        <b className="font-display text-xl">{sentence}</b>
        <span className={misses.length > 0 ? 'text-stop' : 'text-soft'}>
          as written {secondsText(writtenS)}
          {misses.length > 0 && `: ${misses.map(missWords).join(', ')}`}
        </span>
        {reached && mayEdit && (Math.abs(reached.durationS - writtenS) > 0.05 || reached.isOtherIce) && (
          <button
            type="button"
            className="act ml-auto"
            onClick={() =>
              use(
                solvedDocument(document, reached, well.slug),
                `${reached.durationS} s at the ${well.name}: in the middle of its window.`,
              )
            }
          >
            Use {secondsText(reached.durationS)}
            {reached.isOtherIce && ` with ${iceWords(reached.ice)}`}
          </button>
        )}
      </div>
      <SecondsWindow
        window={reached?.window}
        isOpenEnded={reached?.isOpenEnded ?? false}
        writtenS={writtenS}
        solvedS={reached?.durationS}
        endS={endS}
        label={`${well.name}: ${sentence}, as written ${secondsText(writtenS)}`}
      />
      {reached && (
        <p className="text-sm text-soft">
          {reached.tooShort.length > 0 && <>shorter: {[...new Set(reached.tooShort.map(missWords))].join(', ')}. </>}
          {reached.tooLong.length > 0 && <>longer: {[...new Set(reached.tooLong.map(missWords))].join(', ')}. </>}
          {reached.isOtherIce && <>With the ice as written no seconds do it; with {iceWords(reached.ice)} they do. </>}
          {(method === 'flashBlend' || method === 'fullBlend') &&
            reached.tooLong.length > 0 &&
            'Beyond it: froth and water. '}
        </p>
      )}
      {solved.outcome === 'cannotBeReached' && (
        <div className="text-sm">
          <p>
            Nearest: {secondsText(solved.nearest.durationS)}
            {solved.isOtherIce && ` with ${iceWords(solved.ice)}`}, still{' '}
            {[...new Set(solved.misses.map(missWords))].join(', ')}
            {solved.misses.map((m) =>
              m.measure === 'overflow'
                ? ` (${Math.round(m.value)} ml)`
                : ` (${MEASURES[m.measure].label} ${measureText(m.measure, m.value)})`,
            )}
            .
          </p>
          {solved.helps.length === 0 ? (
            <p className="text-soft">
              No single change that was tried comes nearer: the pours themselves have to change.{' '}
              <Link className="underline" to="../tune" relative="path">
                The nearest pours
              </Link>
            </p>
          ) : (
            <ul>
              {solved.helps.map((h) => (
                <li key={h.words}>
                  {h.worst <= 1 ? '→ ' : '~ '}
                  {h.words} {h.worst <= 1 ? `reaches it, ${secondsText(h.durationS)}` : 'comes nearer'}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {calibration?.drift && (
        <p className="text-sm text-stop">
          Its station is drifting: weigh a trial before you trust these seconds.{' '}
          <Link className="underline" to={`/ice/${calibration.well}/${calibration.station}?ice=${calibration.ice}`}>
            See why
          </Link>
        </p>
      )}
    </div>
  )
}
