import { type Asker, mayDo } from '@conch/contract'
import { type SSEStreamingApi, streamSSE } from 'hono/streaming'
import type { Actor } from '../../access/actor.ts'
import { readActorAgain } from '../../door/readActor.ts'
import type { StreamCall } from '../../http/route.ts'

/** A line on which nothing is said for so long is thought to be broken by what stands in between. */
const BEAT_MS = 15_000
/** Streams of one sign-in; another one ends the oldest, whose page is likely gone. */
const MOST_EACH = 8
const open = new Map<number, (() => void)[]>()

/**
 * What happens, as long as somebody listens and may: a frame for what changed, who is on which draft, and a beat now and
 * then. Whoever signs out, or whose role is another one, hears the end of it.
 */
export function streamFeed({ context: c, actor, query, services }: StreamCall<{ after?: number | undefined }>) {
  const { feed, held, sessions, database } = services
  const last = Number(c.req.header('last-event-id'))
  const after = Number.isInteger(last) && last >= 0 && last <= 2_147_483_647 ? last : query.after
  return streamSSE(c, async (stream) => {
    let isEnded = false
    let waking = () => {}
    const end = () => {
      isEnded = true
      waking()
    }
    stream.onAbort(end)
    const leave = enter(actor, end)
    try {
      let place = await feed.placeAfter(after)
      let { who } = feed
      await stream.writeSSE({ event: 'hello', data: String(place.sequence), id: String(place.sequence) })
      while (!isEnded && feed.isOpen) {
        const { frame, place: next } = feed.behind(place, actor.role)
        const present = feed.present.version
        const isSamePresent = place.present === present
        place = { ...next, present }
        // Whoever left meanwhile is told nothing more.
        const isAsked = who !== feed.who
        who = feed.who
        if (isAsked && !(await isStill(actor))) break
        if (frame) {
          await stream.writeSSE({ event: 'changed', data: JSON.stringify(frame), id: String(frame.sequence) })
        }
        const hears = mayDo(actor.role, 'saveDraft') && !isSamePresent
        if (hears) await writePresent(stream, actor.role)
        // Between looking and sleeping nothing is waited for: what comes meanwhile would be missed.
        if (frame || hears || isAsked) continue
        const nap = feed.sleep(BEAT_MS)
        waking = nap.end
        const isNews = await nap.isNews
        waking = () => {}
        if (isNews || isEnded) continue
        if (!(await isStill(actor))) break
        await stream.writeSSE({ event: 'beat', data: '' })
      }
      if (!isEnded && feed.isOpen) await stream.writeSSE({ event: 'left', data: '' })
    } finally {
      leave()
    }
  })

  /** Whether it is still the same person in the same role who listens. */
  async function isStill({ id, role, session }: Actor): Promise<boolean> {
    try {
      const now = await readActorAgain(c, await held.now(), sessions)
      return now.id === id && now.session?.id === session?.id && now.role === role
    } catch {
      // It closes, or its database is away for a moment: who listens is asked again at the next beat.
      return database.isTaking
    }
  }

  async function writePresent(stream: SSEStreamingApi, role: Asker): Promise<void> {
    const present = feed.presentFor(role)
    await stream.writeSSE({ event: 'present', data: JSON.stringify(present) })
  }
}

/** @returns what to do when it has ended */
function enter({ session }: Actor, end: () => void): () => void {
  const key = session?.id ?? 0
  const mine = open.get(key) ?? []
  open.set(key, mine)
  mine.push(end)
  if (mine.length > MOST_EACH) mine.shift()?.()
  return () => {
    const at = mine.indexOf(end)
    if (at >= 0) mine.splice(at, 1)
    if (mine.length === 0) open.delete(key)
  }
}
