import type { Person } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { DropdownMenu as Menu } from 'radix-ui'
import { lazy, Suspense, useEffect, useState } from 'react'
import { NavLink, Outlet, ScrollRestoration, useLocation, useNavigate } from 'react-router'
import { Toaster } from 'sonner'
import { Seal } from '../graphics/Seal.tsx'
import { setTheme, THEMES, type Theme, useTheme } from '../theme/theme.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { ErrorBoundary } from '../ui/ErrorBoundary.tsx'
import { Loading } from '../ui/States.tsx'
import { ComputingFailure } from '../workers/Computing.tsx'
import { type Command, useAllCommands, useCommands } from './commands.tsx'
import { useHouse } from './house.tsx'
import { Keys, Palette } from './Palette.tsx'
import { editionsQuery, peopleQuery } from './queries.ts'
import { flagSchema, readStored, writeStored } from './stored.ts'
import { useWho } from './who.ts'

const PLACES = [
  { to: '/', label: 'Menu', keys: 'g m' },
  { to: '/drinks', label: 'Drinks', keys: 'g d' },
  { to: '/next', label: 'Next edition', keys: 'g n' },
  { to: '/editions', label: 'Editions', keys: 'g e' },
  { to: '/base', label: 'Base', keys: 'g s' },
  { to: '/mixes', label: 'Mixes', keys: 'g x' },
  { to: '/ice', label: 'Ice', keys: 'g i' },
  { to: '/lots', label: 'Lots', keys: 'g l' },
  { to: '/back-bar', label: 'Back bar', keys: 'g b' },
  { to: '/house', label: 'House', keys: 'g h' },
]

const TRAY_KEY = 'conch:tray'
const DeviceTray = lazy(() => import('../devices/DeviceTray.tsx').then((m) => ({ default: m.DeviceTray })))

