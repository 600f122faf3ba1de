/** Passphrases and PINs: hashed slowly with argon2id, two at a time, and compared without a hint. */

import { hash, verify } from '@node-rs/argon2'
import { Refusal } from '../errors/Refusal.ts'

/** 64 MiB and two passes: about a tenth of a second. */
const COST = { memoryCost: 65_536, timeCost: 2, parallelism: 1 } as const
/** Each takes 64 MiB and one of the four threads that files are read by, too. */
const MOST_AT_ONCE = 2
const MOST_WAITING = 40

let running = 0
const waiting: (() => void)[] = []

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= MOST_AT_ONCE) {
    if (waiting.length >= MOST_WAITING)
      throw new Refusal('tooMany', 'too many sign in at the same moment; try again in a moment', { waitS: 2 })
    // Whoever ends hands its place on.
    await new Promise<void>((resolve) => waiting.push(resolve))
  } else running += 1
  try {
    return await work()
  } finally {
    const next = waiting.shift()
    if (next) next()
    else running -= 1
  }
}

/** As one typed it, whatever keyboard wrote the letters. */
const plain = (secret: string) => secret.normalize('NFKC')

export const hashSecret = (secret: string): Promise<string> => inTurn(() => hash(plain(secret), COST))

/** What is compared with where nobody has that name: it takes as long. */
let nobodys: Promise<string> | undefined

/** @param stored undefined for nobody: never right, and no quicker */
export async function isSecret(stored: string | undefined, secret: string): Promise<boolean> {
  nobodys ??= hashSecret('nobody is called that')
  const against = stored ?? (await nobodys)
  const isRight = await inTurn(() => verify(against, plain(secret)))
  return isRight && stored !== undefined
}
