/** The round on this tablet: every tick is kept as it is made, so that a tablet that slept or fell goes on where it was. */

import { formOf } from '@conch/core/schema'
import type { Round, RoundLoad, Step } from '@conch/core/service'
import { roundSchema } from '@conch/core/service/roundSchema'
import { newKey } from '../../app/api.ts'
import { readStored, writeStored } from '../../app/stored.ts'
import { followed } from '../../ui/followed.ts'

const STORE = 'conch:rail'

/** What is made now; undefined: nothing. */
export const railRound = followed<Round | undefined>(readStored(STORE, formOf(roundSchema)))

// Another page of this browser, or this one before it was opened anew.
window.addEventListener('storage', ({ key }) => {
  if (key === STORE || key === null) railRound.set(readStored(STORE, formOf(roundSchema)))
})

/** On the disk before it is shown. */
export function setRound(round: Round | undefined): void {
  writeStored(STORE, round)
  railRound.set(round)
}

export function changeRound(change: (round: Round) => Round): void {
  const round = railRound.now()
  if (round) setRound(change(round))
}

/** Before the first pour: what is said to the guest has been read. */
export const BEFORE = 'before:all'
/** What goes in one, and in which order, is settled: by the plan, or by hand. */
export const ORDERED = 'before:order'

const LETTERS = 'abcdefgh'

export function newRound(
  well: string,
  loads: readonly Omit<RoundLoad, 'id'>[],
  { words, isOrdered, now = new Date() }: { words?: string | undefined; isOrdered?: boolean; now?: Date } = {},
): Round {
  return {
    key: newKey(),
    well,
    startedAt: now.toISOString(),
    ...(words ? { words } : {}),
    loads: loads.map((load, i) => ({ ...load, id: LETTERS[i] as string })),
    ticks: isOrdered ? [ORDERED] : [],
    poured: {},
    clocks: {},
  }
}

/** “2 × Tide Clerk, Green Pilot” */
export function roundWords({ loads }: Pick<Round, 'loads'>): string {
  const counts = new Map<string, number>()
  for (const { document, glasses } of loads) counts.set(document.name, (counts.get(document.name) ?? 0) + glasses)
  return [...counts].map(([name, glasses]) => `${glasses > 1 ? `${glasses} × ` : ''}${name}`).join(', ')
}

/** Whether something of a load is in a vessel. */
const isBegun = ({ ticks }: Round, load: string) =>
  ticks.some((tick) => {
    const [kind, go = ''] = tick.split(':')
    return go.charAt(0) === load && (kind === 'pour' || kind === 'ice' || kind === 'chill')
  })

/** At another well it takes other goes, but for what was begun: half of it is in already. */
export const withOwnGoes = (round: Round): Round => ({
  ...round,
  loads: round.loads.map((load) => {
    const { goes: _, ...others } = load
    return isBegun(round, load.id) ? load : others
  }),
})

/** A round that is begun says in how many goes each glass of it is made. */
export const begunIn = (round: Round, steps: readonly Step[]): Round => ({
  ...round,
  loads: round.loads.map((load) =>
    load.glasses === 1 ? { ...load, goes: steps.find((s) => s.load === load.id && s.go)?.go?.of ?? 1 } : load,
  ),
})

/**
 * What is in a vessel of lines of which it was not what was asked for, ml by the line's index.
 * @param load the name of a load, or of one go of it
 */
export function inTinOf(round: Pick<Round, 'poured'>, load: string): Record<number, number> {
  const found: Record<number, number> = {}
  for (const [id, ml] of Object.entries(round.poured)) {
    const [kind, of, line] = id.split(':')
    if (kind === 'pour' && of === load) found[Number(line)] = ml
  }
  return found
}

/** A round that was not begun after all: what it was asked for, and the orders that are open again. */
let notBegun: Round | undefined
const ordersOf = new Map<string, readonly string[]>()

/** @param orders that somebody waits for, by their ids */
export function beginRound(round: Round, orders: readonly string[]): void {
  ordersOf.set(round.key, orders)
  setRound(round)
}

/** Not now: nothing of it is lost. @returns the orders that are open again */
export function leaveRound(round: Round): readonly string[] {
  notBegun = round
  setRound(undefined)
  return ordersOf.get(round.key) ?? []
}

/** What was asked for when it was left; once. */
export function takeNotBegun(): Round | undefined {
  const round = notBegun
  notBegun = undefined
  return round
}
