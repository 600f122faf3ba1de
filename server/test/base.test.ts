/** Slots, flights and blends over the wire, on both databases: what is refused, and what is kept. */

import type { Edition } from '@conch/contract'
import type { Flight } from '@conch/core/palate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aDocument, BACKENDS, historyStays, openFresh, TestServer } from './testServer.ts'

const figure = (value: number) => ({ value, basis: 'label' })
const figures = { abvPct: figure(0), sugarGPer100Ml: figure(0), acidGPer100Ml: figure(0) }
const slot = (changes: object = {}) => ({
  slug: 'light',
  name: 'Light rum',
  target: { weight: 2, dryness: 6 },
  abvPct: { low: 38, high: 44 },
  candidates: [{ ingredient: 'white-rum' }, { ingredient: 'aged-rum' }],
  pick: 'white-rum',
  ...changes,
})

describe.each(BACKENDS)('on %s', (backend) => {
  let server: TestServer
  const putSlot = (document: { slug: string }, revision = 0, headers = {}) =>
    server.send<{ revision: number }>('PUT', `/api/slots/${document.slug}`, { document, revision }, headers)
  const putIngredient = (document: { slug: string }, revision = 0) =>
    server.send('PUT', `/api/ingredients/${document.slug}`, { document, revision })
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
  })
  afterAll(() => server.database.close())

  describe('a slot', () => {
    it.each([
      ['no candidate', { candidates: [] }, 'document.candidates', 'a slot needs a candidate'],
      [
        'an impossible band',
        { abvPct: { low: 50, high: 40 } },
        'document.abvPct',
        '50 to 40 % is no band; the low end must not be above the high end',
      ],
      [
        'a band beyond pure alcohol',
        { abvPct: { low: 50, high: 140 } },
        'document.abvPct.high',
        '140 is too large; at most 100',
      ],
      [
        'a bottle that is not there',
        { candidates: [{ ingredient: 'white-rum' }, { ingredient: 'gone' }] },
        'document.candidates.1.ingredient',
        'there is no ingredient “gone”',
      ],
      [
        'a juice',
        { candidates: [{ ingredient: 'white-rum' }, { ingredient: 'lime-juice' }] },
        'document.candidates.1.ingredient',
        'Lime juice has no strength; a slot is for what has alcohol',
      ],
      [
        'a well that is not there',
        { pickByWell: { cellar: 'aged-rum' } },
        'document.pickByWell.cellar',
        'there is no well “cellar”',
      ],
      ['a pick from elsewhere', { pick: 'gin' }, 'document.pick', '“gin” is not among the candidates'],
      ['a place off the line', { target: { weight: 12 } }, 'document.target.weight', '12 is too large; at most 10'],
      ['a line of somebody else’s', { target: { sparkle: 2 } }, 'document.target', undefined],
    ])('with %s is refused', async (_, changes, field, message) => {
      const answer = await putSlot(slot(changes))
      expect(answer.status).toBe(422)
      const found = answer.problem.fields?.find((f) => f.field === field || f.field.startsWith(`${field}.`))
      expect(found).toBeDefined()
      if (message) expect(found?.message).toBe(message)
      expect((await server.house()).body.slots).toEqual([])
    })

    it('is kept, changed on its revision, and refused on an old one', async () => {
      expect((await putSlot(slot(), 0, { as: 'bartender' })).status).toBe(403)
      expect((await putSlot(slot())).body).toEqual({ revision: 1 })
      expect((await putSlot(slot({ note: 'quiet' }), 1, { as: 'lead' })).body).toEqual({ revision: 2 })
      const stale = await putSlot(slot({ note: 'loud' }), 1)
      expect(stale.problem).toMatchObject({ code: 'conflict', current: { note: 'quiet' } })
      expect((await server.house()).body).toMatchObject({
        slots: [{ slug: 'light', note: 'quiet' }],
        revisions: { slots: { light: 2 } },
      })
    })

    it('is poured by a drink, and kept whole by the edition that published it', async () => {
      const missing = await server.send(
        'POST',
        '/api/preview',
        aDocument({ pours: [{ slot: 'nobody', volumeMl: 30 }] }),
      )
      expect(missing.problem.fields).toEqual([
        { field: 'pours.0.slot', message: 'there is no slot “nobody”; the house has light' },
      ])
      await server.drinkWithVersion('Slotted', {
        pours: [
          { slot: 'light', volumeMl: 60 },
          { ingredient: 'lime-juice', volumeMl: 20 },
        ],
      })
      const menu = await server.plan([{ drink: 'slotted', version: 1 }])
      expect((await server.publish(menu.revision)).status).toBe(201)
      const before = (await server.get<Edition>('/api/editions/1')).body
      expect(before.lock.book.slots?.map((s) => s.slug)).toEqual(['light'])
      expect(before.lock.book.ingredients.map((i) => i.slug)).toEqual(expect.arrayContaining(['white-rum', 'aged-rum']))
      // The pick changes; what was published does not.
      expect((await putSlot(slot({ pick: 'aged-rum' }), 2)).status).toBe(200)
      expect((await server.get<Edition>('/api/editions/1')).body).toEqual(before)
      const now = await server.send<{ result: { pours: { name: string }[] } }>(
        'POST',
        '/api/preview',
        aDocument({ pours: [{ slot: 'light', volumeMl: 60 }] }),
      )
      expect(now.body.result.pours[0]?.name).toBe('Aged rum')
    })
  })

  describe('a flight', () => {
    const taste = (scores: unknown, headers = {}, more = {}) =>
      server.send<Flight>('POST', '/api/flights', { document: { scores }, ...more }, headers)
    const two = [
      { ingredient: 'white-rum', style: { weight: 2 } },
      { ingredient: 'aged-rum', style: { weight: 5, oak: 6.5 } },
    ]

    it('is written down by anybody, under their name, and never changes', async () => {
      const kept = await taste(two, { as: 'bartender', called: 'Bartender Yard' })
      expect(kept).toMatchObject({ status: 201, body: { by: 'Bartender Yard', on: '2026-01-01' } })
      expect((await server.house()).body.flights).toEqual([kept.body])
      await expect(server.database.db.execute("update flights set saved_by = 'x'")).rejects.toMatchObject(
        historyStays('flights'),
      )
      await expect(server.database.db.execute('delete from flights')).rejects.toMatchObject(historyStays('flights'))
    })

    it.each([
      ['one bottle', [two[0]], 'document.scores'],
      [
        'seven bottles',
        Array.from({ length: 7 }, (_, i) => ({ ingredient: `rum-${i}`, style: { oak: 1 } })),
        'document.scores',
      ],
      ['nothing placed', two.map((s) => ({ ...s, style: {} })), 'document.scores'],
      ['a place off the line', [two[0], { ingredient: 'aged-rum', style: { oak: -1 } }], 'document.scores.1.style.oak'],
      [
        'a bottle that is not there',
        [two[0], { ingredient: 'gone', style: { oak: 1 } }],
        'document.scores.1.ingredient',
      ],
    ])('of %s is refused', async (_, scores, field) => {
      const answer = await taste(scores)
      expect(answer.status).toBe(422)
      expect(answer.problem.fields?.map((f) => f.field)).toContain(field)
      expect((await server.house()).body.flights).toHaveLength(1)
    })

    it('of tomorrow’s tomorrow is refused', async () => {
      expect((await taste(two, {}, { on: '2027-01-01' })).problem.fields?.[0]?.field).toBe('on')
    })
  })

  describe('a blend', () => {
    const blend = (components: [string, number][], by = 'partsByVolume') => ({
      slug: 'dusk',
      name: 'Dusk',
      kind: 'blend',
      figures,
      recipe: { by, components: components.map(([ingredient, amount]) => ({ ingredient, amount })) },
    })
    it.each([
      [
        'a part of nothing',
        [
          ['white-rum', 1],
          ['aged-rum', 0],
        ],
        'document.recipe.components.1.amount',
        '0 is no part; more than 0',
      ],
      ['one spirit', [['white-rum', 1]], 'document.recipe.components', '1 part is no blend; 2 to 6'],
      [
        'a juice',
        [
          ['white-rum', 1],
          ['lime-juice', 1],
        ],
        'document.recipe.components.1.ingredient',
        'Lime juice has no alcohol; a blend is of spirits',
      ],
      [
        'a bottle that is not there',
        [
          ['white-rum', 1],
          ['gone', 1],
        ],
        'document.recipe.components.1.ingredient',
        'there is no ingredient “gone”',
      ],
    ] as [string, [string, number][], string, string][])('of %s is refused', async (_, components, field, message) => {
      const answer = await putIngredient(blend(components))
      expect(answer.status).toBe(422)
      expect(answer.problem.fields).toContainEqual({ field, message })
    })
    it('of less than nothing, or that is not 100 %, is refused', async () => {
      expect(
        (
          await putIngredient(
            blend([
              ['white-rum', 1],
              ['aged-rum', -1],
            ]),
          )
        ).status,
      ).toBe(422)
      const short = await putIngredient(
        blend(
          [
            ['white-rum', 60],
            ['aged-rum', 30],
          ],
          'percentByVolume',
        ),
      )
      expect(short.problem.fields?.[0]?.message).toBe('the parts add up to 90 %; together they are 100 %')
    })
    it('is a lot like any mix, and is not brought in as a bottle of a table', async () => {
      expect(
        (
          await putIngredient(
            blend([
              ['white-rum', 1],
              ['aged-rum', 2],
            ]),
          )
        ).status,
      ).toBe(200)
      const lot = await server.send<{ document: { theory: { abvPct: number } } }>('POST', '/api/lots', {
        ingredient: 'dusk',
        factor: 2,
      })
      expect(lot.status).toBe(201)
      // 100 ml of 40 % and 200 ml of 43 %: just above 42 %, as they shrink a little.
      expect(lot.body.document.theory.abvPct).toBeGreaterThan(42)
      expect(lot.body.document.theory.abvPct).toBeLessThan(42.05)
      const table = await server.send<{ problems: { message: string }[] }>('POST', '/api/ingredients.csv', {
        csv: 'name,strength\nDusk,50\n',
        mode: 'check',
      })
      expect(table.body.problems[0]?.message).toContain('is a house mix')
    })
  })
})
