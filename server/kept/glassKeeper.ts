/**
 * Keeps the glasses of every poured, planned and latest version right: what an event changed is computed anew, and nothing
 * else; the menu first. Until then it is said to be old.
 */

import { clockOf, nightOf } from '@conch/core/calendar'
import { MODEL_VERSION } from '@conch/core/cold'
import { atMoment, type KeptGlass } from '@conch/core/menu'
import { HOUSE } from '../access/actor.ts'
import { UnreadableDocument } from '../database/documentColumn.ts'
import type { OpenDatabase } from '../database/index.ts'
import { Refusal } from '../errors/Refusal.ts'
import { eventsBehind } from '../events/index.ts'
import { baseOf, type Held, type HeldHouse } from '../held/index.ts'
import type { Work } from '../threads/index.ts'
import { type ComputedGlasses, type GlassOrder, KEPT_GLASSES } from './computeGlasses.ts'
import {
  dropKept,
  dropOtherWells,
  findAffected,
  findDependent,
  keyOf,
  loadDocuments,
  loadKept,
  loadKeptKeys,
  loadUpTo,
  saveKept,
  saveUpTo,
  type VersionKey,
} from './glassStore.ts'
import { LatelyRead } from './latelyRead.ts'
import { orderGlasses } from './orderGlasses.ts'
import { Shown } from './shown.ts'
import { type Topic, touchedBy } from './topics.ts'

/** What it is made with, besides the model: another number here, and all is made anew. */
const FORM = 1
const MADE_WITH = `form ${FORM}, model ${MODEL_VERSION}`
/** So many versions at once: enough that the rest of the house hardly notices, few enough that news is not kept waiting. */
const AT_ONCE = 24
const AGAIN_AFTER_MS = 250

/** What changes which versions are poured or planned. */
const PLANS = ['plan', 'decision', 'edition', 'house'] as const

/** A kept glass as it is read: old while something that it depends on has changed. */
export interface ReadGlass {
  glass: KeptGlass
  isOld: boolean
}

interface Pending extends VersionKey {
  /** The last event that made it old. */
  since: number
}

interface Sources {
  database: OpenDatabase
  held: Held
  work: Work
  now: () => Date
}

export class GlassKeeper {
  private readonly sources: Sources
  /** Whose glasses these are: another reading of the house begins anew. */
  private houseId: string | undefined
  private digested = 0
  private readonly kept = new Map<string, VersionKey & { turnsOn: string | null }>()
  private readonly pending = new Map<string, Pending>()
  private readonly touched = new Map<Topic, number>()
  private readonly shown = new Shown()
  private readonly lately = new LatelyRead()
  private wells = ''
  private night = ''
  private changes = 0
  /** Of what is poured or planned alone. */
  private menuChanges = 0
  private digesting: Promise<void> = Promise.resolve()
  private running: Promise<void> | undefined
  private isStopped = false
  private wake: () => void = () => {}

  constructor(sources: Sources) {
    this.sources = sources
  }

  /** How many are still to be computed. */
  get left(): number {
    return this.pending.size
  }

  /** Takes note of everything that happened until now: afterwards what is old is known. */
  digest(): Promise<void> {
    const mine = this.digesting.then(() => this.digestNow())
    this.digesting = mine.catch(() => {})
    return mine
  }

  /** Another one whenever a kept glass is another one, or is known to be old. */
  async state(): Promise<string> {
    await this.digest()
    return `${this.houseId}.${this.changes}`
  }

  /** Another one whenever a glass of what is poured or planned is another one, or is known to be old. */
  async menuState(): Promise<string> {
    await this.digest()
    return `${this.houseId}.${this.menuChanges}`
  }

  /**
   * The kept glasses of these versions by drink and version, then by well. What was never computed is not among them.
   * @param isOpen whether who asks may open what is sealed
   */
  async read(
    keys: readonly VersionKey[],
    { isOpen, well }: { isOpen: boolean; well?: string | undefined },
  ): Promise<Map<string, Record<string, ReadGlass>>> {
    await this.digest()
    const held = await this.sources.held.now()
    const { settings } = baseOf(held)
    const at = this.sources.now()
    // What is old when its row is read may be right before it is answered: then the row is the one of before.
    const wasOld = new Set(keys.map(keyOf).filter((key) => this.pending.has(key)))
    const found = new Map<string, Record<string, ReadGlass>>()
    const wells = well === undefined ? baseOf(held).wells.map((w) => w.slug) : [well]
    const { db } = this.sources.database
    for (const row of await this.lately.read(keys, wells, (some) => loadKept(db, some, well))) {
      const key = keyOf(row)
      const glass = atMoment((!isOpen && row.closed) || row.glass, settings, at)
      // That just this one is being computed again would tell what is in the sealed part of it.
      const isOld = !isOpen && row.closed ? this.pending.size > 0 : wasOld.has(key) || this.pending.has(key)
      found.set(key, { ...found.get(key), [row.well]: { glass, isOld } })
    }
    return found
  }

