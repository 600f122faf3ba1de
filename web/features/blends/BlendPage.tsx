import { mayDo } from '@conch/contract'
import { MOST_IN_A_BLEND, mixerOfToday, type Recipe, sharesOf, withPart, withVolumes } from '@conch/core/formula'
import { bySlug, type Ingredient, nameIn, namesIn } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { inTheOpenQuery } from '../../app/queries.ts'
import { useShelfOf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import { BeforeSaving } from '../../foresight/index.ts'
import { SplitBar } from '../../graphics/SplitBar.tsx'
import { StyleLines } from '../../graphics/StyleLines.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { NameField } from '../../ui/NameField.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure } from '../../ui/States.tsx'
import { ClosedMix, DraftActions, type Opened, OpenWithDraft, partsOfDraft, useMixDraft } from '../mixes/index.ts'
import { DealDialog, Letters, OthersKnow } from '../sealed/index.ts'
import { BlendMargin } from './BlendMargin.tsx'
import { BlendParts } from './BlendParts.tsx'

const hasRecipe = (i: Ingredient | undefined): i is Ingredient & { recipe: Recipe } => i?.recipe !== undefined

export function BlendPage() {
  const { slug = '' } = useParams()
  return (
    <NeedShelf key={slug} what="the blend" of={[slug]}>
      {() => <KnownBlendPage slug={slug} />}
    </NeedShelf>
  )
}

function KnownBlendPage({ slug }: { slug: string }) {
  const { house } = useHouse()
  const saved = bySlug(house.ingredients, slug)
  useOpened(saved?.name)
  if (saved?.closed) return <ClosedMix ingredient={saved} closed={saved.closed} />
  if (!hasRecipe(saved) || saved.kind !== 'blend') return <Failure error={`There is no blend “${slug}”.`} />
  return (
    <OpenWithDraft key={slug} saved={saved}>
      {(server, mayEdit) => (
        <NeedShelf what="what is in it" of={[slug, ...partsOfDraft(server)]}>
          {() => <OpenBlend saved={saved} server={server} mayEdit={mayEdit} />}
        </NeedShelf>
      )}
    </OpenWithDraft>
  )
}

