import { ICE_KINDS } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { bySlug, type HouseBook } from '@conch/core/house'
import type { Fit } from '@conch/core/means'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { type MenuDrink, useMenuDrinks } from '../../shelf/useShownDrinks.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Empty } from '../../ui/States.tsx'
import { scaleOnBench, useFits } from '../../workers/bench.ts'
import { Computing } from '../../workers/Computing.tsx'

/** Every drink in every glass at every well: what overflows, what drowns, what is fine. */
export function GlassesPage() {
  const { book } = useHouse()
  const menu = useMenuDrinks()
  const shown = menu ?? []
  const documents = shown.map((s) => s.document)
  const rows = useFits(book, documents.length > 0 ? documents : undefined)
  const [open, setOpen] = useState<{ drink: MenuDrink; glass: string; fits: Fit[] }>()
  if (book.glasses.length === 0)
    return <Empty title="No glass yet">Glasses are added in the House; then every drink is tried in them here.</Empty>
  if (menu && shown.length === 0)
    return <Empty title="No drink on the menu yet">What is poured or planned is tried in every glass here.</Empty>
  if (!rows || rows.length !== shown.length) return <Computing what="every drink in every glass" />
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to="/ice">
          Ice bench
        </Link>
      </p>
      <h1 className="mb-1 text-3xl">Drinks in glasses</h1>
      <p className="caption mb-2">
        Each pair is a glass at the {book.wells.map((w) => w.name).join(' and at the ')}: how high it stands, or what
        runs over. Framed: the drink’s own glass, with the ice that brings it up to where it should stand (dashed).
      </p>
      <div className="overflow-x-auto">
        <table className="text-sm">
          <thead>
            <tr className="align-bottom">
              <th />
              {book.glasses.map((g) => (
                <th key={g.slug} className="max-w-24 px-2 pb-1 font-normal text-soft">
                  {g.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((drink, i) => {
              const row = rows[i]
              return (
                <tr key={drink.slug} className="border-t border-hair/60">
                  <th scope="row" className="py-1 pr-4 text-left font-normal whitespace-nowrap">
                    <Link className="hover:underline" to={`/drinks/${drink.slug}`}>
                      {drink.name}
                    </Link>
                  </th>
                  {row?.ok ? (
                    book.glasses.map((g) => {
                      const fits = row.fits.filter((f) => f.glass === g.slug)
                      return (
                        <td key={g.slug} className="px-2 py-1 text-center align-top">
                          <button
                            type="button"
                            className="inline-flex items-start gap-1 p-0.5 hover:bg-shallow"
                            aria-label={`${drink.name} in the ${g.name}: ${fits.map((f) => fitWords(f, book)).join('; ')}`}
                            onClick={() => setOpen({ drink, glass: g.slug, fits })}
                          >
                            {fits.map((f) => (
                              <span key={f.well} className="flex flex-col items-center">
                                <FitMark fit={f} wantedPct={row.washLinePct} />
                                <FitFigure fit={f} />
                              </span>
                            ))}
                          </button>
                        </td>
                      )
                    })
                  ) : (
                    <td colSpan={book.glasses.length} className="text-stop">
                      {row?.problem}
                    </td>
                  )}
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
      {open && <FitDialog {...open} book={book} onClose={() => setOpen(undefined)} />}
    </div>
  )
}

function fitWords(f: Fit, book: HouseBook): string {
  const where = bySlug(book.wells, f.well)?.name ?? f.well
  if (f.overflowMl >= 1) return `${where} runs over by ${Math.round(f.overflowMl)} ml`
  return `${where} stands at ${Math.round(f.washLinePct)} %`
}

/** Under the glass: what runs over, or where it stands; of its own glass also the ice on top. */
function FitFigure({ fit }: { fit: Fit }) {
  const isOver = fit.overflowMl >= 1
  return (
    <span className="block w-13 text-center text-[12px] leading-tight">
      <span className={isOver ? 'font-semibold text-stop' : fit.isOwn ? '' : 'text-soft'}>
        {isOver ? `+${Math.round(fit.overflowMl)} ml` : `${Math.round(fit.washLinePct)} %`}
      </span>
      {fit.isOwn && fit.ice.outcome === 'found' && (
        <span className="block text-soft">{fit.scoops ?? `${Math.round(fit.ice.iceG)} g ice`}</span>
      )}
    </span>
  )
}

const MARK = { width: 16, height: 32 }
/** A glass in a few strokes: how high it stands, where it should, whether it runs over. */
function FitMark({ fit, wantedPct }: { fit: Fit; wantedPct: number }) {
  const { width, height } = MARK
  const y = (pct: number) => height - 2 - (Math.min(100, pct) / 100) * (height - 8)
  const isOver = fit.overflowMl >= 1
  const isFoam = !isOver && fit.foamAboveBrimMl >= 5
  const isLow = fit.washLinePct < wantedPct - 15
  return (
    <svg width={width + 4} height={height} aria-hidden="true" data-over={isOver}>
      <rect
        x={2}
        y={y(fit.washLinePct)}
        width={width}
        height={height - 2 - y(fit.washLinePct)}
        fill={isOver ? 'var(--stop)' : isLow ? 'var(--shallow)' : 'var(--liquid)'}
      />
      <path
        d={`M2 6V${height - 2}H${width + 2}V6`}
        fill="none"
        stroke={fit.isOwn ? 'var(--ink)' : 'var(--hair)'}
        strokeWidth={fit.isOwn ? 2 : 1}
      />
      <path d={`M0 ${y(wantedPct)}H${width + 4}`} stroke="var(--standard)" strokeDasharray="2 2" />
      {isOver && <path d={`M0 5l3 -4M${width + 4} 5l-3 -4`} stroke="var(--stop)" strokeWidth={1.6} />}
      {isFoam && <path d={`M3 5q3 -5 6 0t6 0`} fill="none" stroke="var(--ink)" />}
    </svg>
  )
}

function FitDialog({
  drink,
  glass: slug,
  fits,
  book,
  onClose,
}: {
  drink: MenuDrink
  glass: string
  fits: Fit[]
  book: HouseBook
  onClose: () => void
}) {
  const navigate = useNavigate()
  const [isBusy, setBusy] = useState(false)
  const { well } = useHouse()
  const glass = bySlug(book.glasses, slug)
  const scale = async () => {
    setBusy(true)
    const scaled = await scaleOnBench(book, drink.document, well.slug, slug)
    setBusy(false)
    if (scaled.outcome === 'problem') return toast.error(scaled.problem)
    if (scaled.outcome === 'cannotBeReached')
      return toast.error(
        `It does not come to fit: from ${Math.round(scaled.lowestPct)} % to ${Math.round(scaled.highestPct)} % of the glass.`,
      )
    navigate(`/drinks/${drink.slug}`, {
      state: {
        useSpec: {
          document: scaled.document satisfies DrinkDocument,
          note: `Everything × ${scaled.factor.toFixed(2)}, to the jigger, for the ${glass?.name}.`,
        },
      },
    })
  }
  return (
    <Dialog isOpen onClose={onClose} title={`${drink.name} in the ${glass?.name}`}>
      <table className="mb-4 w-full">
        <tbody>
          {fits.map((f) => {
            const where = bySlug(book.wells, f.well)
            return (
              <tr key={f.well} className="border-b border-hair/60 align-baseline">
                <th scope="row" className="py-1 text-left font-normal">
                  {where?.name}
                </th>
                <td className={f.overflowMl >= 1 ? 'font-semibold text-stop' : ''}>
                  {f.overflowMl >= 1
                    ? `runs over by ${Math.round(f.overflowMl)} ml`
                    : `stands at ${Math.round(f.washLinePct)} %`}
                  {f.foamAboveBrimMl >= 5 &&
                    f.overflowMl < 1 &&
                    `, froth ${Math.round(f.foamAboveBrimMl)} ml over the brim`}
                </td>
                <td className="text-right text-sm text-soft">
                  {f.ice.outcome === 'found' &&
                    `${Math.round(f.ice.iceG)} g ${ICE_KINDS[f.iceKind].label}${f.scoops ? ` (${f.scoops})` : ''} bring it up to where it should stand`}
                  {f.ice.outcome === 'alreadyAbove' && 'no ice needed on top: it stands higher than it should without'}
                  {f.ice.outcome === 'cannotReach' &&
                    `no ice brings it up to where it should stand: ${Math.round(f.ice.highestMm)} mm at most`}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <div className="flex justify-end gap-2">
        <button type="button" className="act" onClick={onClose}>
          Close
        </button>
        <button type="button" className="act act-main" disabled={isBusy} onClick={() => void scale()}>
          {isBusy ? 'Scaling …' : 'Scale the spec to this glass'}
        </button>
      </div>
    </Dialog>
  )
}
