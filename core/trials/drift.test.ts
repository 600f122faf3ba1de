import { describe, expect, it } from 'vitest'
import type { CalibrationDocument, StoredCalibration, Trial } from '../calibration/index.ts'
import { resolveDrink, standardFrom } from '../drink/index.ts'
import type { HouseBook, Well } from '../house/index.ts'
import { made, testDrink, testHouse } from '../testing/house.ts'
import {
  calibrationFrom,
  figuresCountedOn,
  leaversOf,
  newestCalibration,
  type StationKey,
  standingCalibrations,
  type TrialRequest,
  trialsSince,
  writeTrial,
} from './index.ts'

const KEY: StationKey = { well: 'front', station: 'mixer', ice: 'crushed' }
const house = testHouse()
const front = house.wells[0] as Well

function trial(id: number, changes: Partial<TrialRequest> = {}, on = '2026-03-01'): Trial {
  const written = writeTrial(
    {
      well: 'front',
      station: 'mixer',
      figures: { abvPct: 22, sugarGPer100Ml: 8, acidGPer100Ml: 1 },
      liquidBeforeG: 110,
      ice: [{ kind: 'crushed', massG: 150 }],
      durationS: 4,
      afterG: 155,
      ...changes,
    },
    house,
    undefined,
  )
  if (!written.ok) throw new Error(JSON.stringify(written.problems))
  return { id, well: 'front', station: 'mixer', on, by: 'Ada', document: written.document, events: [] }
}

function stored(id: number, trials: Trial[], key: StationKey = KEY): StoredCalibration {
  const mixer = front.stations.find((s) => s.slug === 'mixer')
  if (!mixer) throw new Error('no mixer')
  const made = calibrationFrom(trials, front, mixer, key.ice)
  if (!made.ok) throw new Error(made.reason)
  return { id, ...key, savedBy: 'Ada', savedAt: '2026-03-02T12:00:00.000Z', document: made.document }
}

const bookWith = (calibrations: StoredCalibration[], trials: Trial[]): HouseBook => ({
  ...house,
  calibrations: standingCalibrations(calibrations, trials, house.wells),
})

describe('a trial written down', () => {
  it('keeps the liquid to the gram, what was measured, and what stood for what was not', () => {
    const { document } = trial(1, { beforeC: 17, speed: undefined })
    expect(Object.values(document.liquid).reduce((a, b) => a + b, 0)).toBeCloseTo(110, 9)
    expect(document.beforeC).toEqual({ value: 17, basis: 'measured' })
    expect(document.roomC).toEqual({ value: front.roomTemperatureC, basis: 'assumed' })
    expect(document.vesselC.basis).toBe('assumed')
    expect(document.gear).toEqual({ vesselJPerK: 150, leakWPerK: 0.5, uaTimes: 1, powerTimes: 1 })
  })

  it.each([
    [{ station: 'no-such' }, 'station'],
    [{ well: 'no-such' }, 'well'],
    [{ speed: 'eleven' }, 'speed'],
    [{ ice: [] }, 'ice'],
    [{ figures: undefined }, 'drink'],
    [{ figures: { abvPct: 95, sugarGPer100Ml: 90, acidGPer100Ml: 0 } }, 'figures'],
  ])('with %o says which field', (changes, field) => {
    const request = {
      ...KEY,
      liquidBeforeG: 110,
      durationS: 4,
      afterG: 150,
      figures: { abvPct: 20, sugarGPer100Ml: 0, acidGPer100Ml: 0 },
    }
    const ice = [{ kind: 'crushed' as const, massG: 150 }]
    const written = writeTrial({ ...request, ice, ...changes }, house, undefined)
    expect(written.ok ? [] : written.problems.map((p) => p.field)).toContain(field)
  })
})

