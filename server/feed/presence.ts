/** Who has which draft open. Nobody keeps it: a page says so again and again, and is forgotten when it does not. */

import { hereSchema, type Present } from '@conch/contract'
import { z } from 'zod'

/** A page says it every twenty seconds. */
const KEPT_MS = 50_000
const MOST = 500

const saidSchema = hereSchema.extend({ person: z.number(), who: z.string() })
export type Said = z.infer<typeof saidSchema>
type Here = Omit<Said, 'on'> & { on: string; until: number }

export class Presence {
  /** Another one for each state. */
  version = 0
  private readonly pages = new Map<string, Here>()
  private readonly now: () => Date
  private readonly onChange: () => void

  constructor(now: () => Date, onChange: () => void) {
    this.now = now
    this.onChange = onChange
  }

  /** A page has a draft open; null: it has none any more. Only who said it before speaks for a page. */
  say({ page, person, who, on }: Said): void {
    const before = this.pages.get(page)
    if (before && before.person !== person) return
    if (on === null) {
      if (this.pages.delete(page)) this.changed()
      return
    }
    if (!before && this.pages.size >= MOST) return
    this.pages.set(page, { page, person, who, on, until: this.now().getTime() + KEPT_MS })
    if (before?.on !== on || before.who !== who) this.changed()
  }

  /** What another process was told. */
  hear(said: unknown): void {
    const { data } = saidSchema.safeParse(said)
    if (data) this.say(data)
  }

  forgetOld(): void {
    const now = this.now().getTime()
    const old = [...this.pages.values()].filter((h) => h.until < now)
    for (const { page } of old) this.pages.delete(page)
    if (old.length > 0) this.changed()
  }

  all(): Present {
    return [...this.pages.values()].map(({ page, who, on }) => ({ page, who, on }))
  }

  private changed(): void {
    this.version += 1
    this.onChange()
  }
}
