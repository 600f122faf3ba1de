import { ROLES, type Role } from '@conch/contract'
import type { ReactNode } from 'react'

/** Names to be tapped with wet hands. */
export function NameList<P extends { name: string; role: Role }>({
  people,
  onPick,
  beside,
}: {
  people: readonly P[]
  onPick: (person: P) => void
  beside?: (person: P) => ReactNode
}) {
  return (
    <ul className="border-t border-hair">
      {people.map((p) => (
        <li key={p.name} className="border-b border-hair">
          <button
            type="button"
            className="flex min-h-14 w-full flex-wrap items-baseline gap-x-3 px-2 py-3 text-left hover:bg-shoal"
            onClick={() => onPick(p)}
          >
            <span className="min-w-0 flex-1 font-display text-xl break-words">{p.name}</span>
            <span className="text-soft">{ROLES[p.role]}</span>
            {beside?.(p)}
          </button>
        </li>
      ))}
    </ul>
  )
}
