/** The recipe of a house mix, as the house writes it. */

import { z } from 'zod'
import { keysOf, slugSchema, textSchema } from './primitives.ts'
import { RANGES, wholeWithin, within } from './ranges.ts'
import { RECIPE_MEASURES } from './recipeMeasures.ts'

export const componentSchema = z
  .object({
    ingredient: slugSchema,
    /** g, ml or parts, as the recipe's measure says. */
    amount: z.number().min(0).max(100_000),
    /** How much of its mass stays in the mix, 0 to 1; the rest is strained out. Left out: all of it. */
    staysFraction: z.number().min(0).max(1).optional(),
    note: textSchema(200).optional(),
    /** Of a sealed recipe: the letter that stands for it, for ever. */
    letter: z
      .string()
      .regex(/^[A-Z]$/, 'one capital letter')
      .optional(),
  })
  .strict()

export const stepSchema = z
  .object({
    text: textSchema(300).min(1, 'say what is done'),
    temperatureC: within(RANGES.stepC).optional(),
    minutes: within(RANGES.stepMinutes).optional(),
  })
  .strict()

export const recipeSchema = z
  .object({
    by: z.enum(keysOf(RECIPE_MEASURES)),
    components: z.array(componentSchema).min(1, 'a recipe needs a component').max(24),
    steps: z.array(stepSchema).max(24).optional(),
    /** Boiled down to this weight, for the amounts as written (parts: 100 g or 100 ml each), g. */
    reduceToG: z.number().positive().max(RANGES.batchG.high).optional(),
    /** What stays in pan and sieve, of the mass, 0 to 0.9. */
    lossFraction: within(RANGES.lossFraction).optional(),
    /** Fat that separates: warmed to combine, stirred again before every pour. */
    isEmulsion: z.boolean().optional(),
    /** The days that the house gives it; what is fresh in it may shorten them. */
    keepsDays: wholeWithin(RANGES.mixKeepsDays).optional(),
    /** The house's own decision about the days, against what is fresh in it. */
    keepsDecision: z
      .object({
        days: wholeWithin(RANGES.mixKeepsDays),
        reason: textSchema(300).min(3, 'say in a few words why'),
        by: textSchema(80),
        on: z.iso.date(),
      })
      .strict()
      .optional(),
  })
  .strict()
  .superRefine((recipe, ctx) => {
    if (recipe.components.length > 0 && recipe.components.every((c) => c.amount === 0))
      ctx.addIssue({ code: 'custom', path: ['components'], message: 'the amounts add up to 0; at least one is more' })
    const seen = new Set<string>()
    recipe.components.forEach((c, i) => {
      if (seen.has(c.ingredient))
        ctx.addIssue({
          code: 'custom',
          path: ['components', i, 'ingredient'],
          message: `“${c.ingredient}” is there twice; write one amount`,
        })
      seen.add(c.ingredient)
    })
  })

export type Recipe = z.infer<typeof recipeSchema>
export type RecipeComponent = z.infer<typeof componentSchema>
