import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { Toaster } from 'sonner'
import { Failure, Loading } from '../../ui/States.tsx'
import { ComputingFailure } from '../../workers/Computing.tsx'
import type { useRailMenu } from './useRailMenu.ts'

/** The whole screen for what a hand does: until the menu is there, that; then what stands on it. */
export function InHand({
  menu,
  isFree = false,
  children,
}: {
  menu: ReturnType<typeof useRailMenu>
  /** It does not need the menu. */
  isFree?: boolean
  children: () => ReactNode
}) {
  const isLost = menu.error && menu.drinks.length === 0
  return (
    <div className="fixed inset-0 flex flex-col overflow-hidden bg-paper text-ink select-none">
      <ComputingFailure />
      {isFree || (menu.isReady && !isLost) ? (
        children()
      ) : isLost ? (
        <main>
          <Failure error={menu.error} onRetry={() => void menu.refetch()} />
          <Link to="/" className="rail-quiet m-6 underline">
            To the menu
          </Link>
        </main>
      ) : (
        <Loading what="what is poured here" />
      )}
      <Toaster
        position="top-center"
        toastOptions={{
          style: { background: 'var(--ink)', color: 'var(--paper)', border: 'none', borderRadius: 2, fontSize: 18 },
        }}
      />
    </div>
  )
}