/** The slim top line, and the place below it. */
export function Shell({ onWho }: { onWho: (person: Person) => void }) {
  const { book, well, setWell } = useHouse()
  const [isPaletteOpen, setPaletteOpen] = useState(false)
  const [isHelpOpen, setHelpOpen] = useState(false)
  const [hasTray, setTray] = useState(() => readStored(TRAY_KEY, flagSchema) ?? false)
  const showTray = (on: boolean) => {
    writeStored(TRAY_KEY, on)
    setTray(on)
  }
  const navigate = useNavigate()
  const theme = useTheme()
  const { pathname } = useLocation()
  const newest = useQuery(editionsQuery).data?.[0]

  useEffect(() => {
    document.title = `${book.settings.name} · Lazy Conch`
  }, [book.settings.name])

  useCommands(() => {
    const wells = book.wells
    const nextWell = wells[(wells.findIndex((w) => w.slug === well.slug) + 1) % wells.length]
    const commands: Command[] = [
      { id: 'palette', label: 'Find anything', group: 'do', keys: 'mod+k', perform: () => setPaletteOpen(true) },
      { id: 'find', label: 'Find anything', group: 'do', keys: '/', perform: () => setPaletteOpen(true) },
      {
        id: 'devices',
        label: hasTray ? 'Put the devices away' : 'Devices: scale, refractometer, printer',
        group: 'do',
        keys: 'd',
        perform: () => showTray(!hasTray),
      },
      { id: 'help', label: 'List the keys', group: 'do', keys: '?', perform: () => setHelpOpen(true) },
      {
        id: 'theme',
        label: theme === 'chart' ? 'Lantern theme (night)' : 'Chart theme (day)',
        group: 'do',
        keys: 't',
        perform: () => setTheme(theme === 'chart' ? 'lantern' : 'chart'),
      },
      {
        id: 'trial',
        label: 'Weigh a trial',
        group: 'go',
        words: 'ice seconds calibrate',
        perform: () => navigate('/ice/trial'),
      },
      {
        id: 'glasses',
        label: 'Drinks in glasses',
        group: 'go',
        words: 'overflow wash line fit',
        perform: () => navigate('/ice/glasses'),
      },
      {
        id: 'compare',
        label: 'Compare drinks, versions and blends',
        group: 'go',
        keys: 'g c',
        perform: () => navigate('/compare'),
      },
      { id: 'flight', label: 'Taste a flight', group: 'do', perform: () => navigate('/flight') },
      ...PLACES.map(
        (p): Command => ({
          id: `go-${p.to}`,
          label: p.label,
          group: 'go',
          keys: p.keys,
          perform: () => navigate(p.to),
        }),
      ),
    ]
    if (nextWell && nextWell.slug !== well.slug) {
      commands.push({
        id: 'well',
        label: `Stand at the ${nextWell.name}`,
        group: 'do',
        keys: 'w',
        perform: () => setWell(nextWell.slug),
      })
    }
    return commands
  }, [theme, well.slug, book.wells, navigate, setWell, hasTray])

  return (
    <div className="flex min-h-dvh flex-col">
      <header className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-4 py-1.5 max-sm:gap-x-1">
        <NavLink
          to="/"
          className="font-display text-lg font-bold tracking-tight max-sm:hidden"
          aria-label="Lazy Conch, to the menu"
        >
          Lazy Conch
        </NavLink>
        <nav aria-label="Places" className="order-last -mx-1 flex w-full gap-1 overflow-x-auto sm:order-none sm:w-auto">
          {PLACES.map((p) => (
            <NavLink
              key={p.to}
              to={p.to}
              end={p.to === '/'}
              className={({ isActive }) =>
                `flex min-h-9 items-center px-1.5 whitespace-nowrap max-sm:min-h-11 ${isActive ? 'border-b-2 border-ink font-semibold' : 'border-b-2 border-transparent text-soft hover:text-ink'}`
              }
            >
              {p.label}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-3 max-sm:gap-0">
          {newest && (
            <NavLink
              to={`/editions/${newest.number}`}
              className="hidden items-center gap-1.5 text-sm md:flex"
              title={`Poured: ${newest.name}`}
            >
              <Seal title="the poured edition" /> {newest.name}
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
            <span className="max-sm:hidden">
              <Keys keys="mod+k" />
            </span>
          </button>
          <WhoMenu onWho={onWho} onHelp={() => setHelpOpen(true)} />
        </div>
      </header>
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
      <Palette isOpen={isPaletteOpen} onClose={() => setPaletteOpen(false)} />
      <KeyHelp isOpen={isHelpOpen} onClose={() => setHelpOpen(false)} />
      <Toaster
        position="bottom-left"
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

function WhoMenu({ onHelp, onWho }: { onHelp: () => void; onWho: (person: Person) => void }) {
  const who = useWho()
  const people = (useQuery(peopleQuery).data ?? []).filter((p) => p.isActive)
  const theme = useTheme()
  return (
    <Menu.Root>
      <Menu.Trigger className="act act-quiet">{who.name}</Menu.Trigger>
      <Menu.Portal>
        <Menu.Content align="end" sideOffset={4} className="z-30 min-w-52 border border-ink bg-paper py-1">
          <Menu.Label className="caption px-3">Working here</Menu.Label>
          <Menu.RadioGroup
            value={String(who.id)}
            onValueChange={(id) => {
              const person = people.find((p) => String(p.id) === id)
              if (person) onWho(person)
            }}
          >
            {people.map((p) => (
              <Menu.RadioItem key={p.id} value={String(p.id)} className={ITEM}>
                <span className="w-3">{who.id === p.id ? '•' : ''}</span> {p.name}
              </Menu.RadioItem>
            ))}
          </Menu.RadioGroup>
          <Menu.Separator className="my-1 border-t border-hair" />
          <Menu.Label className="caption px-3">Light</Menu.Label>
          <Menu.RadioGroup value={theme} onValueChange={(t) => setTheme(t as Theme)}>
            {(Object.keys(THEMES) as Theme[]).map((t) => (
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
