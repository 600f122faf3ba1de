import { addTrialEventSchema, addTrialSchema, calibrateRequestSchema, trialsSchema } from '@conch/contract'
import { calibrationSchema, trialSchema } from '@conch/core/calibration/trialSchema'
import { z } from 'zod'
import { route, writeRoute } from '../../http/route.ts'
import { addTrial, addTrialEvent, calibrateStation, listTrials } from './trialUseCases.ts'

export const trialRoutes = [
  route({
    method: 'get',
    path: '/api/trials',
    summary: 'The newest measured makings, and what was made of them',
    act: 'read',
    response: trialsSchema,
    keep: { reads: ['trial', 'station'] },
    handle: ({ actor, services }) => listTrials(services.database.db, actor),
  }),
  writeRoute({
    method: 'post',
    path: '/api/trials',
    summary: 'Write down a measured making',
    act: 'logTrial',
    doing: 'write down a trial',
    body: addTrialSchema,
    response: trialSchema,
    status: 201,
    handle: ({ body, actor, write }) => addTrial(body, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/trials/{id}/events',
    summary: 'Leave a trial out, with a reason, or take it in again',
    act: 'logTrial',
    doing: 'judge a trial',
    params: z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) }),
    body: addTrialEventSchema,
    response: trialSchema,
    handle: ({ body, params, actor, write }) => addTrialEvent(params.id, body.event, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/calibrations',
    summary: 'Fit a station with one ice to its trials',
    act: 'logTrial',
    doing: 'calibrate a station',
    body: calibrateRequestSchema,
    response: calibrationSchema,
    status: 201,
    handle: ({ body, actor, write }) => calibrateStation(body, actor, write),
  }),
]
