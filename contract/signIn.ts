/** Signing in: secrets, sessions, devices. */

import { nameSchema, slugSchema } from '@conch/core/house/schema'
import { z } from 'zod'
import { roleSchema } from './people.ts'
import type { Role } from './roles.ts'

export const PIN_DIGITS = 4
export const LEAST_PASSPHRASE = 10
const MOST_SECRET = 200

/** Managers open everything: theirs is a sentence; the bar's is tapped with wet hands. */
export const secretKindOf = (role: Role): 'passphrase' | 'pin' => (role === 'manager' ? 'passphrase' : 'pin')

const isRun = (digits: string) => {
  const steps = new Set([...digits].slice(1).map((d, i) => Number(d) - Number(digits[i])))
  return steps.size === 1 && [0, 1, -1].includes([...steps][0] ?? 9)
}

/** What is wrong with a secret for a role, in words; undefined where nothing is. @param name whose it is */
export function secretProblem(secret: string, role: Role, name: string): string | undefined {
  if (secretKindOf(role) === 'pin') {
    if (!/^\d{4}$/.test(secret)) return `a PIN has ${PIN_DIGITS} digits`
    if (isRun(secret)) return 'everybody tries that one first; choose digits that do not run'
    return undefined
  }
  if ([...secret].length < LEAST_PASSPHRASE) return `a passphrase has at least ${LEAST_PASSPHRASE} letters`
  if (secret.trim().toLowerCase() === name.trim().toLowerCase()) return 'a passphrase is not one’s own name'
  if (new Set(secret).size < 5) return 'it says the same letters over and over; write a sentence'
  return undefined
}

/** As it comes in: what is wrong with it is said where the role is known. */
const secretSchema = z.string().min(1, 'say it').max(MOST_SECRET)

export const signInRequestSchema = z.strictObject({ name: nameSchema, secret: secretSchema })
export const ownSecretSchema = z.strictObject({ old: secretSchema, secret: secretSchema })
export const firstSecretSchema = z.strictObject({ secret: secretSchema })
export const claimHouseSchema = z.strictObject({ importId: z.uuid(), name: nameSchema, secret: secretSchema })
/** Of one's own sessions alone, or of somebody's, which a manager may. */
export const endSessionsSchema = z.strictObject({ personId: z.number().int().min(1).optional() })

export const youSchema = z.object({
  id: z.number().int(),
  name: nameSchema,
  role: roleSchema,
  /** Somebody else chose the secret: one's own is due. */
  mustChange: z.boolean(),
})
export type You = z.infer<typeof youSchema>

/** A device of the house: one that a manager enrolled. */
export const deviceSchema = z.object({
  id: z.number().int(),
  name: nameSchema,
  well: slugSchema.nullable(),
  enrolledBy: z.string(),
  enrolledAt: z.string(),
  revision: z.number().int(),
})
export type Device = z.infer<typeof deviceSchema>

/** Letters that one reads from a screen in the dark and types once. */
export const DEVICE_CODE = /^[A-HJ-NP-Z2-9]{8}$/
export const enrolDeviceSchema = z.strictObject({
  code: z
    .string()
    .max(20)
    .transform((c) => c.toUpperCase().replace(/[\s-]/g, ''))
    .pipe(z.string().regex(DEVICE_CODE, 'is 8 letters and digits, as a manager’s screen shows them')),
})
/** What a device will be, said by a manager; then it gets a code. */
export const deviceToComeSchema = z.strictObject({ name: nameSchema, well: slugSchema.nullable() })
export const deviceCodeSchema = z.object({ code: z.string(), until: z.string() })
export const changeDeviceSchema = z.strictObject({
  name: nameSchema,
  well: slugSchema.nullable(),
  revision: z.number().int().min(1),
})

/** How one signs in at this device. */
export const signInStateSchema = z.object({
  /** What the house is called. */
  house: z.string(),
  isDemo: z.boolean(),
  /** Whether anybody could open the house. */
  hasManager: z.boolean(),
  device: deviceSchema.pick({ id: true, name: true, well: true }).nullable(),
  you: youSchema.extend({ isLocked: z.boolean() }).nullable(),
  /** Who works here: on a device of the house alone. Elsewhere one types one's name. */
  people: z
    .array(z.object({ id: z.number().int(), name: nameSchema, role: roleSchema, shown: z.string().nullable() }))
    .nullable(),
  /** Whether this page came by a line that nobody else can read. */
  isSecure: z.boolean(),
})
export type SignInState = z.infer<typeof signInStateSchema>

/** How somebody signs in, for whoever answers for people. */
export const personSignInSchema = z.object({
  personId: z.number().int(),
  hasSecret: z.boolean(),
  mustChange: z.boolean(),
  /** Wrong words since the last right one. */
  wrongTries: z.number().int(),
  /** No device but those of the house lets them in, until a manager says so. */
  isLockedOut: z.boolean(),
  sessions: z.array(z.object({ device: z.string().nullable(), since: z.string() })),
})
export type PersonSignIn = z.infer<typeof personSignInSchema>
export const done = z.object({ done: z.literal(true) })