describe('what a station is counted on', () => {
  const early = [trial(1), trial(2, { durationS: 6, afterG: 160 })]
  const late = [trial(3, { afterG: 178 }), trial(4, { durationS: 6, afterG: 185 })]

  it('is what is known without trials, until some are counted', () => {
    expect(figuresCountedOn(house, KEY)).toMatchObject({
      uaWPerK: 300,
      surfaceWaterFraction: 0.08,
      stirringPowerW: 120,
    })
    const book = bookWith([stored(1, early)], early)
    expect(figuresCountedOn(book, KEY)?.uaWPerK).toBe(book.calibrations?.[0]?.uaWPerK.value)
    expect(figuresCountedOn(book, { ...KEY, station: 'no-such' })).toBeUndefined()
    // Of other ice these trials say nothing.
    expect(figuresCountedOn(book, { ...KEY, ice: 'machineCube' })?.uaWPerK).toBe(300)
  })

  it('is the newest calibration, whichever way round they lie', () => {
    const both = [stored(2, [...early, ...late]), stored(1, early)]
    expect(newestCalibration(both, KEY)?.id).toBe(2)
    expect(bookWith(both, early).calibrations).toHaveLength(1)
    expect(bookWith(both, early).calibrations?.[0]?.trials).toBe(4)
  })

  it('newer are the trials with later numbers, of the same day too, less those left out', () => {
    const all = [...early, ...late]
    const one = [stored(1, early)]
    expect(trialsSince(one, all, KEY).map((t) => t.id)).toEqual([3, 4])
    const out: Trial = {
      ...(late[0] as Trial),
      events: [{ at: '2026-03-03T10:00:00Z', by: 'Ada', event: { kind: 'excluded', reason: 'spilled' } }],
    }
    expect(trialsSince(one, [...early, out, late[1] as Trial], KEY).map((t) => t.id)).toEqual([4])
    expect(trialsSince([], all, KEY)).toHaveLength(4)
  })

  it('a station that is no longer there has none', () => {
    const wells = house.wells.map((w) => ({ ...w, stations: w.stations.filter((s) => s.slug !== 'mixer') }))
    expect(standingCalibrations([stored(1, early)], early, wells)).toEqual([])
  })
})

describe('drinks that leave their standard', () => {
  const trials = [trial(1), trial(2, { durationS: 6, afterG: 160 })]
  const book = bookWith([stored(1, trials)], trials)
  const wetter = { uaWPerK: 300, surfaceWaterFraction: 0.4, stirringPowerW: 120 }
  const held = (changes = {}) => {
    const plain = testDrink(changes)
    const resolution = resolveDrink(plain, book, 'front')
    if (!resolution.ok) throw new Error('problems')
    return { ...plain, standard: standardFrom(made(resolution.drink).predictions) }
  }

  it('are named with the measures that leave it', () => {
    const [leaver] = leaversOf([held()], book, KEY, wetter)
    expect(leaver).toMatchObject({
      name: 'Test Drink',
      measures: expect.arrayContaining(['dilutionPct', 'strengthPct']),
    })
    expect(leaversOf([held()], book, KEY, figuresCountedOn(book, KEY) as typeof wetter)).toEqual([])
  })

  it('are none of those made elsewhere, with other ice, or without a standard', () => {
    const stirred = held({ stages: [{ method: 'stir' }] })
    const onCubes = held({ stages: [{ method: 'flashBlend', ice: [{ kind: 'machineCube', massG: 150 }] }] })
    expect(leaversOf([stirred, onCubes, testDrink()], book, KEY, wetter)).toEqual([])
  })

  it('one that is out already does not leave again', () => {
    const out = { ...testDrink(), standard: { strengthPct: { low: 60, high: 62 } } }
    expect(leaversOf([out], book, KEY, wetter)).toEqual([])
  })
})

it('a calibration names its trials and its last day', () => {
  const trials = [trial(7, {}, '2026-02-11'), trial(5, { durationS: 7, afterG: 165 }, '2026-02-12')]
  const { document } = stored(1, trials)
  expect(document satisfies CalibrationDocument).toMatchObject({ trials: [7, 5], on: '2026-02-12' })
})
