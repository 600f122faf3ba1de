import { createHash, randomBytes, randomInt } from 'node:crypto'

/** What only the one device has: 256 bits. */
export const newToken = (): string => randomBytes(32).toString('base64url')

/** As a token is kept: it is long and random, so that nothing slow is needed. */
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex')

/** Without letters that are taken for another. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'
const CODE_LENGTH = 8

export const newDeviceCode = (): string =>
  Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('')

/** Syllables that one reads out and types without a doubt. */
const SYLLABLES = [
  ...'ba be bi bo da de di do fa fe fi fo ga ge go ka ke ki ko la le li lo ma me mi mo'.split(' '),
  ...'na ne ni no pa pe pi po ra re ri ro sa se si so ta te ti to va ve vi vo wa we wi'.split(' '),
]

/** A passphrase to begin with: four words of three syllables, 67 bits. */
export const newPassphrase = (): string =>
  Array.from({ length: 4 }, () =>
    Array.from({ length: 3 }, () => SYLLABLES[randomInt(SYLLABLES.length)]).join(''),
  ).join(' ')
