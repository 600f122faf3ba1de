/** House mixes and their lots, on both databases. */

import type { Drink, Edition } from '@conch/contract'
import type { IngredientKind } from '@conch/core/house'
import type { Lot } from '@conch/core/lots'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aDocument, BACKENDS, openFresh, TestServer } from './testServer.ts'

const figures = {
  abvPct: { value: 0, basis: 'assumed' },
  sugarGPer100Ml: { value: 0, basis: 'assumed' },
  acidGPer100Ml: { value: 0, basis: 'assumed' },
}
const mix = (slug: string, components: [string, number][], more: object = {}, kind: IngredientKind = 'houseMix') => ({
  document: {
    slug,
    name: slug.replaceAll('-', ' '),
    kind,
    figures,
    storedIn: 'fridge',
    recipe: {
      by: 'weight',
      components: components.map(([ingredient, amount]) => ({ ingredient, amount })),
      keepsDays: 14,
      ...more,
    },
  },
  revision: 0,
})

describe.each(BACKENDS)('on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    const put = async (m: ReturnType<typeof mix>) =>
      expect(await server.send('PUT', `/api/ingredients/${m.document.slug}`, m)).toMatchObject({ status: 200 })
    await put(
      mix('plain-syrup', [
        ['white-sugar', 500],
        ['water', 500],
      ]),
    )
    await put(
      mix('lime-cordial', [
        ['plain-syrup', 600],
        ['lime-juice', 300],
        ['citric-acid', 10],
      ]),
    )
  })
  afterAll(() => server.database.close())

  const make = (body: object) => server.send<Lot>('POST', '/api/lots', body)
  const happen = (id: number, event: object) => server.send<Lot>('POST', `/api/lots/${id}/events`, { event })

  describe('a house mix', () => {
    it('that goes round in a circle is refused, naming the loop', async () => {
      const { body } = await server.house()
      const syrup = body.ingredients.find((i) => i.slug === 'plain-syrup')
      const components = [...(syrup?.recipe?.components ?? []), { ingredient: 'lime-cordial', amount: 5 }]
      const document = { ...syrup, recipe: { ...syrup?.recipe, components } }
      const refused = await server.send('PUT', '/api/ingredients/plain-syrup', { document, revision: 1 })
      expect(refused).toMatchObject({
        status: 422,
        problem: {
          detail:
            'document.recipe.components.2.ingredient: goes round in a circle: plain syrup → lime cordial → plain syrup',
        },
      })
    })

    it.each<[string, object, string]>([
      ['of parts that sum to zero', mix('m', [['water', 0]]).document, 'the amounts add up to 0; at least one is more'],
      ['of something that is not there', mix('m', [['moon-dust', 1]]).document, 'there is no ingredient “moon-dust”'],
      [
        'boiled to more than there is',
        mix('m', [['water', 100]], { reduceToG: 200 }).document,
        'cannot be boiled down to 200 g: there are only 100 g',
      ],
      [
        'with one thing twice',
        mix('m', [
          ['water', 1],
          ['water', 2],
        ]).document,
        '“water” is there twice; write one amount',
      ],
      [
        'without an allergen for no reason',
        {
          ...mix('m', [['water', 1]]).document,
          withoutAllergens: [{ allergen: 'dairy', reason: '', by: 'Lead', on: '2026-01-01' }],
        },
        'say in a few words why',
      ],
    ])('%s is refused in place', async (_what, document, message) => {
      const refused = await server.send('PUT', '/api/ingredients/m', { document, revision: 0 })
      expect(refused.status).toBe(422)
      expect(refused.problem.fields?.map((f) => f.message).join()).toContain(message)
    })

    it.each<[string, object, string]>([
      [
        'a density that contradicts the figures',
        { densityGPerMl: { value: 1.2, basis: 'measured' } },
        'at most 3 % apart',
      ],
      [
        'a strength on what is weighed',
        { kind: 'dryGood', figures: { ...figures, abvPct: { value: 5, basis: 'label' } } },
        'what is weighed has no strength',
      ],
      [
        'more than 100 g in 100 g',
        {
          kind: 'dryGood',
          figures: {
            ...figures,
            sugarGPer100Ml: { value: 80, basis: 'label' },
            acidGPer100Ml: { value: 30, basis: 'label' },
          },
        },
        'at most 100 g',
      ],
      [
        'a Brix that cannot be',
        { figures: { ...figures, sugarGPer100Ml: { value: 180, basis: 'label' } } },
        'at most 130',
      ],
    ])('%s is refused', async (_what, change, message) => {
      const document = { slug: 'odd', name: 'odd', kind: 'other', figures, ...change }
      const refused = await server.send('PUT', '/api/ingredients/odd', { document, revision: 0 })
      expect(refused.status).toBe(422)
      expect(refused.problem.detail).toContain(message)
    })

    it('is poured with the figures of its recipe, two levels deep', async () => {
      const drink = aDocument({ pours: [{ ingredient: 'lime-cordial', volumeMl: 100 }], stages: [] })
      const { body } = await server.send<{ result: { beforeIce: { sugarG: number; acidG: number; massG: number } } }>(
        'POST',
        '/api/preview',
        drink,
      )
      // 300 g sugar in the syrup and 1.5 g in 100 ml of lime, of 910 g in all.
      const share = body.result.beforeIce.massG / 910
      expect(body.result.beforeIce.sugarG / share).toBeGreaterThan(300)
      expect(body.result.beforeIce.sugarG / share).toBeLessThan(306)
      expect(body.result.beforeIce.acidG / share).toBeGreaterThan(26)
    })

    it('is not poured when it is a powder', async () => {
      const refused = await server.send(
        'POST',
        '/api/preview',
        aDocument({ pours: [{ ingredient: 'white-sugar', volumeMl: 5 }] }),
      )
      expect(refused.problem.detail).toBe('pours.0.ingredient: White sugar is weighed, not poured; make a mix of it')
    })
  })

  describe('a lot', () => {
    it('keeps recipe, weights and theory, and its use-by follows from its days', async () => {
      const made = await make({
        ingredient: 'plain-syrup',
        factor: 2,
        weighed: [{ ingredient: 'white-sugar', actualG: 1010 }],
      })
      expect(made).toMatchObject({
        status: 201,
        body: {
          name: 'plain syrup',
          madeOn: '2026-01-01',
          useBy: '2026-01-15',
          madeBy: 'Manager',
          document: {
            weighed: [
              { ingredient: 'white-sugar', plannedG: 1000, actualG: 1010 },
              { ingredient: 'water', plannedG: 1000, actualG: null },
            ],
            theory: { brix: 50 },
          },
        },
      })
      expect(made.body.document.theory.massG).toBeCloseTo(2000, 6)
      const refused = await make({ ingredient: 'plain-syrup', useBy: '2025-12-31' })
      expect(refused.problem.detail).toBe('useBy: 31 Dec 2025 is before the day it was made, 1 Jan 2026')
    })

    it('is shortened by what is fresh in it', async () => {
      const { id, useBy } = (await make({ ingredient: 'lime-cordial' })).body
      expect(useBy).toBe('2026-01-02')
      await happen(id, { kind: 'usedUp' })
    })

    it('keeps no longer than the lots that it is made of', async () => {
      const syrup = (await make({ ingredient: 'plain-syrup', useBy: '2026-01-05' })).body
      const m = mix('spiced-syrup', [['plain-syrup', 100]])
      expect((await server.send('PUT', '/api/ingredients/spiced-syrup', m)).status).toBe(200)
      expect((await make({ ingredient: 'spiced-syrup' })).body.useBy).toBe('2026-01-05')
      await happen(syrup.id, { kind: 'usedUp' })
    })

    it('measured sweeter moves the mixes and drinks above it, and the margin says by how much', async () => {
      const drink = aDocument({
        pours: [
          { ingredient: 'aged-rum', volumeMl: 45 },
          { ingredient: 'lime-cordial', volumeMl: 40 },
        ],
      })
      const preview = async () =>
        (
          await server.send<{ result: { serve: { sugarG: number } }; consequences: { code: string; text: string }[] }>(
            'POST',
            '/api/preview',
            drink,
          )
        ).body
      const before = await preview()
      const { id } = (await make({ ingredient: 'plain-syrup', measured: { brix: 53 } })).body
      const after = await preview()
      expect(after.result.serve.sugarG).toBeGreaterThan(before.result.serve.sugarG * 1.04)
      // A later reading stands in place of an earlier one.
      await happen(id, { kind: 'measured', measured: { brix: (100 * 1010) / 2010 } })
      expect((await preview()).result.serve.sugarG).toBeCloseTo(before.result.serve.sugarG, 1)
      // A cordial that is made already does not change with the next syrup.
      const cordial = (await make({ ingredient: 'lime-cordial' })).body
      await happen(id, { kind: 'measured', measured: { brix: 58 } })
      expect((await preview()).result.serve.sugarG).toBeCloseTo(before.result.serve.sugarG, 1)
      await happen(cordial.id, { kind: 'usedUp' })
      expect((await preview()).result.serve.sugarG).toBeGreaterThan(before.result.serve.sugarG * 1.04)
    })

    it('cannot weigh more than what went in, and says where to look', async () => {
      const refused = await make({ ingredient: 'plain-syrup', measured: { massG: 1200 } })
      expect(refused.problem.detail).toBe(
        'measured.massG: 1200 g came out of 1000 g; at most what went in. Was the bowl tared?',
      )
    })

    it.each<[object, string]>([
      [{ ingredient: 'nothing' }, 'there is no ingredient “nothing”'],
      [{ ingredient: 'plain-syrup', factor: 0 }, '0 is too small; more than 0'],
      [{ ingredient: 'plain-syrup', measured: { brix: 120 } }, '120 is too large; at most 85'],
      [{ ingredient: 'plain-syrup', madeOn: '2027-05-01' }, '1 May 2027 is not yet'],
      [
        { ingredient: 'plain-syrup', weighed: [{ ingredient: 'aged-rum', actualG: 5 }] },
        '“aged-rum” is not in this recipe',
      ],
      [
        {
          ingredient: 'plain-syrup',
          weighed: [
            { ingredient: 'white-sugar', actualG: 0 },
            { ingredient: 'water', actualG: 0 },
          ],
        },
        'nothing was weighed in',
      ],
      [{ ingredient: 'aged-rum', weighed: [{ ingredient: 'water', actualG: 5 }] }, 'Aged rum has no recipe to weigh'],
    ])('%o is refused: %s', async (body, message) => {
      const refused = await make(body)
      expect(refused.status).toBe(422)
      expect(refused.problem.detail).toContain(message)
    })

    it('that ended by a wrong tap is taken back, and both stay in the book', async () => {
      const { id } = (await make({ ingredient: 'plain-syrup' })).body
      const isOpen = async () => (await server.house()).body.lots.some((l) => l.id === id)
      expect((await happen(id, { kind: 'reopened' })).problem.detail).toBe(
        `lot ${id} is there; nothing is to be taken back`,
      )
      await happen(id, { kind: 'usedUp' })
      expect(await isOpen()).toBe(false)
      const again = await happen(id, { kind: 'reopened' })
      expect(again.body.events.map((e) => e.event.kind)).toEqual(['usedUp', 'reopened'])
      expect(await isOpen()).toBe(true)
      expect((await happen(id, { kind: 'measured', measured: { brix: 50 } })).status).toBe(201)
      await happen(id, { kind: 'usedUp' })
      expect(await isOpen()).toBe(false)
    })

    it('ends once: used up or discarded', async () => {
      const { id } = (await make({ ingredient: 'plain-syrup' })).body
      expect((await happen(id, { kind: 'discarded', reason: '' })).status).toBe(422)
      expect((await happen(id, { kind: 'labelled', copies: 2 })).status).toBe(201)
      expect((await happen(id, { kind: 'discarded', reason: 'left open' })).status).toBe(201)
      expect(await happen(id, { kind: 'usedUp' })).toMatchObject({
        status: 409,
        problem: { code: 'immutable', detail: `lot ${id} was discarded; take that back first, or make a new one` },
      })
      const house = (await server.house()).body
      expect(house.lots.some((l) => l.id === id)).toBe(false)
      expect((await server.get<Lot>(`/api/lots/${id}`)).body.events.map((e) => e.event.kind)).toEqual([
        'labelled',
        'discarded',
      ])
      expect((await server.get<{ rows: Lot[] }>('/api/lots')).body.rows[0]?.id).toBe(id)
    })

    it('is history: the database refuses to change or forget it', async () => {
      for (const statement of [
        sql`update lots set use_by = null`,
        sql`delete from lots`,
        sql`truncate lots cascade`,
        sql`update lot_events set by = 'nobody'`,
        sql`delete from lot_events`,
      ]) {
        await expect(server.database.db.execute(statement)).rejects.toMatchObject({ cause: { code: 'CH001' } })
      }
    })

    it('has a label, alone and on a sheet, that names what is not there', async () => {
      const { id } = (await make({ ingredient: 'plain-syrup' })).body
      const label = await server.file(`/api/lots/${id}/label.pdf`)
      expect(label.headers.get('content-type')).toBe('application/pdf')
      expect(label.text.slice(0, 5)).toBe('%PDF-')
      expect(label.text).toContain('/MediaBox [0 0 198.42')
      const sheet = await server.file(`/api/labels.pdf?lots=${Array(25).fill(id).join(',')}`)
      expect(sheet.text.match(/\/MediaBox \[0 0 595.28 841.89\]/g)).toHaveLength(2)
      expect((await server.get('/api/labels.pdf?lots=x')).problem.detail).toBe(
        'lots: “x” names no lots; write 1 to 240 numbers like 3,4,4',
      )
      expect((await server.get('/api/lots/99999/label.pdf')).status).toBe(404)
    })

    it('is not made by a bartender', async () => {
      const refused = await server.send('POST', '/api/lots', { ingredient: 'plain-syrup' }, { as: 'bartender' })
      expect(refused.status).toBe(403)
    })

    it('does not move what was published', async () => {
      const drink = await server.drinkWithVersion('Locked Cordial', {
        pours: [{ ingredient: 'lime-cordial', volumeMl: 60 }],
      })
      const plan = await server.plan([{ drink: drink.slug, version: 1 }])
      const edition = (await server.publish(plan.revision)).body
      expect(edition.lock.book.ingredients.map((i) => i.slug).sort()).toEqual([
        'citric-acid',
        'lime-cordial',
        'lime-juice',
        'plain-syrup',
        'water',
        'white-sugar',
      ])
      await make({ ingredient: 'plain-syrup', measured: { brix: 60 } })
      expect((await server.get<Edition>(`/api/editions/${edition.number}`)).body.lock).toEqual(edition.lock)
      expect((await server.get<Drink>(`/api/drinks/${drink.slug}`)).status).toBe(200)
    })
  })

  describe('pressing', () => {
    it('says what a fruit gives here, with its spread', async () => {
      const press = (fruitCount: number, volumeMl: number) =>
        make({ ingredient: 'lime-juice', pressed: { fruitCount, size: 'small' }, measured: { volumeMl } })
      const yieldOf = async () => (await server.house()).body.fruitYields['lime-juice']
      expect(await yieldOf()).toEqual({ mlPerFruit: 25, spreadMl: 6.25, pressings: 0, basis: 'assumed' })
      expect((await press(100, 3000)).body.useBy).toBe('2026-01-02')
      await press(50, 1000)
      const found = await yieldOf()
      expect(found).toMatchObject({ mlPerFruit: 25, pressings: 2, basis: 'measured' })
      expect(found?.spreadMl).toBeCloseTo(Math.sqrt(50), 6)
    })
  })

  it('moves house with recipes and lots', async () => {
    const copy = await server.copy()
    expect(copy.split('"table":"lots"').length).toBeGreaterThan(6)
    const elsewhere = new TestServer(await openFresh(backend))
    expect(await elsewhere.bring(copy)).toMatchObject({ state: 'done' })
    expect(await elsewhere.copy()).toBe(copy)
    await elsewhere.database.close()
  })
})
