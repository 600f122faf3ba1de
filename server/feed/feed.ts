/**
 * Tells every page what happened, as it happens. A notice only wakes: what happened is what the house in memory has read
 * in the order of the chain, once for each process. Who listens has a place in that order and no queue, so that a slow one
 * costs nothing, and one that comes back goes on where it was.
 */

import { type Asker, type EventKind, type FeedFrame, mayDo, type Present, toldTo } from '@conch/contract'
import { LRUCache } from 'lru-cache'
import type { OpenDatabase } from '../database/index.ts'
import { eventsBehind, type Heard, hearWrites } from '../events/index.ts'
import type { Held, HeldHouse } from '../held/index.ts'
import { Presence } from './presence.ts'

/** Should a notice get lost, or a reading fail. */
const LOOK_EVERY_MS = 5_000
/** Events that are read for somebody who was away. */
const MOST_READ = 2_000
/** Drafts that are remembered for who is a moment behind. */
const MOST_DRAFTS = 500

/** How far somebody has heard. */
export interface Place {
  /** Which reading of which house. */
  house: string
  sequence: number
  drafts: number
  present: number
  /** What happened before this process began to remember: read for who was away for longer. */
  earlier?: readonly Happened[] | undefined
}

interface Happened {
  sequence: number
  kind: EventKind
  subject: string
}

interface DraftNote {
  number: number
  place: string
}

interface Sources {
  database: OpenDatabase
  held: Held
  now: () => Date
  onError?: (error: unknown) => void
}

export class Feed {
  readonly present: Presence
  private readonly sources: Sources
  private house: HeldHouse | undefined
  private state = ''
  private drafts: DraftNote[] = []
  private draftCount = 0
  private readonly sleepers = new Set<() => void>()
  private reading: Promise<void> | undefined
  private isStale = false
  private isClosed = false
  private timer: ReturnType<typeof setInterval> | undefined
  private endHearing: (() => Promise<void>) | undefined
  /** The same words for everybody of a role who was at the same place. */
  private readonly frames = new LRUCache<string, { frame: FeedFrame | undefined }>({ max: 200 })

  constructor(sources: Sources) {
    this.sources = sources
    this.present = new Presence(sources.now, () => this.rouse())
  }

  /** Another one whenever somebody may have signed in or out, or is somebody else. */
  get who(): string {
    return this.house ? `${this.house.id} ${this.house.lastOf(['session', 'person', 'device', 'house'])}` : ''
  }

  get isOpen(): boolean {
    return !this.isClosed
  }

  /** Begins to listen, once somebody asks. */
  private begin(): void {
    if (this.timer || this.isClosed) return
    this.timer = setInterval(() => {
      this.present.forgetOld()
      this.wake({ drafts: [] })
    }, LOOK_EVERY_MS)
    this.timer.unref()
    this.endHearing = hearWrites(this.sources.database, (told) => this.wake(told))
  }

  /** Something was written. During a reading it makes one more. */
  private wake({ drafts, here }: Heard): void {
    if (here) this.present.hear(here)
    for (const place of drafts) this.drafts.push({ number: ++this.draftCount, place })
    if (this.drafts.length > MOST_DRAFTS) this.drafts.splice(0, this.drafts.length - MOST_DRAFTS)
    this.isStale = true
    this.reading ??= this.read()
      .catch((error) => {
        if (this.sources.database.isTaking) this.sources.onError?.(error)
      })
      .finally(() => {
        this.reading = undefined
        // Who woke it when it had just looked for the last time is not forgotten.
        if (this.isStale && !this.isClosed) this.wake({ drafts: [] })
      })
  }

  private async read(): Promise<void> {
    while (this.isStale && !this.isClosed) {
      // Before the reading: who wakes during it counts.
      this.isStale = false
      const house = await this.sources.held.now()
      this.house = house
      const state = `${house.id} ${house.at.sequence} ${this.draftCount}`
      if (state === this.state) continue
      this.state = state
      this.rouse()
    }
  }

