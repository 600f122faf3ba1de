import { toSlug } from '@conch/core/house'
import { z } from 'zod'

/** What something new is called: its address is made of that. @param unnamed what is said where nothing is written */
export const nameForNew = (unnamed = 'Give it a name.') =>
  z
    .string()
    .trim()
    .min(1, unnamed)
    .refine((name) => name === '' || toSlug(name) !== '', 'A name needs a letter from a to z, or a digit.')
