/** A drink at a well, in brief: what a menu, a list or a search shows of it, without curves. */

import { z } from 'zod'
import { consequenceSchema, predictionsSchema } from '../drink/resultSchema.ts'
import { standardSchema } from '../drink/schema.ts'
import { ALLERGENS } from '../schema/lists.ts'
import { slugSchema } from '../schema/primitives.ts'

export const keptGlassSchema = z.object({
  name: z.string(),
  /** The glass that it is served in here, by slug. */
  glass: slugSchema.optional(),
  /** The gear that its stages use here, by slug. */
  stations: z.array(slugSchema),
  predictions: predictionsSchema,
  standard: standardSchema,
  /** Of one serve, g. */
  alcoholG: z.number().optional(),
  serves: z.number(),
  allergens: z.array(z.enum(ALLERGENS)),
  /** What to stop or to mind for, worst first; the hours of what was pressed are not among them. */
  cautions: z.array(consequenceSchema),
  /** Juices in it with the moment when they were pressed: their hours are counted when it is read. */
  pressed: z.array(z.object({ name: z.string(), madeAt: z.string() })),
  /** What is poured here, for the amounts as written. */
  pours: z.array(
    z.object({
      slug: slugSchema.optional(),
      slot: slugSchema.optional(),
      name: z.string(),
      volumeMl: z.number(),
    }),
  ),
  /** Why it cannot be computed here; then there are no figures. */
  problems: z.array(z.object({ path: z.array(z.union([z.string(), z.number()])), message: z.string() })),
})
export type KeptGlass = z.infer<typeof keptGlassSchema>
