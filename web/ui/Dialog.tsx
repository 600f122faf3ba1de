import { Dialog as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

interface DialogProps {
  isOpen: boolean
  onClose: () => void
  title: string
  /** What it is about, in a sentence. */
  lead?: ReactNode
  children: ReactNode
  width?: number
}

/** A sheet laid over the page. Escape and a click beside it close it. */
export function Dialog({ isOpen, onClose, title, lead, children, width = 560 }: DialogProps) {
  return (
    <Radix.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content
          aria-describedby={undefined}
          style={{ width }}
          className="fixed top-[8vh] left-1/2 z-50 max-h-[84vh] max-w-[calc(100vw-1.500rem)] -translate-x-1/2 overflow-y-auto border border-ink bg-paper p-5"
        >
          <Radix.Title className="font-display text-xl font-semibold">{title}</Radix.Title>
          {lead && <div className="mt-1 text-soft">{lead}</div>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
