/** How long a wrong hand waits, and who is never shut out by one. */

import { type Person, secretKindOf } from '@conch/contract'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { forgetTries, type Patience, takeTurn, takeTurnBack } from '../../stores/access.ts'

interface Turn {
  key: string
  patience: Patience
  /** Others try from there, too: a right word takes back only itself. */
  isShared?: true
}

/** Wrong words that only a manager lifts stand under these keys. */
export const LOCKING = 'person:'
export const lockKeyOf = (personId: number) => `${LOCKING}${personId}`

/** So many wrong PINs of strangers, and none of them is listened to. */
export const LOCKED_AT = 10
const SHORTLY = 3600
/** On a device of the house nobody is ever locked out: one wrong hand does not close the bar. */
const ON_A_DEVICE: Patience = { free: 3, mostWaitS: 120, forgetAfterS: SHORTLY }
const FROM_AN_ADDRESS: Patience = { free: 10, mostWaitS: 60, forgetAfterS: SHORTLY }
/** A PIN has so few digits that strangers get ten, and no more. */
const FOR_A_PIN: Patience = { free: 3, mostWaitS: 60, lockAt: LOCKED_AT, forgetAfterS: SHORTLY }
/** A passphrase cannot be guessed, and whoever has none to lift a lock is not locked out. */
const FOR_A_PASSPHRASE: Patience = { free: 3, mostWaitS: 300, forgetAfterS: SHORTLY }

function turnsOf(person: Person | undefined, deviceId: number | undefined, address: string): Turn[] {
  if (deviceId !== undefined) return [{ key: `device:${deviceId}/${person?.id ?? 'nobody'}`, patience: ON_A_DEVICE }]
  const from: Turn = { key: `address:${address}`, patience: FROM_AN_ADDRESS, isShared: true }
  if (!person) return [from]
  return secretKindOf(person.role) === 'pin'
    ? [from, { key: lockKeyOf(person.id), patience: FOR_A_PIN }]
    : [from, { key: `from:${address}/${person.id}`, patience: FOR_A_PASSPHRASE }]
}

const secondsWords = (s: number) => (s >= 90 ? `${Math.ceil(s / 60)} minutes` : `${s} seconds`)

/**
 * Waits for nobody: a word is listened to, or it is said from when on.
 * @returns what to call when it was right
 * @throws Refusal `tooMany` or `lockedOut`
 */
export async function askForTurn(
  db: Database,
  person: Person | undefined,
  { deviceId, address }: { deviceId: number | undefined; address: string },
  now: Date,
): Promise<() => Promise<void>> {
  const turns = turnsOf(person, deviceId, address)
  for (const { key, patience } of turns) {
    const inTheWay = await takeTurn(db, key, patience, now)
    if (!inTheWay) continue
    if (patience.lockAt !== undefined && inTheWay.failures >= patience.lockAt)
      throw new Refusal(
        'lockedOut',
        'too many wrong words; sign in on a tablet of the house, or ask a manager to let you in again',
      )
    const waitS = Math.max(1, Math.ceil((inTheWay.freeAt.getTime() - now.getTime()) / 1000))
    throw new Refusal('tooMany', `wrong too often: wait ${secondsWords(waitS)}, then say it again`, { waitS })
  }
  return async () => {
    for (const { key, isShared } of turns) await (isShared ? takeTurnBack(db, key, now) : forgetTries(db, key))
  }
}
