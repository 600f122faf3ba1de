import { type Edition, type Menu, mayDo } from '@conch/contract'
import { MEASURES, type MeasureName } from '@conch/core/drink'
import {
  type EditionLock,
  type Listing,
  type LockedDrink,
  type MenuChange,
  type MenuPlan,
  menuChanges,
} from '@conch/core/menu'
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, drinksQuery, editionQuery, editionsQuery, menuQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Field } from '../../ui/Field.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useGlasses } from '../../workers/compute.ts'
import { changePlan } from './changePlan.ts'
import { planMoved, planToChapter, planWith, planWithout } from './plan.ts'

/** The next edition in the making: its chapters, and what publishing it would change. */
export function NextEditionPage() {
  const menu = useQuery(menuQuery)
  const editions = useQuery(editionsQuery)
  const newest = editions.data?.[0]
  const before = useQuery({ ...editionQuery(newest?.number ?? 0), enabled: newest !== undefined })
  if (menu.error || editions.error)
    return <Failure error={menu.error ?? editions.error} onRetry={() => menu.refetch()} />
  if (!menu.data || editions.isPending || (newest && !before.data)) return <Loading what="the next edition" />
  return <NextEdition menu={menu.data} before={newest ? before.data : undefined} />
}

const listingsOf = (plan: Menu['plan']): Listing[] =>
  plan.chapters.flatMap((c) => c.entries.map((e) => ({ ...e, chapter: c.name })))
const lockListings = (lock: EditionLock | undefined): Listing[] =>
  lock?.chapters.flatMap((c) => c.drinks.map((d) => ({ drink: d.drink, version: d.version, chapter: c.name }))) ?? []

function NextEdition({ menu, before }: { menu: Menu; before: Edition | undefined }) {
  const who = useWho()
  const queryClient = useQueryClient()
  const drinks = useQuery(drinksQuery).data ?? []
  const nameOf = (slug: string) => drinks.find((d) => d.slug === slug)?.name ?? slug
  const mayPlan = mayDo(who.role, 'planMenu')
  const changes = menuChanges(lockListings(before?.lock), listingsOf(menu.plan))
  const change = (how: (plan: MenuPlan) => MenuPlan) =>
    changePlan(queryClient, how).catch((e: Error) => toast.error(e.message))
  const planned = new Set(listingsOf(menu.plan).map((l) => l.drink))
  const free = drinks.filter((d) => !planned.has(d.slug) && d.latestVersion !== null)
  const { chapters } = menu.plan
  const patchChapter = (index: number, name: string) =>
    change((plan) => ({ chapters: plan.chapters.map((c, i) => (i === index ? { ...c, name } : c)) }))
  return (
    <div className="grid gap-x-8 px-4 pt-4 pb-10 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.100fr)]">
      <section aria-label="The plan">
        <h1 className="mb-3 text-3xl">Next edition</h1>
        {chapters.map((chapter, c) => (
          <div key={c} className="mb-4">
            <h2 className="flex items-center gap-2 border-b border-ink text-lg">
              {mayPlan ? (
                <input
                  key={chapter.name}
                  className="inplace min-w-0 flex-1 font-display"
                  aria-label={`Name of chapter ${c + 1}`}
                  maxLength={120}
                  defaultValue={chapter.name}
                  onBlur={(e) =>
                    e.target.value.trim() && e.target.value !== chapter.name && patchChapter(c, e.target.value.trim())
                  }
                />
              ) : (
                chapter.name
              )}
              {mayPlan && chapter.entries.length === 0 && (
                <button
                  type="button"
                  className="act act-quiet text-sm"
                  onClick={() => change((plan) => ({ chapters: plan.chapters.filter((_, i) => i !== c) }))}
                >
                  Leave it out
                </button>
              )}
            </h2>
            <ul>
              {chapter.entries.map((entry) => (
                <PlanLine
                  key={entry.drink}
                  name={nameOf(entry.drink)}
                  {...{ entry, mayPlan, chapters, chapterIndex: c }}
                  onMove={(by) => change((plan) => planMoved(plan, entry.drink, by))}
                  onChapter={(to) => change((plan) => planToChapter(plan, entry.drink, to))}
                  onVersion={(version) => change((plan) => planWith(plan, entry.drink, version))}
                  onRemove={() => change((plan) => planWithout(plan, entry.drink))}
                />
              ))}
            </ul>
          </div>
        ))}
        {mayPlan && (
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="act"
              onClick={() =>
                change((plan) => ({
                  chapters: [...plan.chapters, { name: `Chapter ${plan.chapters.length + 1}`, entries: [] }],
                }))
              }
            >
              Add a chapter
            </button>
            {free.length > 0 && (
              <select
                aria-label="Add a drink"
                className="field max-w-64"
                value=""
                onChange={(e) => {
                  const drink = free.find((d) => d.slug === e.target.value)
                  const latest = drink?.latestVersion
                  if (drink && latest) change((plan) => planWith(plan, drink.slug, latest))
                }}
              >
                <option value="">Add a drink …</option>
                {free.map((d) => (
                  <option key={d.slug} value={d.slug}>
                    {d.name}, v{d.latestVersion}
                  </option>
                ))}
              </select>
            )}
          </div>
        )}
      </section>
      <Changes {...{ menu, before, changes, nameOf }} />
    </div>
  )
}

