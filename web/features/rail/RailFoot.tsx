import { lazy, type ReactNode, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useAloneSince } from '../../app/line.ts'
import { useWho } from '../../app/who.ts'
import { SignInDialog } from '../people/index.ts'
import { railTray } from './railTray.ts'
import { isQuiet, setQuiet } from './signal.ts'
import type { Light } from './useInHand.ts'

const DeviceTray = lazy(() => import('../../devices/DeviceTray.tsx').then((m) => ({ default: m.DeviceTray })))

/** Who is here, whether the house is heard, and what is seldom wanted: one line at the foot, out of the way. */
export function RailFoot({ light, children }: { light?: Light; children?: ReactNode }) {
  const { well } = useHouse()
  const who = useWho()
  const since = useAloneSince()
  const quiet = isQuiet.use()
  const hasTray = railTray.use()
  const [isSigningIn, setSigningIn] = useState(false)
  const isUnknown = who.isLocked || who.isUnconfirmed
  return (
    <>
      {hasTray && (
        <Suspense fallback={null}>
          <DeviceTray onClose={() => railTray.set(false)} />
        </Suspense>
      )}
      <footer className="flex min-h-14 shrink-0 flex-wrap items-center gap-x-2 border-t border-hair px-3 text-base whitespace-nowrap">
        <Link to="/" className="rail-quiet">
          ‹ Menu
        </Link>
        <span
          className="min-w-0 flex-1 truncate text-center text-soft max-sm:order-first max-sm:basis-full max-sm:pt-1"
          role="status"
          data-line={since ? 'alone' : 'live'}
        >
          {well.name} · {who.name}
          {who.isLocked ? ', locked' : who.isUnconfirmed ? ', unconfirmed' : ''}
          {since && ` · on its own since ${since.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`}
        </span>
        {isUnknown && !(who.isUnconfirmed && since) && (
          <button type="button" className="rail-quiet" onClick={() => setSigningIn(true)}>
            Who is it?
          </button>
        )}
        <button
          type="button"
          className={`rail-quiet ${quiet ? 'line-through' : ''}`}
          aria-pressed={!quiet}
          onClick={() => setQuiet(!quiet)}
        >
          Sound
        </button>
        {children}
        {light && (
          <button
            type="button"
            className="rail-quiet"
            aria-pressed={light.isLight}
            onClick={() => light.onLight(!light.isLight)}
          >
            {light.isLight ? 'Dark' : 'Light'}
          </button>
        )}
        <button
          type="button"
          className="rail-quiet max-lg:hidden"
          aria-pressed={hasTray}
          onClick={() => railTray.set(!hasTray)}
        >
          Devices
        </button>
        {isSigningIn && <SignInDialog isOpen onClose={() => setSigningIn(false)} />}
      </footer>
    </>
  )
}
