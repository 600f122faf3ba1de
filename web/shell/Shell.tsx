import { ROLES } from '@conch/contract'
import { keysOf } from '@conch/core/schema/keysOf'
import { useQuery } from '@tanstack/react-query'
import { DropdownMenu as Menu } from 'radix-ui'
import { type ComponentType, lazy, Suspense, useEffect, useState } from 'react'
import { NavLink, Outlet, ScrollRestoration, useLocation, useNavigate } from 'react-router'
import { Toaster, toast } from 'sonner'
import { useAllCommands } from '../app/commands.tsx'
import { useHouse } from '../app/house.tsx'
import { useAloneSince } from '../app/line.ts'
import { editionsQuery } from '../app/queries.ts'
import { lockScreen, signOut } from '../app/signingIn.ts'
import { flagSchema, readStored, writeStored } from '../app/stored.ts'
import { IDLE_LOCK_MINUTES, useIdleLock } from '../app/useIdleLock.ts'
import { useWho } from '../app/who.ts'
import { useQuestion } from '../foresight/question.ts'
import { Seal } from '../graphics/Seal.tsx'
import { setTheme, THEMES, type Theme, useTheme } from '../theme/theme.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { ErrorBoundary } from '../ui/ErrorBoundary.tsx'
import { Loading } from '../ui/States.tsx'
import { useWidth, WIDTHS_PX } from '../ui/useWidth.ts'
import { ComputingFailure } from '../workers/Computing.tsx'
import { Alone } from './Alone.tsx'
import { FirstSteps, useIsWalked } from './FirstSteps.tsx'
import { Keys } from './Keys.tsx'
import { Marks } from './Marks.tsx'
import { PageLead } from './PageLead.tsx'
import { PlacesBar, PlacesLine } from './PlacesLine.tsx'
import { useShellCommands } from './useShellCommands.ts'

const TRAY_KEY = 'conch:tray'
const AskBeforeSaving = lazy(() =>
  import('../foresight/AskBeforeSaving.tsx').then((m) => ({ default: m.AskBeforeSaving })),
)
// Before anybody looks for something, and after the page is there.
const fetchPalette = () => import('./Palette.tsx').then((m) => ({ default: m.Palette }))
const Palette = lazy(fetchPalette)
window.addEventListener('load', () => setTimeout(() => void fetchPalette().catch(() => undefined), 300))
const DeviceTray = lazy(() => import('../devices/DeviceTray.tsx').then((m) => ({ default: m.DeviceTray })))