/** A blend: the split bar and its parts on the sheet, what comes out and how near it lands in the margin. */
function OpenBlend({ saved, server, mayEdit }: Opened) {
  const { house, book, today } = useHouse()
  const who = useWho()
  const draft = useMixDraft(saved, server)
  useShelfOf([saved.slug, ...draft.recipe.components.map((c) => c.ingredient)])
  const { mix: blend, recipe } = draft
  const { kit } = house.settings
  const [pourMl, setPourMl] = useState(2 * kit.ounceMl)
  const [stepMl, setStepMl] = useState(kit.ounceMl / 4)
  const [isDealing, setDealing] = useState(false)
  const shelf = house.ingredients.map((i) => (i.slug === saved.slug ? blend : i))
  const fresh = mixerOfToday({ ...house, ingredients: shelf }, today).freshMixOf(saved.slug)
  // What is dealt is the recipe as it is saved, whatever a draft says.
  const asSaved = mixerOfToday(house, today).freshMixOf(saved.slug)
  const shares = sharesOf(recipe)
  const { components } = recipe
  const cut = { pourMl, stepMl }
  const put = (next: Recipe) => draft.change({ recipe: next })
  const setVolumes = (volumesMl: readonly number[]) => put(withVolumes(recipe, volumesMl, stepMl))
  const add = (ingredient: string) => put(withPart(recipe, ingredient, cut))
  const isFree = (i: Ingredient) =>
    (i.figures.abvPct.value > 0 || i.recipe !== undefined || i.closed !== undefined) &&
    i.slug !== saved.slug &&
    i.kind !== 'juice' &&
    !components.some((c) => c.ingredient === i.slug)

  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <header className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full break-words">
            {mayEdit ? <NameField name={blend.name} onChange={(name) => draft.change({ name })} /> : blend.name}
          </h1>
          <DraftActions draft={draft} saved={saved}>
            {saved.isSealed && mayDo(who.role, 'openSealed') && (
              <button type="button" className="act" onClick={() => setDealing(true)}>
                In two hands …
              </button>
            )}
          </DraftActions>
        </header>
        <ConflictPanel kind="ingredient" noun="blend" control={draft.control} nameOf={namesIn(house)} />
        <BeforeSaving change={mayEdit && draft.isChanged ? { kind: 'ingredients', document: blend } : undefined} />
        {draft.problem && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {draft.problem}
          </p>
        )}
        {blend.note && <p className="mb-3 text-sm text-soft">{blend.note}</p>}
        <p className="mb-2 text-sm text-soft">
          as one pour of{' '}
          <NumberField label="The pour shown" value={pourMl} low={10} high={500} step={stepMl} onChange={setPourMl} />{' '}
          ml, cut in steps of{' '}
          <select
            aria-label="What the handles snap to"
            className="inplace text-ink"
            value={stepMl}
            onChange={(e) => setStepMl(Number(e.target.value))}
          >
            {[kit.ounceMl / 8, kit.ounceMl / 4, kit.ounceMl / 2, 5].map((ml) => (
              <option key={ml} value={ml}>
                {Number(ml.toFixed(2))} ml
              </option>
            ))}
          </select>
        </p>
        <SplitBar
          parts={shares.map((s) => ({ name: nameIn(shelf, s.ingredient), share: s.share }))}
          volumeMl={pourMl}
          stepMl={stepMl}
          ounceMl={kit.ounceMl}
          onChange={mayEdit ? setVolumes : undefined}
        />
        <BlendParts {...{ draft, cut, mayEdit }} fresh={fresh.ok ? fresh.mix : undefined} />
        {mayEdit && (
          <p className="flex flex-wrap items-baseline gap-2">
            {components.length < MOST_IN_A_BLEND ? (
              <IngredientPicker isFree={isFree} onPick={add}>
                <button type="button" className="act act-quiet mt-1 text-soft">
                  Add a spirit
                </button>
              </IngredientPicker>
            ) : (
              <span className="caption mt-1">six are in it: more is no blend that anybody could name</span>
            )}
          </p>
        )}
        {saved.isSealed && <InTheOpen saved={saved} />}
        {saved.isSealed && mayDo(who.role, 'openSealed') && <OthersKnow saved={saved} />}
        {saved.isSealed && saved.recipe && mayDo(who.role, 'openSealed') && <Letters saved={saved} />}
        <section aria-label="What each brings" className="mt-5 max-w-2xl">
          <h2 className="mb-1 border-b border-ink text-lg">What each brings</h2>
          <StyleLines
            series={components.map((c) => ({
              label: nameIn(shelf, c.ingredient),
              profile: book.profiles?.[c.ingredient] ?? {},
            }))}
          />
        </section>
      </div>
      <BlendMargin
        blend={blend}
        fresh={fresh}
        shelf={shelf}
        pourMl={pourMl}
        onChange={mayEdit ? draft.change : undefined}
      />
      {isDealing && asSaved.ok && (
        <DealDialog ingredient={saved} writtenMl={asSaved.mix.volumeMl} onClose={() => setDealing(false)} />
      )}
    </div>
  )
}

/** Versions that pour a sealed blend's very bottles in its very shares: whoever reads them reads the formula. */
function InTheOpen({ saved }: { saved: Ingredient }) {
  const found = useQuery(inTheOpenQuery(saved.slug)).data ?? []
  if (found.length === 0) return null
  return (
    <p className="mt-4 border-l-4 border-mind pl-3 text-mind">
      Sealed, and yet in the open:{' '}
      {found.map((f, i) => (
        <span key={`${f.drink} ${f.number}`}>
          {i > 0 && ', '}
          <Link className="underline" to={`/drinks/${f.drink}?v=${f.number}`}>
            {f.name}, version {f.number}
          </Link>
        </span>
      ))}{' '}
      pours the same bottles in the same shares, for everybody to read.
    </p>
  )
}
