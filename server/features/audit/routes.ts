import { auditEntrySchema } from '@conch/contract'
import { z } from 'zod'
import { route } from '../../http/route.ts'
import { loadAudit } from '../../stores/audit.ts'

const MOST_ENTRIES = 200

export const auditRoutes = [
  route({
    method: 'get',
    path: '/api/audit',
    summary: `The newest ${MOST_ENTRIES} entries of the audit`,
    act: 'readAudit',
    doing: 'read the audit',
    response: z.array(auditEntrySchema),
    handle: ({ services }) => loadAudit(services.database.db, MOST_ENTRIES),
  }),
]
