import { type DrinkDocument, type DrinkResult, type PourLine, pourName } from '@conch/core/drink'
import { collapseToBlend, expandBlend } from '@conch/core/formula'
import { bySlug, type HouseBook, nameApart, type Well } from '@conch/core/house'
import { pourGrid, usualMeasures, volumeMlOfAmount } from '@conch/core/measure'
import { resolveSlot } from '@conch/core/palate'
import type { Usual } from '@conch/core/reading'
import { DropdownMenu as Menu } from 'radix-ui'
import { useMemo, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { useShelf } from '../../app/shelf.ts'
import { mlText } from '../../graphics/format.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { useUsual } from '../../shelf/useUsual.ts'
import { About } from '../../ui/About.tsx'
import { MoveHandle, MovingArea, putBeside, stepped, useMovable } from '../../ui/Moving.tsx'
import { AmountField } from './AmountField.tsx'
import * as edits from './edits.ts'
import { PourFlag } from './PourFlag.tsx'
import { isSweet, SubstituteDialog } from './SubstituteDialog.tsx'
import type { SpecSheetProps } from './specSheetProps.ts'
import { flagsOf, TypedLine } from './TypedLine.tsx'

const SHARES = [
  { key: 'alcoholFraction', label: 'alcohol' },
  { key: 'sugarFraction', label: 'sugar' },
  { key: 'acidFraction', label: 'acid' },
] as const

/** The pours in build order, each with its share of the drink's alcohol, sugar and acid. */
export function PourTable({ document, book, well, result, older, siblings, asked, onChange }: SpecSheetProps) {
  const usual = useUsual(document.pours.map((p) => p.ingredient))
  const ids = pourIds(document.pours)
  const { measures, kit } = book.settings
  const gridMl = useMemo(() => pourGrid(measures ?? usualMeasures(kit)).map((g) => g.volumeMl), [measures, kit])
  return (
    <div>
      <div className="flex justify-end gap-2 pr-15 max-sm:hidden" aria-hidden="true">
        {SHARES.map((s) => (
          <span key={s.key} className="caption w-14">
            {s.label}
          </span>
        ))}
      </div>
      <MovingArea
        nameOf={(id) => pourName(document.pours[ids.indexOf(id)], book)}
        whereIs={(id) => `${ids.indexOf(id) + 1} of ${ids.length}`}
        onStep={(id, by) => {
          onChange?.({ ...document, pours: stepped(document.pours, ids.indexOf(id), by) })
          return undefined
        }}
        onDrop={(id, over, isAfter) =>
          onChange?.({ ...document, pours: putBeside(document.pours, ids.indexOf(id), ids.indexOf(over), isAfter) })
        }
      >
        <ol>
          {document.pours.map((pour, index) => (
            <PourRow
              key={ids[index]}
              id={ids[index] ?? ''}
              {...{ pour, index, document, book, well, older, siblings, asked, usual, gridMl, onChange }}
              share={result?.pours[index]}
            />
          ))}
        </ol>
      </MovingArea>
      {onChange && <AsOneBottle {...{ document, book, onChange }} />}
      {onChange && (
        <div className="flex flex-wrap items-baseline gap-x-2">
          <IngredientPicker
            slots={book.slots ?? []}
            onPick={(ingredient) => onChange(edits.addPour(document, { ingredient }))}
            onPickSlot={(slot) => onChange(edits.addPour(document, { slot }))}
          >
            <button type="button" className="act act-quiet mt-0.5 ml-[6.500rem] text-soft">
              Add a pour
            </button>
          </IngredientPicker>
          <TypedLine book={book} onPour={(pour) => onChange({ ...document, pours: [...document.pours, pour] })} />
        </div>
      )}
    </div>
  )
}

/** What a pour is, and which of several of the same: its line stays its own when it is moved. */
function pourIds(pours: readonly PourLine[]): string[] {
  const counts = new Map<string, number>()
  return pours.map((pour) => {
    const what = pour.ingredient ?? pour.slot ?? 'own figures'
    const count = (counts.get(what) ?? 0) + 1
    counts.set(what, count)
    return `${what} ${count}`
  })
}

const INTO_WORDS: Record<PourLine['into'], string> = { tin: '', glass: 'in the glass', float: 'float' }

function PourRow({
  id,
  pour,
  index,
  document,
  book,
  well,
  share,
  older,
  asked,
  usual,
  gridMl,
  siblings,
  onChange,
}: Omit<SpecSheetProps, 'result'> & {
  usual: Usual
  gridMl: readonly number[]
  id: string
  pour: PourLine
  index: number
  share: DrinkResult['pours'][number] | undefined
}) {
  const slot = bySlug(book.slots ?? [], pour.slot)
  const inSlot = slot && resolveSlot(slot, book, well.slug)
  const ingredient = inSlot?.ingredient ?? bySlug(book.ingredients, pour.ingredient)
  const name = pourName(pour, book)
  const { ref, style, handle } = useMovable(id, !onChange)
  const isOut = inSlot?.isOut ?? (ingredient?.stock === 'out' || ingredient?.stock === 'discontinued')
  const { kit } = book.settings
  const ml = pour.volumeMl ?? (pour.amount && volumeMlOfAmount(pour.amount, kit, document.partMl))
  const amount = pour.amount ?? { value: pour.volumeMl ?? 0, unit: 'ml' as const }
  const isMl = amount.unit === 'ml'
  const flags = flagsOf(pour, { book, serves: document.serves, usual, older, siblings })
  const isAssumed = (share?.assumed.length ?? 0) > 0
  return (
    <li
      ref={ref}
      style={style}
      className={`flex items-center gap-3 border-b border-hair/60 py-[3px] max-sm:flex-wrap max-sm:gap-x-2 ${flags.length > 0 ? 'flex-wrap' : ''}`}
      data-pour={pour.ingredient ?? pour.slot}
    >
      <AmountField
        amount={amount}
        kit={kit}
        partMl={document.partMl}
        label={`Amount of ${name}`}
        isReadOnly={!onChange}
        gridMl={gridMl}
        onChange={(next) => onChange?.(edits.changePour(document, index, { amount: next, volumeMl: undefined }))}
      />
      <span className="caption w-14 text-right">{isMl || ml === undefined ? '' : mlText(ml)}</span>
      <span className="min-w-0 flex-1">
        {onChange ? (
          <IngredientPicker
            slots={book.slots ?? []}
            onPick={(slug) => onChange(edits.pourInstead(document, index, { ingredient: slug }))}
            onPickSlot={(slug) => onChange(edits.pourInstead(document, index, { slot: slug }))}
          >
            <button
              type="button"
              className="max-w-full truncate border-b border-transparent text-left max-sm:whitespace-normal hover:border-hair hover:bg-shallow"
            >
              {name}
            </button>
          </IngredientPicker>
        ) : (
          name
        )}
        {inSlot && (
          <span className="ml-2 text-sm text-soft">
            {nameApart(inSlot.ingredient, book.ingredients)}
            {inSlot.insteadOf && (
              <span className="text-mind"> for {nameApart(inSlot.insteadOf, book.ingredients)}</span>
            )}
          </span>
        )}
        {isOut && <span className="ml-2 text-sm text-stop">out</span>}
        {(isOut || inSlot?.insteadOf) && asked && (
          <Link className="no-print ml-2 text-sm underline" to={standInHref(pour, index, asked)}>
            stand-in
          </Link>
        )}
        {pour.into !== 'tin' && <span className="ml-2 text-sm text-soft italic">{INTO_WORDS[pour.into]}</span>}
        {isAssumed && <About what={`assumed, not measured: ${share?.assumed.join(', ')}`} />}
      </span>
      {flags.map((flag) => (
        <PourFlag key={flag.text} {...{ flag, index, pour, document, book, onChange }} />
      ))}
      <span className="flex gap-2 max-sm:hidden">
        {SHARES.map((s) => (
          <ShareBar
            key={s.key}
            fraction={share?.[s.key] ?? 0}
            title={`${Math.round(100 * (share?.[s.key] ?? 0))} % of the ${s.label} of this drink`}
          />
        ))}
      </span>
      <span className="no-print flex w-12 items-center justify-end max-sm:w-auto">
        {onChange && <MoveHandle {...{ name, handle }} />}
        {onChange && <PourMenu {...{ document, book, well, index, pour, name, asked, onChange }} pouredMl={ml ?? 0} />}
      </span>
    </li>
  )
}

function ShareBar({ fraction, title }: { fraction: number; title: string }) {
  return (
    <svg width={56} height={12} role="img" aria-label={title}>
      <title>{title}</title>
      <line x1={0} x2={56} y1={6} y2={6} stroke="var(--hair)" strokeWidth={0.8} />
      <line x1={0} x2={56 * fraction} y1={6} y2={6} stroke="var(--ink)" strokeWidth={3} />
    </svg>
  )
}

/** Where the nearest to a line is searched for. */
function standInHref(pour: PourLine, index: number, asked: NonNullable<SpecSheetProps['asked']>): string {
  const what = pour.slot ? `slot=${pour.slot}` : `bottle=${pour.ingredient}`
  const v = asked.version === undefined ? '' : `&v=${asked.version}`
  return `/stand-in?${what}&drink=${asked.drink}${v}&line=${index}`
}

const BLENDS = { shown: 'blend' as const }

/** Lines that together are a blend of the house: one bottle instead. */
function AsOneBottle({
  document,
  book,
  onChange,
}: {
  document: DrinkDocument
  book: HouseBook
  onChange: (d: DrinkDocument) => void
}) {
  useShelf(BLENDS)
  const found = book.ingredients.flatMap((blend) => {
    if (blend.kind !== 'blend' || !blend.recipe) return []
    const { kit, showsOunces: prefersOunces } = book.settings
    const own = { slug: blend.slug, recipe: blend.recipe }
    const one = collapseToBlend(document.pours, own, kit, { partMl: document.partMl, prefersOunces })
    return one ? [{ blend, ...one }] : []
  })
  return found.map(({ blend, line, replaces }) => (
    <p key={blend.slug} className="flex items-center gap-2 py-1 pl-[6.500rem] text-sm text-soft">
      {replaces.length} of these lines are {blend.name}.
      <button
        type="button"
        className="act min-h-8 text-sm text-ink"
        onClick={() => onChange(edits.replacePours(document, replaces, [line]))}
      >
        Pour it as one bottle
      </button>
    </p>
  ))
}

const MENU_ITEM =
  'flex min-h-9 cursor-pointer items-center px-3 outline-none data-[disabled]:opacity-40 data-[highlighted]:bg-shallow'

function PourMenu({
  document,
  book,
  well,
  asked,
  index,
  pour,
  pouredMl,
  name,
  onChange,
}: {
  document: DrinkDocument
  book: HouseBook
  well: Well
  asked: SpecSheetProps['asked']
  pouredMl: number
  index: number
  pour: PourLine
  name: string
  onChange: (d: DrinkDocument) => void
}) {
  const into = (where: PourLine['into'], words: string) => (
    <Menu.Item
      className={MENU_ITEM}
      disabled={pour.into === where}
      onSelect={() => onChange(edits.changePour(document, index, { into: where }))}
    >
      {words}
    </Menu.Item>
  )
  const [isSubstituting, setSubstituting] = useState(false)
  const navigate = useNavigate()
  const slug = pour.ingredient
  const ingredient = bySlug(book.ingredients, slug)
  const slot = bySlug(book.slots ?? [], pour.slot)
  const inSlot = slot && resolveSlot(slot, book, well.slug)
  const mayFill = slug ? (book.slots ?? []).filter((s) => s.candidates.some((c) => c.ingredient === slug)) : []
  const isStrong = slot !== undefined || (ingredient?.figures.abvPct.value ?? 0) > 0
  const expanded =
    ingredient?.kind === 'blend' && ingredient.recipe
      ? expandBlend(pour, ingredient.recipe, book.settings.kit, document.partMl)
      : undefined
  return (
    <>
      <Menu.Root>
        <Menu.Trigger
          className="flex h-7 w-6 items-center justify-center text-soft hover:bg-shallow max-sm:h-11 max-sm:w-11"
          aria-label={`More for ${name}`}
        >
          <svg width="4" height="16" viewBox="0 0 4 16" aria-hidden="true">
            <path d="M2 2v.01M2 8v.01M2 14v.01" stroke="currentColor" strokeWidth="3" strokeLinecap="round" />
          </svg>
        </Menu.Trigger>
        <Menu.Portal>
          <Menu.Content align="end" className="z-30 min-w-48 border border-ink bg-paper py-1">
            {into('tin', 'Chilled with the rest')}
            {into('glass', 'Into the glass')}
            {into('float', 'Floated on top')}
            {(inSlot || mayFill.length > 0 || expanded || (isStrong && asked)) && (
              <Menu.Separator className="my-1 border-t border-hair" />
            )}
            {inSlot && (
              <Menu.Item
                className={MENU_ITEM}
                onSelect={() => onChange(edits.pourInstead(document, index, { ingredient: inSlot.ingredient.slug }))}
              >
                Insist on {nameApart(inSlot.ingredient, book.ingredients)}
              </Menu.Item>
            )}
            {mayFill.map((s) => (
              <Menu.Item
                key={s.slug}
                className={MENU_ITEM}
                onSelect={() => onChange(edits.pourInstead(document, index, { slot: s.slug }))}
              >
                Whatever fills “{s.name}”
              </Menu.Item>
            ))}
            {expanded && (
              <Menu.Item
                className={MENU_ITEM}
                onSelect={() => onChange(edits.replacePours(document, [index], expanded))}
              >
                Its own bottles, one line each
              </Menu.Item>
            )}
            {isStrong && asked && (
              <Menu.Item className={MENU_ITEM} onSelect={() => navigate(standInHref(pour, index, asked))}>
                The nearest on the shelf …
              </Menu.Item>
            )}
            {slug && isSweet(bySlug(book.ingredients, slug)) && (
              <>
                <Menu.Separator className="my-1 border-t border-hair" />
                <Menu.Item className={MENU_ITEM} onSelect={() => setSubstituting(true)}>
                  Another one, as sweet …
                </Menu.Item>
              </>
            )}
            <Menu.Separator className="my-1 border-t border-hair" />
            <Menu.Item
              className={`${MENU_ITEM} text-stop`}
              disabled={document.pours.length === 1}
              onSelect={() => onChange(edits.removePour(document, index))}
            >
              Leave it out
            </Menu.Item>
          </Menu.Content>
        </Menu.Portal>
      </Menu.Root>
      {isSubstituting && slug && (
        <SubstituteDialog
          slug={slug}
          pouredMl={pouredMl}
          unit={pour.amount?.unit ?? 'ml'}
          book={book}
          onClose={() => setSubstituting(false)}
          onTake={(ingredient, amount) => {
            setSubstituting(false)
            onChange(edits.changePour(document, index, { ingredient, amount, volumeMl: undefined, figures: undefined }))
          }}
        />
      )}
    </>
  )
}