function PlanLine({
  name,
  entry,
  mayPlan,
  chapters,
  chapterIndex,
  onMove,
  onChapter,
  onVersion,
  onRemove,
}: {
  name: string
  entry: { drink: string; version: number }
  mayPlan: boolean
  chapters: Menu['plan']['chapters']
  chapterIndex: number
  onMove: (by: 1 | -1) => void
  onChapter: (index: number) => void
  onVersion: (version: number) => void
  onRemove: () => void
}) {
  const versions = useQuery(drinkQuery(entry.drink)).data?.versions ?? []
  const small = 'min-h-8 px-1.5 text-soft hover:bg-shallow max-sm:min-h-11 max-sm:min-w-11'
  return (
    <li className="flex flex-wrap items-center gap-x-2 border-b border-hair/60 py-0.5">
      <Link
        to={`/drinks/${entry.drink}?v=${entry.version}`}
        className="min-w-0 flex-1 truncate hover:underline max-sm:basis-full"
      >
        {name}
      </Link>
      {mayPlan ? (
        <>
          <select
            aria-label={`Version of ${name}`}
            className="inplace"
            value={entry.version}
            onChange={(e) => onVersion(Number(e.target.value))}
          >
            {(versions.length > 0 ? versions.map((v) => v.number) : [entry.version]).map((n) => (
              <option key={n} value={n}>
                v{n}
              </option>
            ))}
          </select>
          {chapters.length > 1 && (
            <select
              aria-label={`Chapter of ${name}`}
              className="inplace text-soft"
              value=""
              onChange={(e) => onChapter(Number(e.target.value))}
            >
              <option value="">move to</option>
              {chapters.map((c, i) =>
                i === chapterIndex ? null : (
                  <option key={`${i} ${c.name}`} value={i}>
                    {c.name}
                  </option>
                ),
              )}
            </select>
          )}
          <span className="flex">
            <button type="button" className={small} aria-label={`${name} up`} onClick={() => onMove(-1)}>
              ↑
            </button>
            <button type="button" className={small} aria-label={`${name} down`} onClick={() => onMove(1)}>
              ↓
            </button>
            <button type="button" className={small} aria-label={`Take ${name} off`} onClick={onRemove}>
              ×
            </button>
          </span>
        </>
      ) : (
        <span>v{entry.version}</span>
      )}
    </li>
  )
}

const KIND_WORDS: Record<MenuChange['kind'], string> = {
  added: 'new',
  removed: 'leaves',
  version: 'new version',
  moved: 'moves',
}
const COMPARED: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'volumeMl']

interface ChangesProps {
  menu: Menu
  before: Edition | undefined
  changes: MenuChange[]
  nameOf: (slug: string) => string
}

