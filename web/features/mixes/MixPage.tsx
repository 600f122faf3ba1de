import { mayDo } from '@conch/contract'
import { mixerOfToday, type Recipe } from '@conch/core/formula'
import { bySlug, type Ingredient, namesIn, PLACES } from '@conch/core/house'
import { useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { useShelfOf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import { BeforeSaving } from '../../foresight/index.ts'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { NameField } from '../../ui/NameField.tsx'
import { Failure } from '../../ui/States.tsx'
import { Letters, OthersKnow } from '../sealed/index.ts'
import { AdjustDialog } from './AdjustDialog.tsx'
import { ClosedMix } from './ClosedMix.tsx'
import { DraftActions } from './DraftActions.tsx'
import { MixMargin } from './MixMargin.tsx'
import { type Opened, OpenWithDraft, partsOfDraft } from './OpenWithDraft.tsx'
import { RecipeSheet } from './RecipeSheet.tsx'
import { useMixDraft } from './useMixDraft.ts'

const hasRecipe = (i: Ingredient | undefined): i is Ingredient & { recipe: Recipe } => i?.recipe !== undefined

export function MixPage() {
  const { slug = '' } = useParams()
  return (
    <NeedShelf key={slug} what="the mix" of={[slug]}>
      {() => <KnownMixPage slug={slug} />}
    </NeedShelf>
  )
}

function KnownMixPage({ slug }: { slug: string }) {
  const { house } = useHouse()
  const saved = bySlug(house.ingredients, slug)
  useOpened(saved?.name)
  if (saved?.kind === 'blend') return <Navigate replace to={`/blends/${slug}`} />
  if (saved?.closed) return <ClosedMix ingredient={saved} closed={saved.closed} />
  if (!hasRecipe(saved)) return <Failure error={`There is no mix “${slug}”.`} />
  return (
    <OpenWithDraft key={slug} saved={saved}>
      {(server, mayEdit) => (
        <NeedShelf what="what is in it" of={[slug, ...partsOfDraft(server)]}>
          {() => <OpenMix saved={saved} server={server} mayEdit={mayEdit} />}
        </NeedShelf>
      )}
    </OpenWithDraft>
  )
}

/** A mix: its recipe on the sheet, what comes out in the margin. */
function OpenMix({ saved, server, mayEdit }: Opened) {
  const { house, today } = useHouse()
  const who = useWho()
  const draft = useMixDraft(saved, server)
  useShelfOf([saved.slug, ...draft.recipe.components.map((c) => c.ingredient)])
  const { mix, recipe } = draft
  const shelf = house.ingredients.map((i) => (i.slug === saved.slug ? mix : i))
  const mixer = mixerOfToday({ ...house, ingredients: shelf }, today)
  const fresh = mixer.freshMixOf(saved.slug)
  const [adjusting, setAdjusting] = useState<'fortify' | 'sharpen'>()

  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <header className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full break-words">
            {mayEdit ? <NameField name={mix.name} onChange={(name) => draft.change({ name })} /> : mix.name}
          </h1>
          <DraftActions draft={draft} saved={saved} />
        </header>
        <ConflictPanel kind="ingredient" noun="mix" control={draft.control} nameOf={namesIn(house)} />
        <BeforeSaving change={mayEdit && draft.isChanged ? { kind: 'ingredients', document: mix } : undefined} />
        {draft.problem && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {draft.problem}
          </p>
        )}
        <p className="mb-3 text-sm text-soft">
          kept{' '}
          {mayEdit ? (
            <select
              aria-label="Where it is kept"
              className="inplace text-ink"
              value={mix.storedIn}
              onChange={(e) => draft.change({ storedIn: e.target.value as Ingredient['storedIn'] })}
            >
              {Object.entries(PLACES).map(([key, label]) => (
                <option key={key} value={key}>
                  {label}
                </option>
              ))}
            </select>
          ) : (
            PLACES[mix.storedIn]
          )}
          {mix.note && ` · ${mix.note}`}
        </p>
        <RecipeSheet
          recipe={recipe}
          mix={fresh.ok ? fresh.mix : undefined}
          self={saved.slug}
          onChange={mayEdit ? draft.changeRecipe : undefined}
        />
        {mayEdit && fresh.ok && (
          <p className="no-print mt-4 flex flex-wrap gap-2">
            <button type="button" className="act" onClick={() => setAdjusting('fortify')}>
              Fortify …
            </button>
            <button type="button" className="act" onClick={() => setAdjusting('sharpen')}>
              Sharpen …
            </button>
          </p>
        )}
        {saved.isSealed && mayDo(who.role, 'openSealed') && <OthersKnow saved={saved} />}
        {saved.isSealed && mayDo(who.role, 'openSealed') && <Letters saved={saved} />}
        {adjusting && fresh.ok && (
          <AdjustDialog
            how={adjusting}
            mix={fresh.mix}
            recipe={recipe}
            onClose={() => setAdjusting(undefined)}
            onRecipe={draft.changeRecipe}
          />
        )}
      </div>
      <MixMargin
        mix={mix}
        fresh={fresh}
        shelf={shelf}
        onChange={mayEdit ? draft.change : undefined}
        onRestore={mayEdit ? (recipe) => draft.change({ recipe }) : undefined}
      />
    </div>
  )
}
