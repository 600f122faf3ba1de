/** Who works at this device of the house, by name, for when nobody can be asked. Never a word with which they come in. */

import { ROLES, type SignInState } from '@conch/contract'
import { keysOf } from '@conch/core/schema/keysOf'
import { useEffect } from 'react'
import { z } from 'zod'
import { readStored, writeStored } from '../../app/stored.ts'

const KEY = 'conch:names'
const namesSchema = z.array(z.object({ id: z.number(), name: z.string(), role: z.enum(keysOf(ROLES)) }))

/** Only on a device of the house: elsewhere it shows nobody's name. */
export function useKeepNames(state: SignInState | undefined): void {
  const people = state?.people
  useEffect(() => {
    if (people === undefined) return
    writeStored(
      KEY,
      people?.filter((p) => p.role !== 'viewer').map(({ id, name, role }) => ({ id, name, role })),
    )
  }, [people])
}

export const readNames = () => readStored(KEY, namesSchema) ?? []
