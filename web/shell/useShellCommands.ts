import { keysOf } from '@conch/core/schema/keysOf'
import { useLocation, useNavigate } from 'react-router'
import { type Command, useCommands } from '../app/commands.tsx'
import { useHouse } from '../app/house.tsx'
import { lastOpened } from '../app/lastOpened.ts'
import { setTheme, useTheme } from '../theme/theme.ts'
import { placeAt, placesOf, ROOMS } from './places.ts'
import { forgetTold } from './told.ts'

const PLACES = keysOf(ROOMS).flatMap(placesOf)

interface ShellActs {
  onFind: () => void
  onHelp: () => void
  onLock: () => void
  onWho: () => void
  hasTray: boolean
  showTray: (on: boolean) => void
}

/** What can be done on every page: go places, find, change the well and the light. */
export function useShellCommands({ onFind, onHelp, onLock, onWho, hasTray, showTray }: ShellActs): void {
  const { book, well, setWell } = useHouse()
  const navigate = useNavigate()
  const theme = useTheme()
  const { pathname } = useLocation()
  const step = (by: 1 | -1) => {
    const place = placeAt(pathname)
    if (!place) return
    const places = placesOf(place.room)
    const at = places.findIndex((p) => p.path === place.path)
    const next = places[(at + by + places.length) % places.length]
    if (next) navigate(next.path)
  }
  useCommands(() => {
    const before = lastOpened().find((o) => o.address !== pathname)
    const wells = book.wells
    const nextWell = wells[(wells.findIndex((w) => w.slug === well.slug) + 1) % wells.length]
    const commands: Command[] = [
      { id: 'palette', label: 'Find anything', group: 'do', keys: 'mod+k', perform: onFind },
      { id: 'find', label: 'Find anything', group: 'do', keys: '/', perform: onFind },
      {
        id: 'devices',
        label: hasTray ? 'Put the devices away' : 'Devices: scale, refractometer, printer',
        group: 'do',
        keys: 'd',
        perform: () => showTray(!hasTray),
      },
      { id: 'lock', label: 'Lock the screen', group: 'do', keys: 'l', perform: onLock },
      {
        id: 'who',
        label: 'Somebody else works here now',
        group: 'do',
        keys: 'p',
        words: 'sign in person change',
        perform: onWho,
      },
      { id: 'help', label: 'List the keys', group: 'do', keys: '?', perform: onHelp },
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
        id: 'back',
        label: before ? `Back to ${before.name}` : 'Back to what was open before',
        group: 'go',
        keys: 'g g',
        perform: () => before && navigate(before.address),
      },
      { id: 'places-before', label: 'The place before, in this room', group: 'go', keys: '[', perform: () => step(-1) },
      { id: 'places-after', label: 'The next place of this room', group: 'go', keys: ']', perform: () => step(1) },
      {
        id: 'leads',
        label: 'Say again what each page is for, from the first steps on',
        group: 'do',
        words: 'help',
        perform: forgetTold,
      },
      ...PLACES.map(
        (p): Command => ({
          id: `go-${p.path}`,
          label: p.label,
          group: 'go',
          keys: p.keys,
          words: `${ROOMS[p.room]} ${p.lead}`,
          perform: () => navigate(p.path),
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
  }, [theme, well.slug, book.wells, navigate, setWell, hasTray, pathname])
}
