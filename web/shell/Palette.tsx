import { bySlug, type Ingredient, nameApart } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { hasAllWords } from '@conch/core/text'
import { useQuery } from '@tanstack/react-query'
import { Command as Cmdk } from 'cmdk'
import { Dialog as Radix } from 'radix-ui'
import { useEffect, useMemo, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { type Command, useAllCommands } from '../app/commands.tsx'
import { useHouse } from '../app/house.tsx'
import { lastOpened } from '../app/lastOpened.ts'
import { drinkPageQuery } from '../app/queries.ts'
import { useShelf } from '../app/shelf.ts'
import { placeOf } from '../shelf/placeOf.ts'
import { useSettled } from '../ui/useSettled.ts'
import { Keys } from './Keys.tsx'

const GROUPS: Record<Command['group'], string> = {
  last: 'Opened last',
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
const TYPING_MS = 80

/** What the palette offers for some letters, and whether the house is still looking for them. */
function useOffered(isOpen: boolean, words: string): { commands: Command[]; isLooking: boolean } {
  const navigate = useNavigate()
  const { house } = useHouse()
  const { pathname } = useLocation()
  const wanted = useSettled(words.trim(), TYPING_MS)
  const query = useQuery({ ...drinkPageQuery({ words: wanted, hidden: 'with', limit: MOST_DRINKS }), enabled: isOpen })
  const found = useShelf(
    useMemo(() => (isOpen && wanted !== '' ? { words: wanted, limit: MOST_THINGS } : undefined), [isOpen, wanted]),
  )
  // Until the house has looked for these letters, what was found for those before is not offered.
  const isLooking = wanted !== words.trim() || query.isPlaceholderData || (wanted !== '' && !found.isReady)
  const drinks = isLooking ? [] : (query.data?.rows ?? [])
  const shelf = isLooking ? [] : found.picked.flatMap((slug) => bySlug(house.ingredients, slug) ?? [])
  // Before anybody types: what was open a moment ago.
  const last = isOpen && words === '' ? lastOpened().filter((o) => o.address !== pathname) : []
  const leads = (group: Command['group'], key: string, label: string, address: string, words?: string): Command => ({
    id: `${group}-${key}`,
    label,
    group,
    ...(words === undefined ? {} : { words }),
    perform: () => navigate(address),
  })
  const commands = [
    ...last.map((o) => leads('last', o.address, o.name, o.address)),
    ...useAllCommands(),
    // Found by the house, a slip of the finger allowed: they have the letters that were typed.
    ...drinks.map((d) => leads('drink', d.slug, d.name, `/drinks/${d.slug}`, words)),
    ...shelf.map((i) => leads(groupOf(i), i.slug, nameApart(i, house.ingredients), placeOf(i), words)),
    ...house.slots.map((s) => leads('slot', s.slug, s.name, `/slots/${s.slug}`, `slot ${s.note ?? ''}`)),
  ]
  return { commands, isLooking }
}

const groupOf = (i: Ingredient): Command['group'] =>
  i.kind === 'blend' ? 'blend' : i.recipe || i.closed ? 'mix' : 'bottle'

/** What letters are looked for in. */
const wordsOf = (c: Command) => `${c.label} ${c.words ?? ''} ${c.id}`

/** Finds any drink, bottle, place or action by a few letters. */
export function Palette({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const [words, setWords] = useState('')
  const [isWaiting, setWaiting] = useState(false)
  const { commands, isLooking } = useOffered(isOpen, words)
  const close = () => {
    setWords('')
    setWaiting(false)
    onClose()
  }
  // Enter may come before the house has looked: then it takes the first when it has.
  useEffect(() => {
    if (!isWaiting || isLooking) return
    setWaiting(false)
    const order = keysOf(GROUPS)
    const [first] = commands
      .filter((c) => hasAllWords(wordsOf(c), words))
      .sort((a, b) => order.indexOf(a.group) - order.indexOf(b.group))
    if (!first) return
    close()
    first.perform()
  })
  return (
    <Radix.Root
      open={isOpen}
      onOpenChange={(open) => {
        if (!open) close()
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
              onValueChange={(next) => {
                setWords(next)
                setWaiting(false)
              }}
              onKeyDown={(e) => {
                if (e.key !== 'Enter' || !isLooking) return
                e.preventDefault()
                e.stopPropagation()
                setWaiting(true)
              }}
              placeholder="A drink, a bottle, a place, an action …"
              className="w-full border-b border-hair bg-transparent px-4 py-3 text-lg outline-none"
            />
            <Cmdk.List className="max-h-[52vh] overflow-y-auto p-1">
              <Cmdk.Empty className="p-4 text-soft">
                Nothing is called that. Earlier names of bottles are searched, too.
              </Cmdk.Empty>
              {keysOf(GROUPS).map((group) => (
                <Group
                  key={group}
                  heading={GROUPS[group]}
                  commands={commands.filter((c) => c.group === group)}
                  onPick={(c) => {
                    close()
                    c.perform()
                  }}
                />
              ))}
            </Cmdk.List>
          </Cmdk>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}

interface GroupProps {
  heading: string
  commands: readonly Command[]
  onPick: (command: Command) => void
}

function Group({ heading, commands, onPick }: GroupProps) {
  if (commands.length === 0) return null
  return (
    <Cmdk.Group
      heading={heading}
      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
    >
      {commands.map((c) => (
        <Cmdk.Item
          key={c.id}
          value={wordsOf(c)}
          onSelect={() => onPick(c)}
          className="flex min-h-9 cursor-pointer items-center justify-between px-3 data-[selected=true]:bg-shallow"
        >
          <span>{c.label}</span>
          {c.keys && <Keys keys={c.keys} />}
        </Cmdk.Item>
      ))}
    </Cmdk.Group>
  )
}
