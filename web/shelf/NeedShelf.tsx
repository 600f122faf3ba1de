import type { ShelfAsked } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { type ReactNode, useMemo, useRef } from 'react'
import { type ShelfNeed, useShelf, useShelfFor, useShelfOf } from '../app/shelf.ts'
import { Failure, Loading } from '../ui/States.tsx'

interface ShownWhenReady {
  what: string
  children: () => ReactNode
}

/** Once a page is shown it stays: what else it then needs comes to it. */
function ShowWhenReady({ need, what, children }: ShownWhenReady & { need: ShelfNeed }) {
  const wasReady = useRef(false)
  if (need.isReady) wasReady.current = true
  if (wasReady.current) return children()
  return need.error ? <Failure error={need.error} /> : <Loading what={what} />
}

/** Shows a page when these things of the shelf, and all that they need, are known; keeps them in step as long as it is there. */
export function NeedShelf({ of, ...page }: ShownWhenReady & { of: readonly (string | undefined)[] }) {
  return <ShowWhenReady need={useShelfOf(of)} {...page} />
}

/** The same for everything that documents pour. */
export function NeedShelfFor({
  documents,
  ...page
}: ShownWhenReady & { documents: readonly (DrinkDocument | undefined)[] }) {
  return <ShowWhenReady need={useShelfFor(documents)} {...page} />
}

/** The same for a part that is asked for in another way. */
export function NeedShelfPart({ asked, ...page }: ShownWhenReady & { asked: ShelfAsked }) {
  const key = JSON.stringify(asked)
  const same = useMemo(() => JSON.parse(key) as ShelfAsked, [key])
  return <ShowWhenReady need={useShelf(same)} {...page} />
}
