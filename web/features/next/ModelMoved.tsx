import { mayDo, modelMovedSchema } from '@conch/contract'
import { MEASURES } from '@conch/core/drink'
import { hasLeft, type MovedDrink } from '@conch/core/menu'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, menuQuery, modelQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import type { PlanDraft } from './usePlanDraft.ts'

/**
 * Once after the ice is computed anew: which poured drinks come out otherwise by that alone, and their standards taken again
 * in one act. Gone when somebody has said so, or when the newest edition was computed with today's model.
 */
export function ModelMoved({ control, planned }: { control: PlanDraft; planned: ReadonlySet<string> }) {
  const moved = useQuery(modelQuery).data
  const who = useWho()
  const queryClient = useQueryClient()
  const [isOpen, setOpen] = useState(false)
  const [unchosen, setUnchosen] = useState<ReadonlySet<string>>(new Set())
  const [asking, setAsking] = useState<'retake' | 'keep'>()
  if (!moved?.edition || moved.isAnswered || moved.drinks.length === 0) return null
  const leaving = moved.drinks.filter((d) => d.measures.some(hasLeft) && planned.has(d.drink))
  const outside = moved.drinks.filter((d) => d.outside)
  const chosen = leaving.filter((d) => !unchosen.has(d.drink)).map((d) => d.drink)
  const mayAnswer = mayDo(who.role, 'publishEdition')
  const answer = async (reason: string, drinks: string[]) => {
    try {
      const planRevision = await control.flush()
      if (planRevision === undefined) throw new Error('The plan could not be saved; see beside its name.')
      const answered = await api.post('/api/model', modelMovedSchema, { reason, drinks, planRevision })
      queryClient.setQueryData(modelQuery.queryKey, answered)
      await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
      toast(drinks.length > 0 ? 'Standards are taken again; the plan pours the new versions.' : 'Standards stay.')
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
    }
  }
  const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
  return (
    <section aria-label="Ice computed anew" className="mb-4 border border-mind p-3 lg:col-span-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <p className="mr-auto">
          <b>Ice is computed anew.</b> By that alone {count(moved.drinks.length, 'drink')} of “{moved.edition.name}”
          come out otherwise
          {leaving.length > 0 ? `, ${leaving.length} of them outside the standard` : ', none outside its standard'}.
        </p>
        <button type="button" className="act act-quiet" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Hide' : 'Which …'}
        </button>
        {mayAnswer && (
          <>
            <button type="button" className="act" onClick={() => setAsking('keep')}>
              Keep all standards …
            </button>
            {leaving.length > 0 && (
              <button
                type="button"
                className="act act-main"
                disabled={chosen.length === 0}
                onClick={() => setAsking('retake')}
              >
                Retake {count(chosen.length, 'standard')} …
              </button>
            )}
          </>
        )}
      </div>
      {isOpen && (
        <ul className="mt-2 gap-x-8 lg:columns-2">
          {moved.drinks.map((d) => {
            const mayChoose = mayAnswer && leaving.includes(d)
            return (
              <li key={d.drink} className="break-inside-avoid border-b border-hair/60 py-1.5">
                <p className="flex items-center gap-2">
                  {mayChoose && (
                    <input
                      type="checkbox"
                      aria-label={`Retake the standard of ${d.name}`}
                      checked={!unchosen.has(d.drink)}
                      onChange={(e) => {
                        const next = new Set(unchosen)
                        if (e.target.checked) next.delete(d.drink)
                        else next.add(d.drink)
                        setUnchosen(next)
                      }}
                    />
                  )}
                  <b className="font-semibold">{d.name}</b> <span className="text-soft">v{d.version}</span>
                </p>
                <MovedFigures drink={d} />
              </li>
            )
          })}
        </ul>
      )}
      {outside.length > 0 && (
        <p className="mt-1 text-stop">
          Nothing is known any more of {outside.map((d) => d.name).join(', ')}: {outside[0]?.outside}. It stays readable
          and cannot be published.
        </p>
      )}
      {asking && (
        <ReasonDialog
          title={
            asking === 'retake' ? `Retake ${count(chosen.length, 'standard')}?` : 'Keep all standards as they are?'
          }
          lead={
            asking === 'retake'
              ? 'Each drink gets a new version whose standard holds the glass as it comes out now, at every well; the plan pours it. Earlier versions stay as they were.'
              : 'Drinks that come out otherwise then say so, until their pours or seconds are changed.'
          }
          main={asking === 'retake' ? 'Retake' : 'Keep them'}
          onClose={() => setAsking(undefined)}
          onReason={(reason) => {
            setAsking(undefined)
            void answer(reason, asking === 'retake' ? chosen : [])
          }}
        />
      )}
    </section>
  )
}

function MovedFigures({ drink }: { drink: Pick<MovedDrink, 'measures'> }) {
  const { book } = useHouse()
  const nameOf = (slug: string) => book.wells.find((w) => w.slug === slug)?.name ?? slug
  const wells = [...new Set(drink.measures.map((m) => m.well))]
  return wells.map((well) => (
    <p key={well} className="text-sm">
      <span className="text-soft">{nameOf(well)}:</span>{' '}
      {drink.measures
        .filter((m) => m.well === well)
        .map((m, i) => (
          <span key={m.measure} className={hasLeft(m) ? 'font-semibold text-stop' : ''}>
            {i > 0 && ' · '}
            {MEASURES[m.measure].label} {measureText(m.measure, m.was)} → {measureText(m.measure, m.now)}
          </span>
        ))}
    </p>
  ))
}
