import { Command as Cmdk } from 'cmdk'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { hasAllWords } from '../../ui/hasAllWords.ts'

export interface Offered {
  id: string
  name: string
  group: string
}

/** Chooses one more thing to compare by a few letters. */
export function ComparePicker({ offered, onPick }: { offered: readonly Offered[]; onPick: (id: string) => void }) {
  const [isOpen, setOpen] = useState(false)
  const groups = [...new Set(offered.map((o) => o.group))]
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="act">Put in …</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={2} className="z-30 w-80 border border-ink bg-paper">
          <Cmdk loop filter={hasAllWords}>
            <Cmdk.Input
              autoFocus
              placeholder="a drink, a version, a blend, a bottle"
              aria-label="Find something to compare"
              className="w-full border-b border-hair bg-transparent px-3 py-2 outline-none"
            />
            <Cmdk.List className="max-h-72 overflow-y-auto p-1">
              <Cmdk.Empty className="p-3 text-soft">Nothing of that name.</Cmdk.Empty>
              {groups.map((group) => (
                <Cmdk.Group
                  key={group}
                  heading={group}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
                >
                  {offered
                    .filter((o) => o.group === group)
                    .map((o) => (
                      <Cmdk.Item
                        key={o.id}
                        value={`${o.name} ${group} ${o.id}`}
                        onSelect={() => {
                          setOpen(false)
                          onPick(o.id)
                        }}
                        className="flex min-h-8 cursor-pointer items-center px-2 data-[selected=true]:bg-shallow"
                      >
                        {o.name}
                      </Cmdk.Item>
                    ))}
                </Cmdk.Group>
              ))}
            </Cmdk.List>
          </Cmdk>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
