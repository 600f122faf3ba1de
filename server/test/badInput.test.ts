/** Bad input: a plain error that names the field, the value and what is allowed; never a 500. */

import type { Preview } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aDocument, openFresh, TestServer } from './testServer.ts'

let server: TestServer
beforeAll(async () => {
  server = new TestServer(await openFresh('pglite'))
  await server.setUp()
})
afterAll(() => server.database.close())

const pour = (changes: object) => ({ figures: { abvPct: 40 }, volumeMl: 60, ...changes })
const preview = (document: unknown) => server.send<Preview>('POST', '/api/preview', document)

describe('a drink document', () => {
  it.each<[string, object, string, string]>([
    [
      'unknown unit',
      { pours: [{ ingredient: 'aged-rum', amount: { value: 1, unit: 'hogshead' } }] },
      'pours.0.amount.unit',
      '“hogshead” is not one of ml, cl, oz, dash, drop, spray, barSpoon, tsp, tbsp, cup, count, part',
    ],
    [
      'negative amount',
      { pours: [{ ingredient: 'aged-rum', amount: { value: -2, unit: 'oz' } }] },
      'pours.0.amount.value',
      '-2 is too small; more than 0',
    ],
    ['over a litre', { pours: [pour({ volumeMl: 1500 })] }, 'pours.0.volumeMl', '1500 is too large; at most 1000'],
    [
      'over a litre in ounces',
      { pours: [{ ingredient: 'aged-rum', amount: { value: 50, unit: 'oz' } }] },
      'pours.0.amount.value',
      '50 oz is 1500 ml; a pour is more than 0 and at most 1000 ml',
    ],
    [
      'over 120 s',
      { stages: [{ method: 'stir', durationS: 300 }] },
      'stages.0.durationS',
      '300 is too large; at most 120',
    ],
    [
      'ABV over 100',
      { pours: [pour({ figures: { abvPct: 120 } })] },
      'pours.0.figures.abvPct',
      '120 is too large; at most 100',
    ],
    [
      'figures that contradict',
      { pours: [pour({ figures: { abvPct: 90, sugarGPer100Ml: 70 } })] },
      'pours.0.figures',
      '90 % ABV with 70 g sugar and 0 g acid in 100 ml do not fit into 100 ml',
    ],
    [
      'no vessel',
      {
        glass: undefined,
        glassProfile: [
          { heightMm: 0, radiusMm: 30 },
          { heightMm: 0, radiusMm: 30 },
        ],
      },
      'glassProfile',
      'heights must rise: point 2 is at 0 mm after 0 mm',
    ],
    [
      'missing reference',
      { glass: 'bucket' },
      'glass',
      'there is no glass “bucket”; the house has tall, double-short, stemmed',
    ],
    [
      'ice hotter than ice',
      { stages: [{ method: 'stir', parameters: { iceTemperatureC: 5 } }] },
      'stages.0.parameters.iceTemperatureC',
      '5 is too large; at most 0',
    ],
    ['text for a number', { pours: [pour({ volumeMl: 'sixty' })] }, 'pours.0.volumeMl', '“sixty” must be a number'],
    ['nothing to pour', { pours: [] }, 'pours', 'a drink needs a pour'],
    [
      'both or neither',
      { pours: [{ volumeMl: 20 }] },
      'pours.0.ingredient',
      'name an ingredient or a slot of the house, or give figures of its own: one of the three',
    ],
    ['a field nobody knows', { shaken: true }, '', 'has fields nobody knows: shaken'],
    ['no name', { name: undefined }, 'name', 'is missing; a text is needed'],
    [
      'NUL in the text',
      { note: 'a\u0000b' },
      'note',
      'holds a character that cannot be stored (NUL or half a surrogate pair)',
    ],
  ])('%s', async (_what, changes, field, message) => {
    const answer = await preview({ ...aDocument(), ...changes })
    expect(answer.status).toBe(422)
    expect(answer.problem.fields).toContainEqual({ field, message })
  })

  it('lists all that is wrong at once', async () => {
    const answer = await preview({ ...aDocument(), serves: 0, stages: [{ method: 'juggle' }] })
    expect(answer.problem.fields?.map((f) => f.field).sort()).toEqual(['serves', 'stages.0.method'])
  })

  it('does not save half of anything', async () => {
    const before = (await server.get('/api/drinks')).body
    await server.send('POST', '/api/drinks', { name: 'Half', document: { ...aDocument(), serves: -1 } })
    expect((await server.get('/api/drinks')).body).toEqual(before)
  })
})

