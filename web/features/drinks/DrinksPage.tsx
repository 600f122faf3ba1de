import { type DrinkListing, drinkSchema, mayDo } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, lazy, Suspense, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { drinksQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { hasAllWords } from '../../ui/hasAllWords.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'

const drinkForm = formOf(drinkSchema)
const PasteSpec = lazy(() => import('./PasteSpec.tsx').then((m) => ({ default: m.PasteSpec })))

/** Every drink the house ever wrote, on the menu or not. */
export function DrinksPage() {
  const drinks = useQuery(drinksQuery)
  const who = useWho()
  const [wanted, setWanted] = useState('')
  const [isNew, setNew] = useState(false)
  const [hasHidden, setHidden] = useState(false)
  const [isPasting, setPasting] = useState(false)
  if (drinks.isPending) return <Loading what="the drinks" />
  if (!drinks.data) return <Failure error={drinks.error} onRetry={() => drinks.refetch()} />
  const shown = drinks.data.filter((d) => hasHidden || !d.isHidden)
  const hiddenCount = drinks.data.filter((d) => d.isHidden).length
  const found = shown.filter((d) => hasAllWords(d.name, wanted))
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-3xl">Drinks</h1>
        <input
          type="search"
          aria-label="Find a drink"
          placeholder="Find a drink"
          className="field max-w-60"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
        {mayDo(who.role, 'saveDraft') && (
          <>
            <button type="button" className="act" onClick={() => setPasting(true)}>
              Paste a spec
            </button>
            <button type="button" className="act act-main" onClick={() => setNew(true)}>
              New drink
            </button>
          </>
        )}
      </header>
      {drinks.data.length === 0 && (
        <Empty title="No drink is written yet">
          Begin with a name: a first draft with one pour is waiting behind it.
        </Empty>
      )}
      {drinks.data.length > 0 && found.length === 0 && <p className="text-soft">No drink is called “{wanted}”.</p>}
      <ul className="gap-x-10 lg:columns-2">
        {found.map((d) => (
          <li key={d.slug} className="break-inside-avoid border-b border-hair/60">
            <Link
              to={`/drinks/${d.slug}`}
              className="flex min-h-10 items-center gap-3 py-1 hover:bg-shoal max-sm:min-h-12"
            >
              <span className="w-5">{d.pouredVersion !== null && <Seal title="poured today" />}</span>
              <span className="min-w-0 flex-1 truncate text-[1.05rem]">{d.name}</span>
              <span className="caption">{describe(d)}</span>
            </Link>
          </li>
        ))}
      </ul>
      {hiddenCount > 0 && (
        <button type="button" className="act act-quiet mt-3 text-soft" onClick={() => setHidden(!hasHidden)}>
          {hasHidden ? 'Leave out what is hidden' : `Show ${hiddenCount} hidden`}
        </button>
      )}
      {isPasting && (
        <Suspense fallback={null}>
          <PasteSpec onClose={() => setPasting(false)} />
        </Suspense>
      )}
      <NewDrink isOpen={isNew} onClose={() => setNew(false)} />
    </div>
  )
}

function describe(d: DrinkListing): string {
  const words = [
    d.isHidden ? 'hidden' : undefined,
    d.hasDraft ? 'draft' : undefined,
    d.plannedVersion !== null && d.plannedVersion !== d.pouredVersion ? `v${d.plannedVersion} next` : undefined,
    d.pouredVersion !== null ? `v${d.pouredVersion} poured` : undefined,
    d.versionCount === 0 ? 'no version yet' : `${d.versionCount} ${d.versionCount === 1 ? 'version' : 'versions'}`,
  ]
  return words.filter(Boolean).join(' · ')
}

function NewDrink({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const [name, setName] = useState('')
  const [error, setError] = useState<string>()
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') {
      setError('Give it a name; it can be changed later.')
      return
    }
    try {
      const drink = await api.post('/api/drinks', drinkForm, { name })
      await queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
      navigate(`/drinks/${drink.slug}`)
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    }
  }
  return (
    <Dialog isOpen={isOpen} onClose={onClose} title="New drink">
      <form onSubmit={make}>
        <Field label="Name" error={error}>
          {(props) => <input {...props} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Begin" />
      </form>
    </Dialog>
  )
}
