/**
 * What was tapped on this device: written down first, then sent, in the order in which it was said, each under a key of its
 * own, so that it is done once however often it has to be sent. What the house refuses stays to be looked at.
 */

import { MOST_LATE_S } from '@conch/contract'
import { z } from 'zod'
import { ApiError, api, newKey, sequenceOf } from '../app/api.ts'
import { lineNow } from '../app/line.ts'
import { queryClient, tonightQuery } from '../app/queries.ts'
import { readWho, type Who } from '../app/who.ts'
import { type KeptTap, openStore } from '../keeping/store.ts'
import { followed } from '../ui/followed.ts'
import { setTapCounts } from './tapCounts.ts'

/** What is said. */
export type Tap = Pick<KeptTap, 'kind' | 'path' | 'body' | 'name' | 'words'>
/** What became of it: the house's answer, or its place among what is kept. */
export type Tapped<T> = { done: T } | { kept: number }

/** What is kept, with its place. */
export type WaitingTap = KeptTap & { place: number }

const NAME = 'conch taps'
/** The house has too much to do, or changes: tried again after so long. */
const AGAIN_MS = 5_000
/** For so long a tap waits for the house's answer; then it is said that it is kept, and goes on being sent. */
const WAIT_MS = 2_500
const ALONE_WAIT_MS = 300
const DROP_MS = 4_000
const channel = 'BroadcastChannel' in window ? new BroadcastChannel(NAME) : undefined
/** What waits, as it was read last: another one whenever something is kept, sent or refused on any page of this browser. */
export const waitingTaps = followed<readonly WaitingTap[]>([])

/** As they are now. @throws where the browser keeps nothing */
export async function readTaps(): Promise<WaitingTap[]> {
  return (await (await openStore()).getAll('taps')) as WaitingTap[]
}

async function look(): Promise<void> {
  const all = await readTaps().catch(() => [])
  const refused = all.filter((t) => t.refused !== undefined).length
  setTapCounts({ waiting: all.length - refused, refused })
  waitingTaps.set(all)
}
const changed = async () => {
  channel?.postMessage('changed')
  await look()
}
channel?.addEventListener('message', () => {
  void look()
  void queryClient.invalidateQueries({ queryKey: tonightQuery.queryKey })
})

type Outcome = { answer: unknown } | { error: unknown }
/** What comes of those that were said on this page: for everybody who waits for it, tapped once or twice. */
const outcomes = new Map<number, { is: Promise<Outcome>; tell: (outcome: Outcome) => void }>()

function outcomeOf(place: number): Promise<Outcome> {
  const before = outcomes.get(place)
  if (before) return before.is
  let tell = (_: Outcome) => {}
  const is = new Promise<Outcome>((resolve) => {
    tell = resolve
  })
  outcomes.set(place, { is, tell })
  return is
}

function tellOutcome(place: number, outcome: Outcome): void {
  outcomes.get(place)?.tell(outcome)
  outcomes.delete(place)
}

/**
 * Says it: written down, then sent behind what waits already.
 * @throws ApiError where the house would not
 */
export async function sayTap<T>(what: Tap, schema: z.ZodType<T>): Promise<Tapped<T>> {
  const who = readWho()
  if (!who) throw new Error('bug: nobody is here who could say something')
  const db = await openStore().catch(() => undefined)
  if (!db) return { done: await api.post(what.path, schema, what.body) }
  const tap: KeptTap = {
    ...what,
    id: newKey(),
    by: { id: who.id, name: who.name },
    isUnconfirmed: who.isUnconfirmed === true,
    at: Date.now(),
    sees: sequenceOf('/api/tonight') ?? null,
  }
  const place = await put(tap)
  const outcome = outcomeOf(place)
  await changed()
  const sent = flushTaps().then(() => 'kept' as const)
  const waited = new Promise<'kept'>((resolve) =>
    setTimeout(() => resolve('kept'), lineNow() === 'alone' ? ALONE_WAIT_MS : WAIT_MS),
  )
  const first = await Promise.race([outcome, sent, waited])
  if (first === 'kept') {
    await queryClient.invalidateQueries({ queryKey: tonightQuery.queryKey })
    return { kept: place }
  }
  if ('error' in first) {
    // Said to whoever tapped: it need not be said again.
    await dropTap(place)
    throw first.error
  }
  return { done: schema.parse(first.answer) }
}

const isSame = (a: Tap, b: Tap) => a.path === b.path && JSON.stringify(a.body) === JSON.stringify(b.body)

/**
 * On the disk before anybody is told that it is kept. Said twice in a row it is said once, also by two taps at once; said
 * again after something else it counts again, behind that.
 * @returns its place
 */