describe('a request', () => {
  it.each<[string, () => Promise<{ status: number; problem: { code: string } }>, number, string]>([
    ['malformed JSON', () => preview('{"name": '), 400, 'malformedJson'],
    ['over 1 MB', () => preview(JSON.stringify({ name: 'x'.repeat(1_100_000) })), 413, 'tooLarge'],
    [
      'no content type',
      () => server.send('POST', '/api/preview', '{}', { 'content-type': 'text/plain' }),
      415,
      'wrongType',
    ],
    ['not an object', () => preview('[]'), 422, 'invalid'],
    ['nested without end', () => preview(`${'['.repeat(5000)}${']'.repeat(5000)}`), 422, 'invalid'],
    ['an id that does not exist', () => server.get('/api/drinks/nobody'), 404, 'notFound'],
    ['an id that cannot be', () => server.get('/api/drinks/..%2F..%00'), 404, 'notFound'],
    ['an edition beyond counting', () => server.get('/api/editions/99999999999999999999'), 404, 'notFound'],
    ['an edition that is no number', () => server.get('/api/editions/last'), 404, 'notFound'],
    ['an unknown address', () => server.get('/api/nothing'), 404, 'notFound'],
    ['a sign-in that is none', () => server.get('/api/drinks', { cookie: 'conch=77' }), 401, 'nobody'],
    ['another than the page believes', () => server.get('/api/drinks', { 'conch-person': '77' }), 401, 'nobody'],
    ['nobody', () => server.get('/api/drinks', { as: '' }), 401, 'nobody'],
    ['another machine’s name', () => server.get('/api/drinks', { host: 'conch.example' }), 421, 'wrongHost'],
    [
      'a write from another page',
      () => server.send('POST', '/api/drinks', { name: 'X' }, { origin: 'http://conch.example' }),
      421,
      'wrongHost',
    ],
    ['a draft of nothing', () => server.saveDraft('nobody', aDocument(), 0), 404, 'notFound'],
    ['a version of no draft', () => server.saveVersion('nobody', 1), 404, 'notFound'],
  ])('%s', async (_what, send, status, code) => {
    expect(await send()).toMatchObject({ status, problem: { code, status } })
  })

  it('is answered by a problem document', async () => {
    const { problem } = await server.get('/api/drinks/nobody')
    expect(problem).toEqual({
      type: 'urn:lazy-conch:problem:notFound',
      title: 'There is no such thing here',
      status: 404,
      detail: 'there is no drink “nobody”',
      code: 'notFound',
    })
  })
})

describe('the preview', () => {
  it('computes a drink that brings all its own figures and parameters', async () => {
    const answer = await preview({
      name: 'Bare',
      startTemperatureC: 20,
      pours: [
        { figures: { abvPct: 40 }, volumeMl: 60 },
        { figures: { sugarGPer100Ml: 1.5, acidGPer100Ml: 6 }, volumeMl: 25 },
      ],
      stages: [
        {
          parameters: {
            iceG: 180,
            iceTemperatureC: -1,
            surfaceWaterFraction: 0.03,
            uaWPerK: 120,
            stirringPowerW: 15,
            vesselJPerK: 150,
            vesselTemperatureC: 20,
            durationS: 12,
            roomTemperatureC: 21,
            leakWPerK: 0,
          },
        },
      ],
    })
    expect(answer.status).toBe(200)
    const { beforeIce, stages } = answer.body.result
    const after = stages[0]?.atEnd
    expect(beforeIce).toMatchObject({ temperatureC: 20, meltG: 0, iceLeftG: 0 })
    expect(after?.surfaceWaterG).toBeCloseTo(5.4, 9)
    expect((after?.iceLeftG ?? 0) + (after?.meltG ?? 0)).toBeCloseTo(180 - 5.4, 6)
    expect(after?.massG).toBeCloseTo(beforeIce.massG + 5.4 + (after?.meltG ?? 0), 6)
    expect(after?.dilutionFraction).toBeCloseTo((5.4 + (after?.meltG ?? 0)) / beforeIce.volumeMl, 9)
  })

  it('works before a house is set up', async () => {
    const bare = new TestServer(await openFresh('pglite'))
    const body = { name: 'Bare', pours: [{ figures: { abvPct: 40 }, volumeMl: 60 }] }
    expect((await bare.send('POST', '/api/preview', body)).status).toBe(200)
    await bare.database.close()
  })

  it('is described with the rest of the API', async () => {
    const { body } = await server.get<{ openapi: string; paths: Record<string, object> }>('/api/openapi.json')
    expect(body.openapi).toBe('3.1.0')
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(['/api/preview', '/api/editions/{number}', '/api/drinks/{slug}/draft']),
    )
    expect((await server.get<{ properties: object }>('/api/schemas/drink.json')).body.properties).toHaveProperty(
      'pours',
    )
  })
})
