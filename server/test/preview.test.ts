/** What cannot be computed is refused by stage and limit; what can is a number within what is possible. */

import type { DrinkResult } from '@conch/core/drink'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openFresh, TestServer } from './testServer.ts'

interface Figures {
  volumeMl: number
  abvPct: number
  sugarGPer100Ml?: number
  acidGPer100Ml?: number
}
const pour = ({ volumeMl, ...figures }: Figures) => ({ volumeMl, figures: { name: 'liquid', ...figures } })
const ALONE = {
  iceTemperatureC: -1,
  surfaceWaterFraction: 0.03,
  uaWPerK: 210,
  stirringPowerW: 15,
  vesselJPerK: 150,
  vesselTemperatureC: 20,
  roomTemperatureC: 20,
  leakWPerK: 0.5,
}
const document = (figures: Figures, stages: object[], more: object = {}) => ({
  name: 'Trial Pour',
  pours: [pour(figures)],
  stages,
  ...more,
})

describe('a preview', () => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh('pglite'))
    await server.setUp()
  })
  afterAll(() => server.database.close())
  const preview = (body: object) => server.send<{ result: DrinkResult }>('POST', '/api/preview', body)

  it.each([
    [
      'hardly any ice in a strong syrup',
      { volumeMl: 50, abvPct: 55, sugarGPer100Ml: 60 },
      { iceG: 1 },
      0,
      /too strong or too sweet.*−45/,
    ],
    [
      'a stir beyond boiling',
      { volumeMl: 60, abvPct: 20 },
      { iceG: 0, stirringPowerW: 2000, durationS: 120, vesselJPerK: 0 },
      0,
      /95 °C/,
    ],
    ['overproof on ice', { volumeMl: 60, abvPct: 80 }, { iceG: 150, surfaceWaterFraction: 0 }, 0, /−45 °C/],
    [
      'very cold ice in a little water',
      { volumeMl: 2, abvPct: 0 },
      { iceG: 2000, iceTemperatureC: -40, surfaceWaterFraction: 0, durationS: 60 },
      0,
      /freezes solid/,
    ],
  ] as const)('%s is refused by its stage, with the limit', async (_, figures, parameters, stage, words) => {
    const { status, problem } = await preview(
      document(figures, [{ parameters: { ...ALONE, durationS: 12, ...parameters } }]),
    )
    expect(status).toBe(422)
    expect(problem.fields?.[0]?.field).toBe(`stages.${stage}`)
    expect(problem.fields?.[0]?.message).toMatch(words)
  })

  it('a little ice in a syrup melts, and is never more than it was', async () => {
    for (const sugarGPer100Ml of [40, 62, 90]) {
      const stage = { parameters: { ...ALONE, iceG: 1, durationS: 60 } }
      const { status, body } = await preview(document({ volumeMl: 60, abvPct: 0, sugarGPer100Ml }, [stage]))
      expect(status).toBe(200)
      expect(body.result.stages[0]?.atEnd.iceLeftG).toBe(0)
      expect(body.result.stages[0]?.atEnd.temperatureC).toBeLessThan(25)
    }
  })

  it('the same liquid without stages is answered, and a freezing point below −45 °C is said as such', async () => {
    const { status, body } = await preview(document({ volumeMl: 60, abvPct: 80 }, []))
    expect(status).toBe(200)
    expect(body.result.beforeIce.abvPct).toBeCloseTo(80, 6)
    expect(body.result.beforeIce.freezingPointC).toBeNull()
  })

  it('ice is given by kind, and a named parameter still overrides it alone', async () => {
    const drink = { volumeMl: 105, abvPct: 24, sugarGPer100Ml: 9, acidGPer100Ml: 1.3 }
    const stage = (parameters: object, ice: object[]) => ({ method: 'hardShake', durationS: 12, ice, parameters })
    const cubes = [{ kind: 'machineCube', massG: 180 }]
    const { iceTemperatureC: _, surfaceWaterFraction: __, ...gear } = ALONE
    const at = async (parameters: object, ice = cubes) =>
      (await preview(document(drink, [stage({ ...gear, ...parameters }, ice)], { startTemperatureC: 20 }))).body.result
    const plain = (await at({})).stages[0]?.atEnd
    // As worked out by hand for these very figures.
    expect(plain?.meltTotalG).toBeDefined()
    expect((plain?.meltG ?? 0) + (plain?.surfaceWaterG ?? 0)).toBeCloseTo(54.4, 1)
    expect(plain?.temperatureC).toBeCloseTo(-3.95, 2)
    expect(plain?.freezingPointC).toBeCloseTo(-6.84, 2)
    expect((await at({ surfaceWaterFraction: 0 })).stages[0]?.atEnd.surfaceWaterG).toBe(0)
    expect((await at({ iceTemperatureC: -15 })).stages[0]?.atEnd.temperatureC).toBeLessThan(
      (plain?.temperatureC ?? 0) - 0.3,
    )
    const mixed = await at({}, [...cubes, { kind: 'crushed', massG: 40 }])
    expect(mixed.stages[0]?.parameters.iceG).toBe(220)
  })

  it('whatever the form allows comes to numbers or to a refusal that names a field', async () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const stage = fc.record({
      parameters: fc.record({
        iceG: number(0, 2000),
        iceTemperatureC: number(-40, 0),
        surfaceWaterFraction: number(0, 0.5),
        uaWPerK: number(0, 2000),
        stirringPowerW: number(0, 2000),
        vesselJPerK: number(0, 5000),
        vesselTemperatureC: number(-40, 60),
        durationS: number(0, 120),
        roomTemperatureC: number(-20, 50),
        leakWPerK: number(0, 50),
      }),
      pour: fc.constantFrom('open', 'gated', 'strained', 'doubleStrained'),
    })
    const liquid = fc.record({
      volumeMl: number(1, 500),
      abvPct: number(0, 100),
      sugarGPer100Ml: number(0, 80),
      acidGPer100Ml: number(0, 20),
    })
    let answered = 0
    await fc.assert(
      fc.asyncProperty(liquid, fc.array(stage, { minLength: 0, maxLength: 2 }), async (figures, stages) => {
        const { status, body, problem } = await preview(document(figures, stages))
        expect([200, 422]).toContain(status)
        if (status === 422) {
          expect(problem.fields?.[0]?.field).toMatch(/\S/)
          return
        }
        answered += 1
        const text = JSON.stringify(body.result)
        for (const { atEnd } of body.result.stages) {
          expect(atEnd.massG).toBeGreaterThan(0)
          expect(atEnd.temperatureC).toBeGreaterThan(-60)
          expect(atEnd.temperatureC).toBeLessThanOrEqual(95.001)
          expect(atEnd.iceLeftG).toBeGreaterThanOrEqual(0)
        }
        // Only a freezing point may be null.
        expect(text.replaceAll('"freezingPointC":null', '')).not.toMatch(/null|NaN/)
      }),
      { numRuns: 150 },
    )
    expect(answered).toBeGreaterThan(20)
  })
})
