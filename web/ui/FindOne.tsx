import { hasAllWords } from '@conch/core/text'
import { Command as Cmdk } from 'cmdk'
import { Popover } from 'radix-ui'
import { type ReactNode, useEffect, useState } from 'react'

export interface Found {
  id: string
  name: string
  /** More words by which it is found. */
  words?: string
  /** Beside the name, small. */
  note?: string
  /** A kind of thing instead of one thing. */
  isItalic?: boolean
}

interface FindOneProps {
  groups: readonly { heading: string; things: readonly Found[] }[]
  /** What the field is for, and what it says while it is empty. */
  label: string
  placeholder: string
  /** When nothing has these letters. */
  nothing: string
  align?: 'start' | 'end'
  onPick: (id: string) => void
  /** Where others look for what has these letters: it is told of them, and the groups are what was found. */
  onWords?: (words: string) => void
  /** They have not found yet what these letters lead to: nothing of before can be picked, and Enter waits for it. */
  isLooking?: boolean
  /** Told when it opens and when it closes. */
  onOpen?: (isOpen: boolean) => void
  /** Said under what was found: that there is more. */
  more?: string | undefined
  /** What opens it. */
  children: ReactNode
}

/** Chooses one of many by a few letters, under headings. */
export function FindOne({
  groups,
  label,
  placeholder,
  nothing,
  align = 'start',
  onPick,
  onWords,
  isLooking = false,
  onOpen,
  more,
  children,
}: FindOneProps) {
  const [isOpen, setOpen] = useState(false)
  const [isWaiting, setWaiting] = useState(false)
  const shown = isLooking ? [] : groups
  const pick = (id: string) => {
    setWaiting(false)
    setOpen(false)
    onOpen?.(false)
    onPick(id)
  }
  useEffect(() => {
    if (!isWaiting || isLooking) return
    setWaiting(false)
    const first = groups.find((g) => g.things.length > 0)?.things[0]
    if (first) pick(first.id)
  })
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(open) => {
        setOpen(open)
        onOpen?.(open)
      }}
    >
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align={align} sideOffset={2} className="z-50 w-80 border border-ink bg-paper">
          <Cmdk loop filter={hasAllWords} shouldFilter={onWords === undefined}>
            <Cmdk.Input
              autoFocus
              placeholder={placeholder}
              aria-label={label}
              {...(onWords
                ? {
                    onValueChange: (words: string) => {
                      setWaiting(false)
                      onWords(words)
                    },
                  }
                : {})}
              onKeyDown={(e) => {
                if (e.key === 'Enter' && isLooking) setWaiting(true)
              }}
              className="w-full border-b border-hair bg-transparent px-3 py-2 outline-none"
            />
            <Cmdk.List className="max-h-72 overflow-y-auto p-1">
              <Cmdk.Empty className="p-3 text-soft">{isLooking ? 'Looking …' : nothing}</Cmdk.Empty>
              {shown.map(({ heading, things }) =>
                things.length === 0 ? null : (
                  <Cmdk.Group
                    key={heading}
                    heading={heading}
                    className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
                  >
                    {things.map((t) => (
                      <Cmdk.Item
                        key={t.id}
                        value={`${t.name} ${t.words ?? ''} ${heading} ${t.id}`}
                        onSelect={() => pick(t.id)}
                        className="flex min-h-8 cursor-pointer items-baseline justify-between gap-2 px-2 data-[selected=true]:bg-shallow"
                      >
                        <span className={t.isItalic ? 'italic' : ''}>{t.name}</span>
                        {t.note && <span className="caption">{t.note}</span>}
                      </Cmdk.Item>
                    ))}
                  </Cmdk.Group>
                ),
              )}
              {more && !isLooking && <p className="caption px-2 py-1">{more}</p>}
            </Cmdk.List>
          </Cmdk>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
