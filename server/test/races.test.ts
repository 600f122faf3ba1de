/** What must not happen twice, or at once: raced from behind a barrier, on both databases. */

import type { Draft, Drink, Edition, Menu, SplitPrep } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import type { Lot } from '@conch/core/lots'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { race } from './race.ts'
import { type Answer, aDocument, BACKENDS, openFresh, TestServer } from './testServer.ts'

const HANDS = 8

const count = (answers: Answer<unknown>[], status: number) => answers.filter((a) => a.status === status).length
const syrup = (slug: string, other: string): object => ({
  slug,
  name: slug,
  kind: 'houseMix',
  figures: {
    abvPct: { value: 0, basis: 'recipe' },
    sugarGPer100Ml: { value: 0, basis: 'recipe' },
    acidGPer100Ml: { value: 0, basis: 'recipe' },
  },
  recipe: { by: 'weight', components: [{ ingredient: other, amount: 100 }] },
})

describe.each(BACKENDS)('at once, on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
  })
  afterAll(() => server.database.close())
  const house = async () => (await server.house()).body
  const put = (document: object, revision: number) =>
    server.send('PUT', `/api/ingredients/${(document as { slug: string }).slug}`, { document, revision })

  it('a lot is used up once', async () => {
    const made = (await server.send<Lot>('POST', '/api/lots', { ingredient: 'lime-juice' })).body
    const answers = await race(HANDS, () =>
      server.send('POST', `/api/lots/${made.id}/events`, { event: { kind: 'usedUp' } }),
    )
    expect(count(answers, 201)).toBe(1)
    expect(count(answers, 409)).toBe(HANDS - 1)
    const lot = (await server.get<Lot>(`/api/lots/${made.id}`)).body
    expect(lot.events.filter((e) => e.event.kind === 'usedUp')).toHaveLength(1)
  })

  it('two recipes are not put into each other', async () => {
    for (let round = 0; round < 5; round++) {
      const [a, b] = [`ring-a-${round}`, `ring-b-${round}`]
      await put(syrup(a, 'sugar-syrup'), 0)
      await put(syrup(b, 'sugar-syrup'), 0)
      const answers = await race(2, (i) => put(i === 0 ? syrup(a, b) : syrup(b, a), 1))
      expect(count(answers, 200)).toBe(1)
      expect(count(answers, 422)).toBe(1)
    }
  })

  it('a dealt batch leaves no hand with all of it', async () => {
    const parts = ['aged-rum', 'white-rum', 'dark-rum', 'overproof-rum']
    const shelf = (await house()).ingredients.map((i) => i.slug)
    const spirits = parts.filter((p) => shelf.includes(p))
    const four = [...spirits, ...shelf.filter((s) => !spirits.includes(s))].slice(0, 4)
    const sealed = {
      ...syrup('code-name', 'sugar-syrup'),
      isSealed: true,
      recipe: { by: 'partsByWeight', components: four.map((ingredient, i) => ({ ingredient, amount: i + 1 })) },
    }
    expect((await put(sealed, 0)).status).toBe(200)
    const answers = await race(HANDS, (i) =>
      server.send<SplitPrep>('POST', '/api/split-preps', {
        ingredient: 'code-name',
        hands: i % 2 === 0 ? ['Ann', 'Ben'] : ['Ben', 'Ann'],
      }),
    )
    const known = new Map<string, Set<string>>()
    for (const { status, body } of answers)
      for (const sheet of status === 201 ? body.sheets : [])
        known.set(sheet.hand, new Set([...(known.get(sheet.hand) ?? []), ...sheet.lines.map((l) => l.ingredient)]))
    expect(answers.some((a) => a.status === 201)).toBe(true)
    for (const parts of known.values()) expect(parts.size).toBeLessThan(4)
  })

  it('one plan makes one edition: a double tap answers with it, another person is told', async () => {
    const drink = await server.drinkWithVersion('Raced')
    const menu = await server.plan([{ drink: drink.slug, version: 1 }])
    const publish = (called: string, name: string) =>
      server.send<Edition>('POST', '/api/editions', { name, note: '', planRevision: menu.revision }, { called })
    const answers = await race(4, (i) => (i % 2 === 0 ? publish('Ada', 'Summer') : publish('Ben', 'Sommer')))
    expect((await server.get<unknown[]>('/api/editions')).body).toHaveLength(1)
    const made = answers.filter((a) => a.status === 201)
    expect(made).toHaveLength(2)
    expect(new Set(made.map((a) => a.body.number)).size).toBe(1)
    const told = answers.find((a) => a.status === 409)
    expect(told?.problem.detail).toMatch(/^(Ada|Ben) has published this plan already, as “(Summer|Sommer)”/)
    // The plan goes on from there, and can be published again when it is looked at again.
    const now = (await server.get<Menu>('/api/menu')).body
    expect(now.revision).toBeGreaterThan(menu.revision)
    expect((await server.publish(now.revision, 'Autumn')).status).toBe(201)
  })

  it('a write that comes twice under one key is done once, with one answer', async () => {
    const before = (await server.get<{ total: number }>('/api/lots')).body.total
    const answers = await race(HANDS, () =>
      server.send<Lot>('POST', '/api/lots', { ingredient: 'lime-juice' }, { 'idempotency-key': `lot-of-${backend}` }),
    )
    expect(answers.map((a) => a.status)).toEqual(Array(HANDS).fill(201))
    expect(new Set(answers.map((a) => a.body.id)).size).toBe(1)
    expect((await server.get<{ total: number }>('/api/lots')).body.total).toBe(before + 1)
    const other = await server.send(
      'POST',
      '/api/lots',
      { ingredient: 'lemon-juice' },
      { 'idempotency-key': `lot-of-${backend}` },
    )
    expect(other).toMatchObject({ status: 422, problem: { fields: [{ field: 'idempotency-key' }] } })
    const someone = { 'idempotency-key': `lot-of-${backend}`, as: 'lead' }
    expect((await server.send('POST', '/api/lots', { ingredient: 'lime-juice' }, someone)).status).toBe(422)
    expect((await server.send('POST', '/api/lots', {}, { 'idempotency-key': 'x' })).status).toBe(422)
  })

  it('a refused write leaves its key free', async () => {
    const key = { 'idempotency-key': `refused-${backend}` }
    expect((await server.send('POST', '/api/drinks', { name: 'Raced' }, key)).status).toBe(409)
    expect((await server.send('POST', '/api/drinks', { name: 'Raced Again' }, key)).status).toBe(201)
  })

  it.each(['drinks', 'ingredients', 'slots'] as const)(
    'drafts of %s: one hand saves, the others are told',
    async (what) => {
      const slug = { drinks: 'raced', ingredients: 'ring-a-0', slots: 'gold' }[what]
      const mix = (await house()).ingredients.find((i) => i.slug === slug) as Ingredient
      const documentBy = (note: string): object =>
        ({
          drinks: aDocument({ note }),
          ingredients: { ...mix, note },
          slots: { slug, name: 'Gold', target: {}, abvPct: { low: 38, high: 46 }, candidates: [], pick: '', note },
        })[what]
      const path = `/api/${what}/${slug}/draft`
      const save = (called: string, revision: number, note = called) =>
        server.send<Draft>('PUT', path, { document: documentBy(note), revision, baseVersion: null }, { called })
      const first = await race(HANDS, (i) => save(`Hand ${i}`, 0))
      expect(count(first, 200)).toBe(1)
      expect(count(first, 409)).toBe(HANDS - 1)
      const stands = (await server.get<Draft>(path)).body
      const told = first.find((a) => a.status === 409)
      expect(told?.problem.current).toMatchObject({ revision: stands.revision, savedBy: stands.savedBy })
      const second = await race(HANDS, (i) => save(`Hand ${i}`, stands.revision, `later ${i}`))
      expect(count(second, 200)).toBe(1)
      // The same words from the same person, sent twice: there.
      const now = (await server.get<Draft<{ note: string }>>(path)).body
      const again = await save(now.savedBy, 1, now.document.note)
      expect(again).toMatchObject({ status: 200, body: { revision: now.revision } })
      expect((await server.send('DELETE', `${path}/${now.revision}`)).status).toBe(200)
      expect((await server.get(path)).body).toBeNull()
    },
  )

  it('a mix saved from its draft ends the draft; saved beside it, the draft stays and is compared', async () => {
    const mix = (await house()).ingredients.find((i) => i.slug === 'ring-a-1') as Ingredient
    const revision = (await house()).revisions.ingredients['ring-a-1'] ?? 0
    const path = '/api/ingredients/ring-a-1'
    const draft = await server.send<Draft>('PUT', `${path}/draft`, {
      document: { ...mix, note: 'drafted' },
      revision: 0,
      baseVersion: revision,
    })
    expect((await put({ ...mix, note: 'beside' }, revision)).status).toBe(200)
    const stale = { document: { ...mix, note: 'drafted' }, revision, draftRevision: draft.body.revision }
    expect(await server.send('PUT', path, stale)).toMatchObject({
      status: 409,
      problem: { current: { note: 'beside' } },
    })
    expect((await server.get<Draft>(`${path}/draft`)).body.revision).toBe(draft.body.revision)
    expect((await server.send('PUT', path, { ...stale, revision: revision + 1 })).status).toBe(200)
    expect((await server.get(`${path}/draft`)).body).toBeNull()
  })

  it('a mistaken drink goes before its first version, and is hidden afterwards', async () => {
    await server.createDrink('Mistake')
    const answers = await race(2, () => server.send('DELETE', '/api/drinks/mistake'))
    expect(answers.map((a) => a.status).sort()).toEqual([200, 404])
    expect((await server.get('/api/drinks/mistake')).status).toBe(404)
    expect((await server.send('DELETE', '/api/drinks/raced')).problem.code).toBe('immutable')
    expect((await server.send('PUT', '/api/drinks/raced/hidden', { isHidden: true })).problem.detail).toBe(
      'isHidden: Raced is planned for the next edition; take it off first',
    )
    await server.drinkWithVersion('Aside')
    expect((await server.send<Drink>('PUT', '/api/drinks/aside/hidden', { isHidden: true })).body.isHidden).toBe(true)
    const listed = (await server.get<{ rows: { slug: string; isHidden: boolean }[] }>('/api/drinks?hidden=with')).body
      .rows
    expect(listed.find((d) => d.slug === 'aside')?.isHidden).toBe(true)
  })
})
