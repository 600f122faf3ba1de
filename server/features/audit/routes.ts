import { type AuditQuery, auditPageSchema, auditQuery, changesOf, doingSchema, sayEvent } from '@conch/contract'
import { clockOf, dayAfter, momentText, startOfNight } from '@conch/core/calendar'
import Papa from 'papaparse'
import { z } from 'zod'
import type { HeldHouse } from '../../held/index.ts'
import { fileRoute, route } from '../../http/route.ts'
import { type AuditAsked, loadAudit, loadDoings, loadHead } from '../../stores/audit.ts'

const ON_A_PAGE = 100
const MOST_IN_A_TABLE = 50_000
const MOST_DOINGS = 100

const clockIn = ({ base }: HeldHouse) => clockOf(base?.settings ?? {})

/** Nights as the house counts them. */
function askedOf({ from, to, ...query }: AuditQuery, held: HeldHouse): AuditAsked {
  const clock = clockIn(held)
  return {
    ...query,
    ...(from ? { from: startOfNight(from, clock) } : {}),
    ...(to ? { until: startOfNight(dayAfter(to, 1), clock) } : {}),
  }
}

const namesIn = ({ people }: HeldHouse) => new Map(people.map((p) => [String(p.id), p.name]))

export const auditRoutes = [
  route({
    method: 'get',
    path: '/api/audit',
    summary: `Who did what, the newest first, ${ON_A_PAGE} at a time`,
    act: 'readAudit',
    doing: 'read the audit',
    query: auditQuery,
    response: auditPageSchema,
    handle: async ({ query, services }) => {
      const { db } = services.database
      const asked = askedOf(query, await services.held.now())
      const entries = await loadAudit(db, asked, ON_A_PAGE)
      const last = entries.at(-1)?.sequence ?? null
      return {
        entries,
        next: entries.length === ON_A_PAGE && last !== null && last > 1 ? last : null,
        head: await loadHead(db),
      }
    },
  }),
  fileRoute({
    path: '/api/audit.csv',
    summary: 'Who did what, as a table',
    act: 'readAudit',
    doing: 'read the audit',
    contentType: 'text/csv; charset=utf-8',
    query: auditQuery,
    handle: async ({ query, services }) => {
      const held = await services.held.now()
      const names = namesIn(held)
      const clock = clockIn(held)
      const entries = await loadAudit(services.database.db, askedOf(query, held), MOST_IN_A_TABLE)
      const rows = entries.map((e) => ({
        number: e.sequence ?? '',
        when: momentText(e.at, clock),
        instant: e.at,
        who: e.by,
        what: sayEvent(e, names),
        changes: changesOf(e, clock).join('\n'),
      }))
      // A cell that begins like a formula is not one.
      return { name: 'who-did-what.csv', content: Papa.unparse(rows, { escapeFormulae: true }) }
    },
  }),
  route({
    method: 'get',
    path: '/api/own-doings',
    summary: 'What one did oneself, the newest first',
    act: 'keepOwn',
    doing: 'see what one did',
    response: z.array(doingSchema),
    handle: ({ actor, services }) => loadDoings(services.database.db, actor.id ?? 0, MOST_DOINGS),
  }),
]
