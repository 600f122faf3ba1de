import { readStored, textSchema, writeStored } from './stored.ts'

const WELL_KEY = 'conch:well'

/** The well that this device was last at. */
export const storedWell = (): string | undefined => readStored(WELL_KEY, textSchema)

export const setStoredWell = (slug: string): void => writeStored(WELL_KEY, slug)
