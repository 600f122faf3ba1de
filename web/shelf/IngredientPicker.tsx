import { INGREDIENT_KINDS, type Ingredient, type IngredientKind, isWeighed } from '@conch/core/house'
import type { Slot } from '@conch/core/style'
import { Command as Cmdk } from 'cmdk'
import { Popover } from 'radix-ui'
import { type ReactNode, useState } from 'react'
import { hasAllWords } from '../ui/hasAllWords.ts'

const GROUP = '[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft'

/** Chooses something of the house by a few letters of any name it ever had. */
export function IngredientPicker({
  ingredients,
  slots = [],
  canWeigh = false,
  onPick,
  onPickSlot,
  children,
}: {
  ingredients: Ingredient[]
  /** Where a line may name a slot: what it must be, instead of which bottle. */
  slots?: readonly Slot[]
  onPickSlot?: (slug: string) => void
  /** A recipe may take what is weighed; a drink only what is poured. */
  canWeigh?: boolean
  onPick: (slug: string) => void
  children: ReactNode
}) {
  const [isOpen, setOpen] = useState(false)
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={2} className="z-30 w-80 border border-ink bg-paper">
          <Cmdk loop filter={hasAllWords}>
            <Cmdk.Input
              autoFocus
              placeholder="rum, lime, syrup …"
              aria-label="Find an ingredient"
              className="w-full border-b border-hair bg-transparent px-3 py-2 outline-none"
            />
            <Cmdk.List className="max-h-72 overflow-y-auto p-1">
              <Cmdk.Empty className="p-3 text-soft">Nothing of that name. Put it on the back bar first.</Cmdk.Empty>
              {onPickSlot && slots.length > 0 && (
                <Cmdk.Group heading="slots" className={GROUP}>
                  {slots.map((s) => (
                    <Cmdk.Item
                      key={s.slug}
                      value={`${s.name} slot ${s.slug}`}
                      onSelect={() => {
                        setOpen(false)
                        onPickSlot(s.slug)
                      }}
                      className="flex min-h-8 cursor-pointer items-baseline justify-between gap-2 px-2 data-[selected=true]:bg-shallow"
                    >
                      <span className="italic">{s.name}</span>
                      <span className="caption">
                        {s.abvPct.low} to {s.abvPct.high} %
                      </span>
                    </Cmdk.Item>
                  ))}
                </Cmdk.Group>
              )}
              {(Object.keys(INGREDIENT_KINDS) as IngredientKind[]).map((kind) => {
                const ofKind = ingredients.filter((i) => i.kind === kind && (canWeigh || !isWeighed(i.kind)))
                if (ofKind.length === 0) return null
                return (
                  <Cmdk.Group key={kind} heading={INGREDIENT_KINDS[kind]} className={GROUP}>
                    {ofKind.map((i) => (
                      <Cmdk.Item
                        key={i.slug}
                        value={`${i.name} ${i.formerNames.join(' ')} ${i.note ?? ''} ${INGREDIENT_KINDS[i.kind]} ${i.slug}`}
                        onSelect={() => {
                          setOpen(false)
                          onPick(i.slug)
                        }}
                        className="flex min-h-8 cursor-pointer items-baseline justify-between gap-2 px-2 data-[selected=true]:bg-shallow"
                      >
                        <span>{i.name}</span>
                        <span className="caption">
                          {i.figures.abvPct.value > 0 ? `${Number(i.figures.abvPct.value.toFixed(1))} %` : ''}
                        </span>
                      </Cmdk.Item>
                    ))}
                  </Cmdk.Group>
                )
              })}
            </Cmdk.List>
          </Cmdk>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