/** The slim top line, and the place below it. */
export function Shell({ Door }: { Door: ComponentType<{ isOpen: boolean; onClose: () => void }> }) {
  const { book } = useHouse()
  const [isPaletteOpen, setPaletteOpen] = useState(false)
  const [isHelpOpen, setHelpOpen] = useState(false)
  const [hasTray, setTray] = useState(() => readStored(TRAY_KEY, flagSchema) ?? false)
  const showTray = (on: boolean) => {
    writeStored(TRAY_KEY, on)
    setTray(on)
  }
  const { pathname } = useLocation()
  const isHeld = useWidth() < WIDTHS_PX.lg
  const isWalked = useIsWalked()
  const isAbove = isHeld || isWalked
  const newest = useQuery(editionsQuery).data?.[0]
  const who = useWho()

  useEffect(() => {
    document.title = `${book.settings.name} · Lazy Conch`
  }, [book.settings.name])

  useIdleLock(book.settings.idleLockMinutes ?? IDLE_LOCK_MINUTES)
  const [isSigningIn, setSigningIn] = useState(false)

  useShellCommands({
    onLock: lockScreen,
    onWho: () => setSigningIn(true),
    onFind: () => setPaletteOpen(true),
    onHelp: () => setHelpOpen(true),
    hasTray,
    showTray,
  })

  return (
    <div className="flex min-h-dvh flex-col">
      <header className="no-print flex items-center gap-x-4 border-b border-hair px-4 py-1.5 max-sm:gap-x-1">
        <NavLink
          to="/"
          className="font-display text-lg font-bold tracking-tight whitespace-nowrap max-sm:hidden lg:max-xl:hidden"
          aria-label="Lazy Conch, to the menu"
        >
          Lazy Conch
        </NavLink>
        <PlacesLine />
        <div className="ml-auto flex shrink-0 items-center gap-3 max-sm:gap-0">
          {newest && (
            <NavLink
              to={`/editions/${newest.number}`}
              className="hidden max-w-40 items-center gap-1.5 text-sm md:flex lg:hidden xl:flex"
            >
              <Seal title="the poured edition" /> <span className="truncate">{newest.name}</span>
            </NavLink>
          )}
          <WellSwitch />
          <button
            type="button"
            className="act act-quiet"
            onClick={() => setPaletteOpen(true)}
            aria-label="Find anything"
          >
            <span className="sm:hidden lg:inline">Find</span>
            <span className="max-sm:hidden lg:max-xl:hidden">
              <Keys keys="mod+k" />
            </span>
          </button>
          <WhoMenu onWho={() => setSigningIn(true)} onHelp={() => setHelpOpen(true)} />
        </div>
      </header>
      <Alone />
      <PageLead />
      <ComputingFailure />
      <main className="flex-1">
        <ErrorBoundary key={pathname}>
          <Suspense fallback={<Loading what="the page" />}>
            <Outlet />
            <ScrollRestoration />
          </Suspense>
        </ErrorBoundary>
      </main>
      {hasTray && (
        <Suspense fallback={null}>
          <DeviceTray onClose={() => showTray(false)} />
        </Suspense>
      )}
      <LockedBar onWho={() => setSigningIn(true)} />
      <PlacesBar />
      <Marks />
      <FirstSteps />
      {isPaletteOpen && (
        <Suspense fallback={null}>
          <Palette isOpen onClose={() => setPaletteOpen(false)} />
        </Suspense>
      )}
      {isSigningIn && (
        <Suspense fallback={null}>
          <Door isOpen onClose={() => setSigningIn(false)} />
        </Suspense>
      )}
      <Asked />
      <KeyHelp isOpen={isHelpOpen} onClose={() => setHelpOpen(false)} />
      <Toaster
        // Never over the thumb's bar, what opens from it, or what leads through the demo.
        position={isAbove ? 'top-center' : 'bottom-left'}
        offset={isAbove ? { top: 64 } : { bottom: who.isLocked || who.isUnconfirmed ? 84 : 24 }}
        mobileOffset={{ top: 64 }}
        toastOptions={{
          style: {
            background: 'var(--ink)',
            color: 'var(--paper)',
            border: 'none',
            borderRadius: 2,
            fontFamily: 'var(--font-text)',
          },
        }}
      />
    </div>
  )
}

/** What is asked before something is saved: it comes when it is asked. */
function Asked() {
  const question = useQuestion()
  return (
    question && (
      <Suspense fallback={null}>
        <AskBeforeSaving />
      </Suspense>
    )
  )
}

/** At which well one stands: every number on every page is for that one. */
function WellSwitch() {
  const { book, well, setWell } = useHouse()
  return (
    <fieldset className="flex border border-hair" aria-label="The well you stand at">
      {book.wells.map((w) => (
        <button
          key={w.slug}
          type="button"
          aria-pressed={w.slug === well.slug}
          onClick={() => setWell(w.slug)}
          className={`min-h-8 px-2.5 text-sm max-sm:min-h-11 ${w.slug === well.slug ? 'bg-ink text-paper' : 'hover:bg-shallow'}`}
        >
          {w.name}
        </button>
      ))}
    </fieldset>
  )
}

const ITEM = 'flex min-h-9 cursor-pointer items-center gap-2 px-3 outline-none data-[highlighted]:bg-shallow'

