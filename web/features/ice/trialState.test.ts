import type { HouseBook } from '@conch/core/house'
import { describe, expect, it } from 'vitest'
import { clockS, emptyTrial, provisionalRequest, type TrialInMaking, toTrialRequest, usualIceAt } from './trialState.ts'

const begun: TrialInMaking = { ...emptyTrial('hearth', 'mixer', ['crushed', 'machineCube']), drink: 'bell', version: 2 }

describe('a trial in the making', () => {
  it('says what is next, in the order in which it is done', () => {
    const steps: Partial<TrialInMaking>[] = [
      {},
      { liquidBeforeG: 110 },
      {
        ice: [
          { kind: 'crushed', massG: 120 },
          { kind: 'machineCube', massG: 40 },
        ],
      },
      { durationS: 4 },
    ]
    let now = begun
    const asked = steps.map((step) => {
      now = { ...now, ...step }
      const read = toTrialRequest(now)
      return read.ok ? 'done' : read.next
    })
    expect(asked).toEqual(['before', 'ice', 'work', 'after'])
    // One kind still to weigh is still to weigh.
    const half = {
      ...now,
      ice: [
        { kind: 'crushed' as const, massG: 120 },
        { kind: 'machineCube' as const, massG: undefined },
      ],
    }
    expect(toTrialRequest(half)).toEqual({ ok: false, next: 'ice' })
  })

  it('sends nothing that nobody measured', () => {
    const whole = toTrialRequest({
      ...begun,
      liquidBeforeG: 110,
      ice: [{ kind: 'crushed', massG: 120 }],
      durationS: 4,
      afterG: 160,
      afterC: -1,
      note: '  ',
    })
    expect(whole).toEqual({
      ok: true,
      request: {
        well: 'hearth',
        station: 'mixer',
        drink: 'bell',
        version: 2,
        liquidBeforeG: 110,
        ice: [{ kind: 'crushed', massG: 120 }],
        durationS: 4,
        afterG: 160,
        afterC: -1,
      },
    })
  })

  it('of a test liquid sends its figures; bursts and waiting only where there were any', () => {
    const all = { liquidBeforeG: 100, ice: [{ kind: 'pebble' as const, massG: 90 }], durationS: 5, afterG: 140 }
    const read = toTrialRequest({ ...begun, ...all, drink: '', bursts: 3, restS: 2, waitS: 20 })
    expect(read).toMatchObject({
      ok: true,
      request: { figures: { abvPct: 20 }, bursts: 3, restS: 2, waitS: 20 },
    })
    expect(read.ok && 'drink' in read.request).toBe(false)
  })

  it('reads a clock to a tenth of a second', () => {
    expect(clockS(1000, 5340)).toBe(4.3)
  })
})

describe('the ice that a station is worked with', () => {
  const book = {
    wells: [{ slug: 'yard', stations: [{ slug: 'mixer', method: 'flashBlend' }] }],
    calibrations: [{ well: 'yard', station: 'mixer', ice: 'pebble' }],
  } as unknown as HouseBook

  it('is what it was calibrated with, else its method’s', () => {
    expect(usualIceAt(book, 'yard', 'mixer')).toEqual(['pebble', 'machineCube'])
    expect(usualIceAt({ ...book, calibrations: [] }, 'yard', 'mixer')).toEqual(['crushed', 'machineCube'])
    expect(usualIceAt(book, 'yard', 'no-such')).toEqual(['crushed'])
  })
})

describe('a trial that is not done yet', () => {
  it('can be judged as far as it is made', () => {
    const half = provisionalRequest({ ...begun, liquidBeforeG: 110, beforeC: 17 })
    expect(half).toMatchObject({ drink: 'bell', liquidBeforeG: 110, beforeC: 17 })
    expect(half.ice.every((p) => p.massG > 0)).toBe(true)
    // What stands in for the rest is no impossible drink.
    expect(half.afterG).toBeGreaterThan(110)
    expect(half.afterG).toBeLessThan(110 + 200)
  })
})