  private rouse(): void {
    for (const wakeUp of [...this.sleepers]) wakeUp()
  }

  /** Where one stands who has heard everything up to a place in the chain; up to now, where none is said. */
  async placeAfter(after?: number): Promise<Place> {
    this.begin()
    const house = await this.sources.held.now()
    this.house = house
    // Drafts are in no chain: who comes back after a pause looks at theirs again.
    const drafts = after === undefined ? this.draftCount : -1
    const sequence = after ?? house.at.sequence
    const isRemembered = sequence >= house.at.sequence || house.eventsSince(sequence) !== undefined
    const earlier = isRemembered ? undefined : await this.readBehind(sequence, house.at.sequence)
    return { house: house.id, sequence, drafts, present: -1, earlier }
  }

  /** From the table: a house that was opened again remembers nothing of before. Too much of it is not told by name. */
  private async readBehind(after: number, upTo: number): Promise<readonly Happened[] | undefined> {
    if (upTo - after > MOST_READ) return undefined
    const found = await eventsBehind(this.sources.database.db, after, upTo)
    return found.length === upTo - after ? found : undefined
  }

  /** What happened behind a place, for a role, and the place after it; undefined: nothing that they hear of. */
  behind(place: Place, role: Asker): { frame: FeedFrame | undefined; place: Place } {
    const { house } = this
    if (!house) throw new Error('bug: nobody has a place yet')
    const next = { ...place, house: house.id, sequence: house.at.sequence, drafts: this.draftCount, earlier: undefined }
    if (place.earlier) return { frame: this.frameOf(place, house, role), place: next }
    const key = `${place.house} ${place.sequence} ${place.drafts} ${next.house} ${next.sequence} ${next.drafts} ${role}`
    const known = this.frames.get(key) ?? { frame: this.frameOf(place, house, role) }
    this.frames.set(key, known)
    return { frame: known.frame, place: next }
  }

  private frameOf(place: Place, house: HeldHouse, role: Asker): FeedFrame | undefined {
    const { sequence } = house.at
    const { earlier } = place
    const since = earlier?.at(-1)?.sequence ?? place.sequence
    const later = place.house === house.id ? house.eventsSince(since) : undefined
    const events = later && [...(earlier ?? []), ...later]
    // Another house, or one who was away for longer than is remembered, or who has a place that never was.
    if (!events || place.sequence > sequence) return { sequence, changed: 'everything' }
    const said = events.flatMap((e) => toldTo(role, e.kind, e.subject))
    const isAllDrafts = place.drafts < 0 || place.drafts < (this.drafts[0]?.number ?? 1) - 1
    const drafts = isAllDrafts
      ? mayDo(role, 'read')
        ? ['draft']
        : []
      : this.drafts.filter((d) => d.number > place.drafts).flatMap((d) => toldTo(role, 'draft', d.place))
    const changed = [...new Set([...said, ...drafts])]
    return changed.length > 0 ? { sequence, changed } : undefined
  }

  /** Who is on which draft, for whoever may write drafts. */
  presentFor(role: Asker): Present {
    return mayDo(role, 'saveDraft') ? this.present.all() : []
  }

  /**
   * Waits for news, or so long. Between looking and waiting there is no `await`: nothing falls in between.
   * @returns how to be woken otherwise, and whether there was news
   */
  sleep(ms: number): { end: () => void; isNews: Promise<boolean> } {
    let end = (_isNews: boolean) => {}
    const isNews = new Promise<boolean>((resolve) => {
      const wakeUp = () => end(true)
      end = (news) => {
        clearTimeout(timer)
        this.sleepers.delete(wakeUp)
        resolve(news)
      }
      const timer = setTimeout(() => end(false), ms)
      if (this.isClosed) end(false)
      else this.sleepers.add(wakeUp)
    })
    return { end: () => end(false), isNews }
  }

  /** Ends every stream. Before the server closes, which waits for them. */
  async close(): Promise<void> {
    this.isClosed = true
    clearInterval(this.timer)
    this.rouse()
    await this.endHearing?.()
  }
}
