import { z } from 'zod'
import { isTimeZone } from './nights.ts'

export const clockSchema = z
  .object({
    timeZone: z.string().max(60).refine(isTimeZone, 'is no time zone; name one like Europe/Lisbon or America/New_York'),
    dayTurnsAtHour: z.number().int().min(0).max(12),
  })
  .strict()