async function put(tap: KeptTap): Promise<number> {
  const tx = (await openStore()).transaction('taps', 'readwrite', { durability: 'strict' })
  const last = (await tx.store.openCursor(null, 'prev'))?.value
  const isTwice = last && !last.refused && last.by.id === tap.by.id && isSame(last, tap)
  const place = isTwice && last.place !== undefined ? last.place : await tx.store.add(tap)
  await tx.done
  return place
}

/** Takes back what is not sent yet, or puts aside what the house refused. @returns whether it was still there */
export async function dropTap(place: number): Promise<boolean> {
  const drop = async () => {
    const tx = (await openStore()).transaction('taps', 'readwrite', { durability: 'strict' })
    const wasThere = (await tx.store.get(place)) !== undefined
    await tx.store.delete(place)
    await tx.done
    return wasThere
  }
  // Not while it is on its way: then it may be there already.
  const signal = AbortSignal.timeout(DROP_MS)
  const wasThere =
    'locks' in navigator ? await navigator.locks.request(NAME, { signal }, drop).catch(() => false) : await drop()
  await changed()
  await queryClient.invalidateQueries({ queryKey: tonightQuery.queryKey })
  return wasThere
}

/** What it waits for, by who is here and whom the house takes this device for; what was refused waits for nothing. */
export function waitsFor(tap: KeptTap, who: Who | undefined): 'nothing' | 'the house' | 'their PIN' {
  if (tap.refused) return 'nothing'
  if (!who) return 'their PIN'
  // Somebody whom nobody could check says nothing under anybody's name.
  if (tap.isUnconfirmed) return who.id === tap.by.id && !who.isUnconfirmed && !who.isLocked ? 'the house' : 'their PIN'
  const isOpen = who.isUntold || !(who.isLocked || who.isUnconfirmed)
  return isOpen && (who.session ?? who.id) === tap.by.id ? 'the house' : 'their PIN'
}

export const isTooOld = (tap: KeptTap, now = Date.now()): boolean => now - tap.at > MOST_LATE_S * 1000

let flushing: Promise<void> | undefined
let again = false
let timer: ReturnType<typeof setTimeout> | undefined

/** Sends what waits, one after the other; by one page of this browser at a time. Resolves when nothing more can be sent now. */
export function flushTaps(): Promise<void> {
  if (flushing) {
    again = true
    return flushing
  }
  flushing = inTurn().finally(() => {
    flushing = undefined
  })
  return flushing
}

async function inTurn(): Promise<void> {
  do {
    again = false
    // Without a secure address browsers know no locks; a key is done once anyhow.
    if ('locks' in navigator) await navigator.locks.request(NAME, sendAll)
    else await sendAll()
  } while (again)
}

async function sendAll(): Promise<void> {
  const all = await readTaps().catch(() => [])
  let hasSent = false
  try {
    for (const tap of all) {
      if (waitsFor(tap, readWho()) !== 'the house') continue
      if (isTooOld(tap)) {
        await refuse(tap, 'It is more than two days old: say it anew if it is still so.')
        continue
      }
      const how = await sendOne(tap)
      if (how === 'later') {
        clearTimeout(timer)
        timer = setTimeout(() => void flushTaps(), AGAIN_MS)
      }
      if (how !== 'goOn') return
      hasSent = true
    }
  } finally {
    // What is asked already may have been answered before it came, and counted without it since.
    if (hasSent) void queryClient.invalidateQueries({ predicate: ({ queryKey }) => TOUCHED.has(queryKey[0]) })
  }
}

/** What the pages ask that a tap changes. */
const TOUCHED: ReadonlySet<unknown> = new Set(['tonight', 'notes', 'lots'])

/** The house waits for whoever it is, or has no time: nothing is wrong with what was said. */
const WAITS: ReadonlySet<string> = new Set(['tooMany', 'wrongHost', 'internal'])

async function sendOne(tap: WaitingTap): Promise<'goOn' | 'stop' | 'later'> {
  const { id, path, body, sees, at, place } = tap
  const agoS = Math.max(0, Math.round((Date.now() - at) / 1000))
  try {
    const answer = await api.sendTap(z.unknown(), path, { id, body, agoS, sees })
    await (await openStore()).delete('taps', place)
    tellOutcome(place, { answer })
    await changed()
    return 'goOn'
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    if (error.isAway) return 'later'
    const code = error.problem?.code ?? 'internal'
    if (code === 'locked' || code === 'nobody') return 'stop'
    if (WAITS.has(code)) return 'later'
    await refuse(tap, error.message)
    tellOutcome(place, { error })
    return 'goOn'
  }
}

async function refuse(tap: WaitingTap, refused: string): Promise<void> {
  await (await openStore()).put('taps', { ...tap, refused })
  await changed()
}

void look()
