/** What happens once when the model of the ice is another one: stations fitted anew, standards taken again. */

import type { Drink, Menu, ModelMoved, Trials, VerifyReport } from '@conch/contract'
import type { StoredCalibration } from '@conch/core/calibration'
import { MODEL_VERSION } from '@conch/core/cold'
import { glassFor, standingOf } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { refitOutdated } from '../features/trials/refitOutdated.ts'
import { bookFor, createHeld } from '../held/index.ts'
import { insertVersion } from '../stores/drinks.ts'
import { insertCalibration } from '../stores/trials.ts'
import { createWork, type Work } from '../threads/index.ts'
import { aDocument, aTrial, BACKENDS, openFresh, TestServer } from './testServer.ts'

describe.each(BACKENDS)('another model of the ice, on %s', (backend) => {
  let server: TestServer
  /** Each its own threads, as of several processes. */
  let works: Work[]
  const now = () => new Date('2026-06-01T12:00:00Z')
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), now)
    await server.setUp()
    await server.drinkWithVersion('Harbour Test')
    works = [createWork(), createWork(), createWork()]
  })
  afterAll(async () => {
    await Promise.all(works.map((w) => w.close()))
    await server.database.close()
  })
  const trials = async () => (await server.get<Trials>('/api/trials')).body
  const house = async () => (await server.house()).body
  const events = async () => (await server.get<VerifyReport>('/api/verify')).body.events
  const refit = (by = works[0] as Work) => refitOutdated({ ...server.services, work: by })
  const key = { well: 'front', station: 'flash-blend', ice: 'crushed' } as const

  const cubes = { ...key, ice: 'machineCube' as const }
  const standing = async () =>
    (await house()).calibrations.find((c) => c.station === 'flash-blend' && c.ice === 'machineCube')
  const earlierBy = async (document: StoredCalibration['document'], of: Pick<StoredCalibration, 'ice'>) => {
    const made = await insertCalibration(server.database.db, {
      ...key,
      ...of,
      savedBy: 'Manager',
      savedById: null,
      savedAt: now(),
      document: { ...document, model: 2 },
    })
    server.services.held.forget()
    return made
  }

  it('a calibration of before is history: the station is uncalibrated, then fitted anew, once, by the house', async () => {
    for (const [durationS, afterG] of [
      [3, 139],
      [4, 145],
      [6, 152],
    ] as const)
      await server.send('POST', '/api/trials', aTrial({ durationS, afterG }))
    const fitted = (await server.send<StoredCalibration>('POST', '/api/calibrations', key)).body
    expect(fitted.document.model).toBe(MODEL_VERSION)
    expect(await refit()).toBe(0)

    const ids: number[] = []
    for (const afterG of [128, 131, 130]) {
      const trial = aTrial({ ice: [{ kind: 'machineCube', massG: 180 }], afterG })
      ids.push((await server.send<{ id: number }>('POST', '/api/trials', trial)).body.id)
    }
    const earlier = await earlierBy({ ...fitted.document, trials: ids }, cubes)
    expect(await standing()).toBeUndefined()
    const before = await events()
    const done = await Promise.all(works.map(refit))
    expect(done.reduce((a, b) => a + b, 0)).toBe(1)
    expect(await refit()).toBe(0)
    expect(await events()).toBe(before + 1)
    const all = (await trials()).calibrations.filter((c) => c.ice === 'machineCube')
    expect(all.map((c) => c.id)).toContain(earlier.id)
    expect(all.at(-1)).toMatchObject({ savedBy: 'the house', document: { model: MODEL_VERSION, trials: ids } })
    expect((await standing())?.trials).toBe(3)
  })

  it('a house that is not set up has nothing to fit', async () => {
    const empty = await openFresh(backend)
    expect(await refitOutdated({ ...server.services, database: empty, held: createHeld(empty) })).toBe(0)
    await empty.close()
  })

  it('what cannot be fitted stays uncalibrated, however often that is tried', async () => {
    const { trials: all, calibrations } = await trials()
    await earlierBy(
      { ...(calibrations[0] as StoredCalibration).document, trials: [all[0]?.id ?? 0] },
      { ...key, ice: 'pebble' },
    )
    expect([await refit(), await refit()]).toEqual([0, 0])
  })

  it('standards are taken again in one act, once, with a reason; versions of before stay', async () => {
    expect((await server.get<ModelMoved>('/api/model')).body).toMatchObject({ edition: null, drinks: [] })
    const { revision: unpublished } = (await server.get<Menu>('/api/menu')).body
    const early = await server.send('POST', '/api/model', {
      reason: 'too early',
      drinks: [],
      planRevision: unpublished,
    })
    expect(early.status).toBe(422)
    const made = await server.publishByEarlierModel('Fallen Out', 20)
    const moved = (await server.get<ModelMoved>('/api/model')).body
    expect(moved).toMatchObject({ edition: { model: 2 }, isAnswered: false })
    expect(moved.drinks.map((d) => d.drink)).toContain(made.slug)
    for (const { measures } of moved.drinks)
      for (const m of measures.filter((q) => q.measure === 'dilutionPct')) expect(m.was - m.now).toBeCloseTo(20, 6)

    // A drink whose standard the glass of today is not in.
    const out = await server.drinkWithVersion('Standing Out', {
      standard: { dilutionPct: { low: 1, high: 5 }, strengthPct: { low: 0, high: 90 } },
    })
    const { revision: planRevision } = await server.plan([{ drink: out.slug, version: 1 }])
    // Named twice it is still one drink.
    const ask = { reason: 'ice is computed anew', drinks: [out.slug, out.slug], planRevision }
    expect((await server.send('POST', '/api/model', { ...ask, drinks: ['nobody'] })).problem.detail).toContain('nobody')
    expect((await server.send('POST', '/api/model', ask, { as: 'lead' })).status).toBe(403)
    const answers = await Promise.all([1, 2, 3, 4].map(() => server.send('POST', '/api/model', ask)))
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409, 409])

    const drink = (await server.get<Drink>(`/api/drinks/${out.slug}`)).body
    expect(drink.versions.map((v) => [v.number, v.reason])).toEqual([
      [1, 'a test wants it'],
      [2, 'ice is computed anew'],
    ])
    expect(drink.planned).toBe(2)
    const [first, second] = drink.versions.map((v) => v.document)
    expect(first?.standard.dilutionPct).toEqual({ low: 1, high: 5 })
    expect(second?.standard.strengthPct).toEqual({ low: 0, high: 90 })
    if (!second) throw new Error('no second version')
    const book = bookFor(await server.services.held.now(), [second], now())
    for (const { slug } of book.wells) {
      const glass = glassFor(second, book, slug)
      expect(glass.ok && standingOf(glass.result.predictions.dilutionPct, second.standard.dilutionPct)).not.toMatch(
        /below|above/,
      )
    }
    expect((await server.get<ModelMoved>('/api/model')).body.isAnswered).toBe(true)
    expect((await server.get<VerifyReport>('/api/verify')).body.events).toBeGreaterThan(0)
  })

  it('a version that is outside of the model stays readable, is not written anew and cannot be published', async () => {
    const outside = aDocument({
      name: 'Too Strong',
      pours: [{ figures: { name: 'spirit', abvPct: 85 }, volumeMl: 60 }],
      stages: [{ method: 'hardShake', parameters: { surfaceWaterFraction: 0 } }],
    })
    const { slug, draft } = await server.createDrink('Too Strong')
    const saved = await server.saveDraft(slug, outside, draft?.revision ?? 0)
    const refused = await server.saveVersion(slug, saved.body.revision)
    expect([refused.status, refused.problem.fields?.[0]?.field]).toEqual([422, 'document.stages.0'])
    expect(refused.problem.detail).toContain('−45 °C')
    // As it was saved when another model still answered.
    const { db } = server.database
    const stamp = { savedBy: 'Manager', savedById: null, savedAt: now() }
    const document = drinkDocumentSchema.parse(outside)
    await insertVersion(db, {
      drink: slug,
      number: 1,
      parent: null,
      label: '',
      reason: '',
      document,
      era: '',
      source: '',
      ...stamp,
    })
    expect((await server.get<Drink>(`/api/drinks/${slug}`)).body.versions[0]?.document.name).toBe('Too Strong')
    const { revision } = await server.plan([{ drink: slug, version: 1 }])
    const published = await server.send('POST', '/api/editions', { name: 'Never', note: '', planRevision: revision })
    expect(published.status).toBe(422)
    expect(published.problem.fields?.[0]?.field).toBe('too-strong.stages.0')
  })
})