/** What the next edition changes, with the figures before and after at the well one stands at. */
function Changes({ menu, before, changes, nameOf }: ChangesProps) {
  const { book, well } = useHouse()
  const who = useWho()
  const [isPublishing, setPublishing] = useState(false)
  const listings = listingsOf(menu.plan)
  const queries = useQueries({ queries: listings.map((l) => drinkQuery(l.drink)) })
  const documents = listings.map((l, i) => queries[i]?.data?.versions.find((v) => v.number === l.version)?.document)
  const isLoaded = documents.every((d) => d !== undefined)
  const answers = useGlasses(
    isLoaded && documents.length > 0 ? (documents as NonNullable<(typeof documents)[number]>[]) : undefined,
    book,
    well.slug,
  )
  const lockedOf = (slug: string): LockedDrink | undefined =>
    before?.lock.chapters.flatMap((c) => c.drinks).find((d) => d.drink === slug)
  const listed = new Map(changes.map((c) => [c.drink, c]))
  // An unchanged version can still come out differently: a bottle's figures have changed.
  const rows = [
    ...listings.flatMap((l, i) => {
      const change = listed.get(l.drink)
      const answer = answers?.[i]
      const now = answer?.ok ? answer.result.predictions : undefined
      const was = lockedOf(l.drink)?.byWell[well.slug]?.result.predictions
      const moved = COMPARED.filter(
        (m) => was?.[m] && now?.[m] && measureText(m, was[m].value) !== measureText(m, now[m].value),
      )
      if (!change && moved.length === 0) return []
      const figures = moved.map(
        (m) => `${MEASURES[m].label} ${measureText(m, was?.[m]?.value ?? 0)} → ${measureText(m, now?.[m]?.value ?? 0)}`,
      )
      const stops = answer?.ok
        ? answer.consequences.filter((c) => c.weight === 'stop').map((c) => c.text)
        : answer
          ? answer.problems.map((p) => p.message)
          : []
      return [{ drink: l.drink, words: change ? wordsOf(change) : 'same version, other figures', figures, stops }]
    }),
    ...changes
      .filter((c) => c.kind === 'removed')
      .map((c) => ({ drink: c.drink, words: wordsOf(c), figures: [], stops: [] })),
  ]
  const mayPublish = mayDo(who.role, 'publishEdition')
  return (
    <section aria-label="What it changes" className="border-hair max-lg:mt-6 lg:border-l lg:pl-8">
      <div className="mb-2 flex items-center gap-3">
        <h2 className="mr-auto text-lg">
          {before ? `Against “${before.name}”, at the ${well.name}` : `The first edition, at the ${well.name}`}
        </h2>
        <button
          type="button"
          className="act act-main"
          disabled={!mayPublish || listings.length === 0}
          title={mayPublish ? undefined : 'A manager publishes'}
          onClick={() => setPublishing(true)}
        >
          Publish …
        </button>
      </div>
      {!mayPublish && <p className="caption mb-2">A manager publishes editions.</p>}
      {before && rows.length === 0 && (
        <p className="text-soft">Nothing would change: the plan is what is poured, and comes out the same.</p>
      )}
      <ul>
        {rows.map((r) => (
          <li key={r.drink} className="border-b border-hair/60 py-1.5">
            <p className="flex gap-2">
              <b className="font-semibold">{nameOf(r.drink)}</b>
              <span className="text-soft">{r.words}</span>
            </p>
            {r.figures.length > 0 && <p className="text-sm">{r.figures.join(' · ')}</p>}
            {r.stops.map((s) => (
              <p key={s} className="text-sm text-stop">
                ■ {s}
              </p>
            ))}
          </li>
        ))}
      </ul>
      <PublishDialog isOpen={isPublishing} onClose={() => setPublishing(false)} menu={menu} count={listings.length} />
    </section>
  )
}

function wordsOf({ kind, before, after }: MenuChange): string {
  if (kind === 'version') return `v${before?.version} → v${after?.version}`
  if (kind === 'moved') return `moves from ${before?.chapter} to ${after?.chapter}`
  return KIND_WORDS[kind]
}

function PublishDialog({
  isOpen,
  onClose,
  menu,
  count,
}: {
  isOpen: boolean
  onClose: () => void
  menu: Menu
  count: number
}) {
  const [name, setName] = useState('')
  const [note, setNote] = useState('')
  const [error, setError] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const publish = async (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') {
      setError('Give the edition a name, like the season.')
      return
    }
    setBusy(true)
    try {
      const edition = await api.post<Edition>('/api/editions', { name, note, planRevision: menu.revision })
      queryClient.setQueryData(editionQuery(edition.number).queryKey, edition)
      await queryClient.invalidateQueries({ queryKey: editionsQuery.queryKey, exact: true })
      await queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
      toast(`“${edition.name}” is published.`)
      navigate('/')
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Dialog
      isOpen={isOpen}
      onClose={onClose}
      title="Publish the edition"
      lead={`${count} drinks are frozen with every version, bottle and figure, at every well, for ever.`}
    >
      <form onSubmit={publish}>
        <Field label="Name" error={error}>
          {(props) => (
            <input
              {...props}
              maxLength={120}
              placeholder="This winter"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <Field label="Note">
          {(props) => (
            <textarea {...props} rows={2} maxLength={2000} value={note} onChange={(e) => setNote(e.target.value)} />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <button type="button" className="act" onClick={onClose}>
            Not yet
          </button>
          <button type="submit" className="act act-main" disabled={isBusy}>
            Publish
          </button>
        </div>
      </form>
    </Dialog>
  )
}
