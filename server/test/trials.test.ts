import type { AddTrial, House, Trials } from '@conch/contract'
import type { StoredCalibration, Trial } from '@conch/core/calibration'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aDocument, aTrial, BACKENDS, historyStays, openFresh, TestServer } from './testServer.ts'

describe.each(BACKENDS)('trials on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    await server.drinkWithVersion('Harbour Test', aDocument())
  }, 60_000)
  afterAll(() => server.database.close())

  const add = (changes: Partial<AddTrial> = {}) => server.send<Trial>('POST', '/api/trials', aTrial(changes))
  const house = async () => (await server.house()).body

  it('are written down with what stood for the temperatures nobody took', async () => {
    const { status, body } = await add({ afterC: -1.5 })
    expect(status).toBe(201)
    expect(body.document.roomC).toEqual({ value: 21, basis: 'assumed' })
    expect(body.document.iceC).toEqual({ value: -0.5, basis: 'assumed' })
    const { waterG, ethanolG, sugarG, acidG } = body.document.liquid
    expect(waterG + ethanolG + sugarG + acidG).toBeCloseTo(100, 6)
    const measured = await add({ beforeC: 17.5, roomC: 23, durationS: 6, afterG: 150 })
    expect(measured.body.document.beforeC).toEqual({ value: 17.5, basis: 'measured' })
  })

  it.each([
    [{ afterG: 300 }, 'afterG', /at most 250 g/],
    [{ afterG: 20 }, 'afterG', /less than half/],
    [{ durationS: 0 }, 'durationS', /0\.3/],
    [{ durationS: 500 }, 'durationS', /120/],
    [{ liquidBeforeG: -3 }, 'liquidBeforeG', /1/],
    [{ ice: [] }, 'ice', /a trial needs ice; weigh it/],
    [{ station: 'no-such' }, 'station', /the Front has no station “no-such”/],
    [{ well: 'no-such' }, 'well', /there is no well “no-such”/],
    [{ version: 9 }, 'version', /there is no version 9/],
    [{ drink: undefined, version: undefined }, 'drink', /name a drink, or give the figures/],
    [{ on: '2031-01-01' }, 'on', /is not yet/],
    [{ iceC: 4 }, 'iceC', /4 °C is no ice/],
    [{ speed: 'eleven' }, 'speed', /has no speed “eleven”/],
  ])('with %o are refused in one plain sentence, and nothing is kept', async (changes, field, message) => {
    const before = (await server.get<Trials>('/api/trials')).body.trials.length
    const { status, problem } = await add(changes as Partial<AddTrial>)
    expect(status).toBe(422)
    expect(problem.fields?.[0]?.field).toBe(field)
    expect(problem.fields?.[0]?.message).toMatch(message)
    expect((await server.get<Trials>('/api/trials')).body.trials).toHaveLength(before)
  })

  it('two of them calibrate the station, and every drink on it follows', async () => {
    const key = { well: 'front', station: 'flash-blend', ice: 'crushed' }
    const preview = () =>
      server.send<{ result: { dilutionUncertaintyFraction: number } }>('POST', '/api/preview', aDocument())
    const before = (await preview()).body.result.dilutionUncertaintyFraction
    const made = await server.send<StoredCalibration>('POST', '/api/calibrations', key)
    expect(made.status).toBe(201)
    expect(made.body.document.trials).toHaveLength(2)
    const [standing] = (await house()).calibrations
    expect(standing).toMatchObject({ ...key, trials: 2 })
    // The trials were of a little more than the drink is: that is known a little less.
    const known = (await preview()).body.result.dilutionUncertaintyFraction
    expect(known).toBeGreaterThan(standing?.uncertaintyFraction ?? 1)
    expect(known).toBeLessThan(before)
    expect(standing?.uncertaintyFraction).toBeLessThan(before)
  })

  it('one left out, with a reason, no longer counts; the trial stays as it is', async () => {
    const { trials } = (await server.get<Trials>('/api/trials')).body
    const [first] = trials
    if (!first) throw new Error('no trial')
    const say = (event: object) => server.send<Trial>('POST', `/api/trials/${first.id}/events`, { event })
    expect((await say({ kind: 'excluded', reason: '' })).status).toBe(422)
    expect((await say({ kind: 'included' })).status).toBe(409)
    const left = await say({ kind: 'excluded', reason: 'the spoon was in it' })
    expect(left.body).toMatchObject({ document: first.document, events: [{ event: { kind: 'excluded' } }] })
    const fewer = await server.send('POST', '/api/calibrations', {
      well: 'front',
      station: 'flash-blend',
      ice: 'crushed',
    })
    expect(fewer.problem.fields?.[0]?.message).toMatch(/1 trials count; 2 are the fewest/)
    expect((await say({ kind: 'included' })).status).toBe(200)
    expect((await server.send('POST', '/api/trials/99999/events', { event: { kind: 'included' } })).status).toBe(404)
  })

  it('newer ones that agree with each other and not with it make the station drift', async () => {
    expect((await house()).calibrations[0]?.drift).toBeUndefined()
    await add({ afterG: 168 })
    expect((await house()).calibrations[0]?.drift).toBeUndefined()
    await add({ afterG: 170 })
    expect((await house()).calibrations[0]?.drift).toMatchObject({ trials: 2 })
  })

  it('and calibrations are refused change and deletion by the database itself', async () => {
    for (const table of ['trials', 'trial_events', 'calibrations']) {
      const { db } = server.database
      for (const change of [`delete from ${table}`, `update ${table} set id = id`, `truncate ${table} cascade`])
        await expect(db.execute(sql.raw(change)), change).rejects.toMatchObject(historyStays(table))
    }
  })

  it('are no matter for a bartender, who reads them', async () => {
    const asBartender = { as: 'bartender' }
    expect((await server.send('POST', '/api/trials', aTrial(), asBartender)).status).toBe(403)
    const key = { well: 'front', station: 'flash-blend', ice: 'crushed' }
    expect((await server.send('POST', '/api/calibrations', key, asBartender)).status).toBe(403)
    const seen = (await server.get<Trials>('/api/trials', asBartender)).body
    expect(seen.trials.length).toBeGreaterThan(0)
    // Grams finer than these would tell what is in a sealed blend.
    for (const t of seen.trials) for (const g of Object.values(t.document.liquid)) expect(g).toBe(Math.round(g))
  })

  it('move with the house to another machine, calibrations and all', async () => {
    const other = new TestServer(await openFresh(backend))
    expect(await other.bring(await server.copy())).toMatchObject({ state: 'done' })
    const there = (await other.get<House>('/api/house')).body
    expect(there.calibrations).toEqual((await house()).calibrations)
    await other.database.close()
  })
})
