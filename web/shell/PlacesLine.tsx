import { keysOf } from '@conch/core/schema/keysOf'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Link, useLocation } from 'react-router'
import { pageAt, placeAt, placesOf, ROOMS, type Room } from './places.ts'

const ALL_ROOMS = keysOf(ROOMS)

/** Where each room was left: going back leads there. For this visit only. */
const leftAt = new Map<Room, string>()

/** In which room one is, at which of its places, and where each room's word leads. */
function useRooms() {
  const { pathname, search } = useLocation()
  const room = pageAt(pathname)?.room
  const place = placeAt(pathname)
  if (room && place && pathname === place.path) leftAt.set(room, pathname + search)
  return { room, place, leadsTo: (to: Room) => leftAt.get(to) ?? placesOf(to)[0]?.path ?? '/' }
}

const WORD = 'flex min-h-9 items-center whitespace-nowrap px-1.5 border-b-2'

/** The rooms as words in one line; the one where one is opens into its places. */
export function PlacesLine() {
  const { room: here, place, leadsTo } = useRooms()
  return (
    <nav aria-label="Places" className="flex min-w-0 items-center gap-x-1 overflow-x-auto max-lg:hidden">
      {ALL_ROOMS.map((room) => {
        const places = placesOf(room)
        if (room !== here)
          return (
            <Link key={room} to={leadsTo(room)} className={`${WORD} border-transparent text-soft hover:text-ink`}>
              {ROOMS[room]}
            </Link>
          )
        return (
          <fieldset key={room} aria-label={ROOMS[room]} className="flex items-center bg-shoal pr-1">
            {places.length > 1 && (
              <span className="px-2 font-display text-sm font-semibold" aria-hidden="true">
                {ROOMS[room]}
              </span>
            )}
            {places.map((p) => (
              <Link
                key={p.path}
                to={p.path}
                aria-current={p.path === place?.path ? 'page' : undefined}
                className={`${WORD} ${p.path === place?.path ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`}
              >
                {p.label}
              </Link>
            ))}
          </fieldset>
        )
      })}
    </nav>
  )
}

/** The same for a thumb: the places of the room where one is, and a word that opens all rooms. */
export function PlacesBar() {
  const { room: here = 'tonight', place } = useRooms()
  const [isOpen, setOpen] = useState(false)
  const word = 'flex min-h-11 items-center whitespace-nowrap px-3'
  return (
    <nav
      aria-label="Places"
      className="no-print sticky bottom-0 z-20 flex items-stretch border-t border-ink bg-paper pb-[env(safe-area-inset-bottom)] lg:hidden"
    >
      <Popover.Root open={isOpen} onOpenChange={setOpen}>
        <Popover.Trigger className={`${word} bg-shoal font-display font-semibold`} aria-label="All rooms">
          {ROOMS[here]}
          <svg width="10" height="6" viewBox="0 0 10 6" className="ml-1.5" aria-hidden="true">
            <path d="M1 5l4-4 4 4" fill="none" stroke="currentColor" strokeWidth="1.5" />
          </svg>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="top"
            align="start"
            sideOffset={1}
            collisionPadding={0}
            className="z-30 w-screen max-w-md border border-ink bg-paper"
          >
            <ul aria-label="Rooms">
              {ALL_ROOMS.map((room) => (
                <li key={room} className="flex items-center border-b border-hair/60 last:border-0">
                  <span className="w-20 shrink-0 pl-3 font-display text-sm font-semibold">{ROOMS[room]}</span>
                  <span className="flex flex-wrap">
                    {placesOf(room).map((p) => (
                      <Link
                        key={p.path}
                        to={p.path}
                        onClick={() => setOpen(false)}
                        aria-current={p.path === place?.path ? 'page' : undefined}
                        className={`${word} ${p.path === place?.path ? 'font-semibold underline underline-offset-4' : ''}`}
                      >
                        {p.label}
                      </Link>
                    ))}
                  </span>
                </li>
              ))}
            </ul>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <span className="flex overflow-x-auto">
        {placesOf(here).map((p) => (
          <Link
            key={p.path}
            to={p.path}
            aria-current={p.path === place?.path ? 'page' : undefined}
            className={`${word} border-t-2 ${p.path === place?.path ? 'border-ink font-semibold' : 'border-transparent text-soft'}`}
          >
            {p.label}
          </Link>
        ))}
      </span>
    </nav>
  )
}
