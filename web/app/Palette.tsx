import { bySlug, nameApart } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { Command as Cmdk } from 'cmdk'
import { Dialog as Radix } from 'radix-ui'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { placeOf } from '../shelf/placeOf.ts'
import { hasAllWords } from '../ui/hasAllWords.ts'
import { type Command, useAllCommands } from './commands.tsx'
import { useHouse } from './house.tsx'
import { drinkPageQuery } from './queries.ts'
import { useShelf } from './shelf.ts'

const GROUPS: Record<Command['group'], string> = {
  do: 'Do',
  go: 'Go to',
  drink: 'Drinks',
  blend: 'Blends',
  slot: 'Slots',
  mix: 'House mixes',
  bottle: 'Back bar',
}

/** Drinks that are listed at once: more letters lead further. */
const MOST_DRINKS = 12
const MOST_THINGS = 12

/** Finds any drink, bottle, place or action by a few letters. */
export function Palette({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const navigate = useNavigate()
  const { house } = useHouse()
  const [words, setWords] = useState('')
  const drinks =
    useQuery({ ...drinkPageQuery({ words, hidden: 'with', limit: MOST_DRINKS }), enabled: isOpen }).data?.rows ?? []
  const wanted = words.trim()
  const found = useShelf(
    useMemo(() => (isOpen && wanted !== '' ? { words: wanted, limit: MOST_THINGS } : undefined), [isOpen, wanted]),
  )
  const shelf = found.picked.flatMap((slug) => bySlug(house.ingredients, slug) ?? [])
  const commands: Command[] = [
    ...useAllCommands(),
    ...drinks.map(
      (d): Command => ({
        id: `drink-${d.slug}`,
        label: d.name,
        group: 'drink',
        // Found by the house, a slip of the finger allowed.
        words,
        perform: () => navigate(`/drinks/${d.slug}`),
      }),
    ),
    ...shelf.map(
      (i): Command => ({
        id: `bottle-${i.slug}`,
        label: nameApart(i, house.ingredients),
        group: i.kind === 'blend' ? 'blend' : i.recipe || i.closed ? 'mix' : 'bottle',
        // Found by the house, too.
        words,
        perform: () => navigate(placeOf(i)),
      }),
    ),
  ]
  commands.push(
    ...house.slots.map(
      (s): Command => ({
        id: `slot-${s.slug}`,
        label: s.name,
        group: 'slot',
        words: `slot ${s.note ?? ''}`,
        perform: () => navigate(`/slots/${s.slug}`),
      }),
    ),
  )
  return (
    <Radix.Root
      open={isOpen}
      onOpenChange={(open) => {
        if (open) return
        setWords('')
        onClose()
      }}
    >
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[560px] max-w-[calc(100vw-1.500rem)] -translate-x-1/2 border border-ink bg-paper"
        >
          <Radix.Title className="sr-only">Find a drink, a bottle, a place or an action</Radix.Title>
          <Cmdk loop filter={hasAllWords}>
            <Cmdk.Input
              autoFocus
              value={words}
              onValueChange={setWords}
              placeholder="A drink, a bottle, a place, an action …"
              className="w-full border-b border-hair bg-transparent px-4 py-3 text-lg outline-none"
            />
            <Cmdk.List className="max-h-[52vh] overflow-y-auto p-1">
              <Cmdk.Empty className="p-4 text-soft">
                Nothing is called that. Earlier names of bottles are searched, too.
              </Cmdk.Empty>
              {(Object.keys(GROUPS) as Command['group'][]).map((group) => {
                const inGroup = commands.filter((c) => c.group === group)
                if (inGroup.length === 0) return null
                return (
                  <Cmdk.Group
                    key={group}
                    heading={GROUPS[group]}
                    className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
                  >
                    {inGroup.map((c) => (
                      <Cmdk.Item
                        key={c.id}
                        value={`${c.label} ${c.words ?? ''} ${c.id}`}
                        onSelect={() => {
                          setWords('')
                          onClose()
                          c.perform()
                        }}
                        className="flex min-h-9 cursor-pointer items-center justify-between px-3 data-[selected=true]:bg-shallow"
                      >
                        <span>{c.label}</span>
                        {c.keys && <Keys keys={c.keys} />}
                      </Cmdk.Item>
                    ))}
                  </Cmdk.Group>
                )
              })}
            </Cmdk.List>
          </Cmdk>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}

const KEY_WORDS: Record<string, string> = { mod: 'Ctrl', shift: 'Shift' }

/** Keys as one reads them: "mod+k" → Ctrl K, "g m" → g then m. */
export function Keys({ keys }: { keys: string }) {
  return (
    <span className="flex gap-1 text-sm text-soft">
      {keys.split(/[ +]/).map((key) => (
        <kbd key={key} className="border border-hair px-1.5 font-text">
          {KEY_WORDS[key] ?? key}
        </kbd>
      ))}
    </span>
  )
}