/** Nobody taps any more, and nothing that the bar reads went away. */
function LockedBar({ onWho }: { onWho: () => void }) {
  const who = useWho()
  const isAway = useAloneSince() !== undefined
  if (!who.isLocked && !who.isUnconfirmed) return null
  return (
    <section
      aria-label={who.isLocked ? 'The screen is locked' : 'Nobody could look who it is'}
      className="no-print sticky bottom-0 z-20 flex flex-wrap items-center gap-3 border-t border-ink bg-buff px-4 py-2 max-lg:bottom-11"
    >
      <span className="min-w-0 flex-1 basis-60">
        {who.isLocked
          ? 'Locked. Read on; whoever changes something says who they are.'
          : isAway
            ? `${who.name}, unconfirmed: no PIN can be looked at while the house is away. What you tap waits here for it.`
            : `${who.name}, the house is back. Say your PIN, and what you tapped is sent under your name.`}
      </span>
      {!(who.isUnconfirmed && isAway) && (
        <button type="button" className="act act-main min-h-11" onClick={onWho}>
          {who.isUnconfirmed ? 'Say it' : 'Who is it?'}
        </button>
      )}
    </section>
  )
}

function WhoMenu({ onHelp, onWho }: { onHelp: () => void; onWho: () => void }) {
  const who = useWho()
  const navigate = useNavigate()
  const theme = useTheme()
  return (
    <Menu.Root>
      <Menu.Trigger className="act act-quiet">
        {who.name}
        {who.isUnconfirmed && '?'}
      </Menu.Trigger>
      <Menu.Portal>
        <Menu.Content align="end" sideOffset={4} className="z-30 min-w-52 border border-ink bg-paper py-1">
          <Menu.Label className="caption px-3">
            {who.name}, {ROLES[who.role]}
            {who.isLocked ? ', locked' : who.isUnconfirmed ? ', unconfirmed' : ''}
          </Menu.Label>
          <Menu.Item className={ITEM} onSelect={onWho}>
            <span className="w-3" /> Somebody else works here now
          </Menu.Item>
          <Menu.Item className={ITEM} onSelect={() => navigate('/house/you')}>
            <span className="w-3" /> Your PIN, and what you did
          </Menu.Item>
          {!who.isLocked && (
            <Menu.Item className={ITEM} onSelect={lockScreen}>
              <span className="w-3" /> Lock the screen
            </Menu.Item>
          )}
          <Menu.Item className={ITEM} onSelect={() => void signOut().catch((e: Error) => toast.error(e.message))}>
            <span className="w-3" /> Sign out
          </Menu.Item>
          <Menu.Separator className="my-1 border-t border-hair" />
          <Menu.Label className="caption px-3">Light</Menu.Label>
          <Menu.RadioGroup value={theme} onValueChange={(t) => setTheme(t as Theme)}>
            {keysOf(THEMES).map((t) => (
              <Menu.RadioItem key={t} value={t} className={ITEM}>
                <span className="w-3">{theme === t ? '•' : ''}</span> {THEMES[t]}
              </Menu.RadioItem>
            ))}
          </Menu.RadioGroup>
          <Menu.Separator className="my-1 border-t border-hair" />
          <Menu.Item className={ITEM} onSelect={onHelp}>
            <span className="w-3" /> Keys
          </Menu.Item>
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  )
}

function KeyHelp({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const commands = useAllCommands().filter((c) => c.keys)
  return (
    <Dialog
      isOpen={isOpen}
      onClose={onClose}
      title="Keys"
      lead="In a number: arrow up and down step by what a jigger pours, Enter leaves it."
    >
      <dl className="grid grid-cols-[1fr_auto] gap-y-1.5">
        {commands.map((c) => (
          <div key={c.id} className="contents">
            <dt>{c.label}</dt>
            <dd>
              <Keys keys={c.keys ?? ''} />
            </dd>
          </div>
        ))}
      </dl>
    </Dialog>
  )
}