  /** The version by which a drink is shown: what is poured, else what is planned, else the newest. */
  async shownVersions(): Promise<ReadonlyMap<string, number>> {
    await this.digest()
    return this.shown.versions()
  }

  /** How many of what is shown were never computed: nobody knows yet what they stand on. */
  get unknown(): number {
    let count = 0
    for (const key of this.pending.keys()) if (!this.kept.has(key)) count += 1
    return count
  }

  /** What is poured, and what is planned, as of the last digest: the version of each drink. */
  listings(): { poured: ReadonlyMap<string, number>; planned: ReadonlyMap<string, number> } {
    return this.shown
  }

  /** Kept versions that depend on one of these topics at some well. */
  async dependent(topics: readonly Topic[]): Promise<VersionKey[]> {
    await this.digest()
    return findDependent(this.sources.database.db, topics)
  }

  /** Computes by itself from now on. */
  start(onError: (error: unknown) => void): void {
    this.running ??= this.run(onError)
  }

  async stop(): Promise<void> {
    this.isStopped = true
    this.wake()
    await this.running
  }

  /** Computes all that is to be computed, and then returns. */
  async settle(): Promise<void> {
    do {
      await this.digest()
      await this.computeAll()
    } while (!(await this.isUpToDate()))
  }

  private async isUpToDate(): Promise<boolean> {
    await this.digest()
    return this.pending.size === 0
  }

  private async run(onError: (error: unknown) => void): Promise<void> {
    while (!this.isStopped) {
      try {
        if (this.sources.database.isTaking) {
          await this.digest()
          await this.computeAll()
        }
      } catch (error) {
        // It closes, or another house is being put in its place.
        if (this.isStopped) return
        if (this.sources.database.isTaking) onError(error)
      }
      if (this.isStopped) return
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, AGAIN_AFTER_MS)
        this.wake = () => {
          clearTimeout(timer)
          resolve()
        }
      })
    }
  }

  private async digestNow(): Promise<void> {
    const held = await this.sources.held.now()
    if (!held.base) return
    if (held.id !== this.houseId) await this.begin(held)
    const night = nightOf(this.sources.now(), clockOf(held.base.settings))
    if (night !== this.night) {
      this.night = night
      for (const { turnsOn, ...key } of this.kept.values())
        if (turnsOn !== null && turnsOn <= night) this.markOld(key, held.at.sequence)
    }
    const { sequence } = held.at
    if (sequence === this.digested) return
    const happened = held.eventsSince(this.digested)
    if (!happened) {
      this.houseId = undefined
      return this.digestNow()
    }
    const { db } = this.sources.database
    const touched = await touchedBy(db, held, happened)
    for (const [topic, at] of touched) this.touched.set(topic, at)
    for (const key of await findAffected(db, touched)) this.markOld(key, sequence)
    const kinds = new Set(happened.map((e) => e.kind))
    if (PLANS.some((kind) => kinds.has(kind))) {
      this.shown.take(held)
      this.menuChanges += 1
      await this.wantWhatIsShown(sequence)
    } else if (kinds.has('drink')) {
      const slugs = new Set(happened.flatMap((e) => (e.kind === 'drink' ? [e.subject] : [])))
      this.shown.takeNewest(held, slugs)
      await this.wantWhatIsShown(sequence, slugs)
    }
    if (kinds.has('well')) await this.checkWells(held)
    this.digested = sequence
  }

  /** Everything as the database has it: after a start, or when another house is there. */
  private async begin(held: HeldHouse): Promise<void> {
    const { db } = this.sources.database
    this.kept.clear()
    this.pending.clear()
    this.touched.clear()
    this.night = ''
    const { sequence } = held.at
    const upTo = await loadUpTo(db, 'glasses')
    const isUsable = upTo?.madeWith === MADE_WITH && upTo.sequence <= sequence
    const wells = baseOf(held).wells.map((w) => w.slug)
    const keys = await loadKeptKeys(db, wells)
    if (keys.some((k) => k.elsewhere > 0)) await dropOtherWells(db, wells)
    for (const { drink, version, turnsOn } of keys)
      this.kept.set(keyOf({ drink, version }), { drink, version, turnsOn })
    this.lately.clear()
    this.shown.take(held)
    await this.wantWhatIsShown(sequence)
    this.wells = wells.toSorted().join(' ')
    for (const key of isUsable ? keys.filter((k) => k.here < wells.length) : this.kept.values())
      this.markOld(key, sequence)
    // What happened since all was right is looked at as news.
    this.digested = sequence
    if (isUsable && upTo.sequence < sequence) await this.catchUpFrom(upTo.sequence, held)
    this.houseId = held.id
    this.changes += 1
    this.menuChanges += 1
  }

  /** After a crash: what happened behind the point at which all was right. */
  private async catchUpFrom(from: number, held: HeldHouse): Promise<void> {
    const { db } = this.sources.database
    const happened = await eventsBehind(db, from)
    for (const key of await findAffected(db, await touchedBy(db, held, happened))) this.markOld(key, held.at.sequence)
  }

  /** What is shown and not kept is to be computed; what is kept and no longer shown goes. @param only of these drinks */
  private async wantWhatIsShown(sequence: number, only?: ReadonlySet<string>): Promise<void> {
    const wanted = this.shown.wanted(only)
    for (const [key, version] of wanted) if (!this.kept.has(key)) this.markOld(version, sequence)
    const isUnwanted = (k: VersionKey) => (!only || only.has(k.drink)) && !wanted.has(keyOf(k))
    for (const [key, pending] of this.pending) if (isUnwanted(pending)) this.pending.delete(key)
    const unwanted = [...this.kept.values()].filter(isUnwanted)
    if (unwanted.length === 0) return
    await dropKept(this.sources.database.db, unwanted)
    for (const k of unwanted) {
      this.kept.delete(keyOf(k))
      this.lately.forget(k)
    }
  }

  /** Another well, and everything is to be computed there. */
  private async checkWells(held: HeldHouse): Promise<void> {
    const wells = baseOf(held).wells.map((w) => w.slug)
    if (wells.toSorted().join(' ') === this.wells) return
    this.wells = wells.toSorted().join(' ')
    await dropOtherWells(this.sources.database.db, wells)
    for (const key of this.kept.values()) this.markOld(key, held.at.sequence)
  }

  private markOld({ drink, version }: VersionKey, since: number): void {
    const key = { drink, version }
    this.pending.set(keyOf(key), { ...key, since })
    this.lately.forget(key)
    this.changes += 1
    if (this.shown.isOnMenu(key)) this.menuChanges += 1
    this.wake()
  }

  private async computeAll(): Promise<void> {
    while (this.pending.size > 0 && !this.isStopped) {
      await this.computeSome(this.next())
      await this.digest()
    }
    if (this.isStopped || !this.houseId) return
    const { db } = this.sources.database
    const upTo = await loadUpTo(db, 'glasses')
    if (this.pending.size === 0 && (upTo?.sequence !== this.digested || upTo.madeWith !== MADE_WITH))
      await saveUpTo(db, 'glasses', this.digested, MADE_WITH)
  }

  /** Those that wait, what is poured first, then what is planned. */
  private next(): Pending[] {
    const ranked: Pending[][] = [[], [], []]
    for (const p of this.pending.values()) {
      const rank =
        this.shown.poured.get(p.drink) === p.version ? 0 : this.shown.planned.get(p.drink) === p.version ? 1 : 2
      ranked[rank]?.push(p)
      if ((ranked[0]?.length ?? 0) >= AT_ONCE) break
    }
    return ranked.flat().slice(0, AT_ONCE)
  }

  private async computeSome(some: readonly Pending[]): Promise<void> {
    const { database, held: holder, now } = this.sources
    const found = await this.readable(some)
    const held = await holder.now()
    const { sequence } = held.at
    const { order, rowsOf } = orderGlasses(found, held, now())
    const computed = await this.inThread(order)
    if (!computed) return
    const rows = rowsOf(computed)
    await saveKept(database.db, rows)
    // Of what a recipe has newly in it, news may have come while this was computed.
    await this.digest()
    for (const row of rows)
      this.kept.set(keyOf(row), { drink: row.drink, version: row.version, turnsOn: row.turnsOn ?? null })
    const newer = rows.filter((r) => r.dependsOn.some((t) => (this.touched.get(t) ?? 0) > sequence))
    const stillOld = new Set(newer.map(keyOf))
    for (const { since, ...key } of some) {
      this.lately.forget(key)
      const waiting = this.pending.get(keyOf(key))
      if (waiting && waiting.since <= sequence && !stillOld.has(keyOf(key))) this.pending.delete(keyOf(key))
    }
    this.changes += 1
    if (some.some((key) => this.shown.isOnMenu(key))) this.menuChanges += 1
  }

  /** Their documents; a version that cannot be read any more keeps nobody else's from being computed, and is let go. */
  private async readable(some: readonly Pending[]) {
    const { db } = this.sources.database
    try {
      return await loadDocuments(db, some)
    } catch (error) {
      if (!(error instanceof UnreadableDocument)) throw error
      const all = []
      for (const one of some) {
        const found = await loadDocuments(db, [one]).catch((cause: unknown) => {
          if (!(cause instanceof UnreadableDocument)) throw cause
          this.pending.delete(keyOf(one))
          return []
        })
        all.push(...found)
      }
      return all
    }
  }

  private async inThread(order: GlassOrder): Promise<ComputedGlasses[] | undefined> {
    for (;;) {
      try {
        return await this.sources.work.run(HOUSE.name, KEPT_GLASSES, order)
      } catch (error) {
        if (this.isStopped) return undefined
        if (!(error instanceof Refusal && error.code === 'busy')) throw error
        await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER_MS))
      }
    }
  }
}
