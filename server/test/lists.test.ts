/** Lists: every row once, in the order that was asked for, found by what people remember; and what is kept beside them. */

import {
  type DrinkPage,
  type Edition,
  houseFileSchema,
  type LotPage,
  type Menu,
  type ShelfPart,
  type ShelfRows,
  type Version,
} from '@conch/contract'
import { type Ingredient, SHELF_SORTS, shelfList } from '@conch/core/house'
import { usualRange } from '@conch/core/reading'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { partFor, toBook } from '../held/index.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const NOW = new Date('2026-09-01T20:00:00Z')

describe.each(BACKENDS)('lists on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => NOW)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
  })
  afterAll(async () => {
    await server.services.work.close()
    await server.database.close()
  })
  const get = async <T>(path: string) => (await server.get<T>(path)).body

  /** All pages of a list, a few rows at a time. */
  async function paged<R>(path: string): Promise<R[]> {
    const rows: R[] = []
    for (;;) {
      const page = await get<{ total: number; rows: R[] }>(
        `${path}${path.includes('?') ? '&' : '?'}from=${rows.length}&limit=7`,
      )
      rows.push(...page.rows)
      if (rows.length >= page.total || page.rows.length === 0) return rows
    }
  }

  it.each(Object.keys(SHELF_SORTS).flatMap((sort) => [sort, `${sort}&down=yes`]))(
    'the back bar by %s has everything once, with the figures of today',
    async (sort) => {
      const held = await server.services.held.now()
      const slugs = held.allIngredients().map((i) => i.slug)
      const today = toBook(partFor(held, slugs), NOW, undefined).ingredients
      const [by, down] = sort.split('&')
      const wanted = shelfList(today, { shown: 'all', sort: by as 'name', isDown: down !== undefined })
      const rows = await paged<ShelfRows['rows'][number]>(`/api/shelf/rows?sort=${sort}`)
      expect(rows.map((r) => r.ingredient)).toEqual(wanted.map(({ sealedAs: _, ...i }) => i))
    },
  )

  it('the back bar by a figure follows every lot that is made, measured and used up, at every depth', async () => {
    const bySugar = () => paged<ShelfRows['rows'][number]>('/api/shelf/rows?sort=sugarGPer100Ml')
    const sugars = (rows: { ingredient: Ingredient }[]) =>
      rows.map(({ ingredient: { slug, figures } }) => [slug, figures.sugarGPer100Ml.value])
    const held = await server.services.held.now()
    const moved: string[] = []
    for (const mix of held.allIngredients().filter((i) => i.recipe && !i.isSealed)) {
      const before = sugars(await bySugar())
      const document = { ingredient: mix.slug, measured: { brix: 61 } }
      const { id } = (await server.send<{ id: number }>('POST', '/api/lots', document)).body
      const today = () =>
        toBook(
          partFor(
            held,
            held.allIngredients().map((i) => i.slug),
          ),
          NOW,
          undefined,
        ).ingredients
      const wanted = () => shelfList(today(), { shown: 'all', sort: 'sugarGPer100Ml', isDown: false })
      const measured = sugars(await bySugar())
      expect(measured).toEqual(sugars(wanted().map((ingredient) => ({ ingredient }))))
      moved.push(...measured.filter(([slug, sugar]) => before.some((b) => b[0] === slug && b[1] !== sugar)).map(String))
      await server.send('POST', `/api/lots/${id}/events`, { event: { kind: 'usedUp' } })
      expect(sugars(await bySugar())).toEqual(sugars(wanted().map((ingredient) => ({ ingredient }))))
    }
    expect(moved.length).toBeGreaterThan(held.allIngredients().filter((i) => i.recipe && !i.isSealed).length)
  })

  it('drinks are listed once each by name, and found with a slip of the finger', async () => {
    const all = await paged<DrinkPage['rows'][number]>('/api/drinks')
    expect(new Set(all.map((d) => d.slug)).size).toBe(14)
    expect(all.map((d) => d.name)).toEqual([...all.map((d) => d.name)].sort((a, b) => a.localeCompare(b, 'en')))
    expect(await paged('/api/drinks?down=yes')).toEqual([...all].reverse())
    const found = async (words: string) => {
      const page = await get<DrinkPage>(`/api/drinks?words=${words}`)
      return [page.rows[0]?.slug, page.isNear]
    }
    expect(await found('low%20wat')).toEqual(['low-water-bell', false])
    expect(await found('lampligter')).toEqual(['lamplighters-toll', true])
    expect(await found('zzzz')).toEqual([undefined, false])
    await server.drinkWithVersion('Put Aside', {
      pours: [{ ingredient: 'lime-juice', amount: { value: 1, unit: 'oz' } }],
      glass: 'courtyard-tall',
    })
    await server.send('PUT', '/api/drinks/put-aside/hidden', { isHidden: true })
    expect(await found('put%20aside')).toEqual([undefined, false])
    expect((await get<DrinkPage>('/api/drinks?words=put%20aside&hidden=with')).rows[0]?.slug).toBe('put-aside')
  })

  it('lots are listed once each, newest first or by their day, of one thing, or only those that are there', async () => {
    const all = await paged<LotPage['rows'][number]>('/api/lots')
    const ids = all.map((l) => l.id)
    expect(ids).toEqual([...ids].sort((a, b) => b - a))
    const open = await paged<LotPage['rows'][number]>('/api/lots?open=yes')
    const held = await server.services.held.now()
    expect(open.map((l) => l.id)).toEqual(
      held
        .allOpenLots()
        .map((l) => l.id)
        .reverse(),
    )
    const orders = {
      number: (l: LotPage['rows'][number]) => String(l.id).padStart(9, '0'),
      useBy: (l: LotPage['rows'][number]) => l.useBy ?? '9999',
      name: (l: LotPage['rows'][number]) => l.name.toLowerCase(),
    }
    for (const [sort, key] of Object.entries(orders))
      for (const which of ['', '&open=yes', '&words=e']) {
        const sorted = await paged<LotPage['rows'][number]>(`/api/lots?sort=${sort}${which}`)
        const keys = sorted.map(key)
        expect([sort, which, keys]).toEqual([sort, which, [...keys].sort()])
        const up = await paged<LotPage['rows'][number]>(`/api/lots?sort=${sort}&down=yes${which}`)
        expect(up.map((l) => l.id)).toEqual(sorted.map((l) => l.id).reverse())
        if (which === '') expect(new Set(sorted.map((l) => l.id))).toEqual(new Set(ids))
        if (which === '&open=yes') expect(new Set(sorted.map((l) => l.id))).toEqual(new Set(open.map((l) => l.id)))
      }
    const byHand = await paged<LotPage['rows'][number]>(`/api/lots?words=${all[0]?.madeBy.slice(0, 4)}`)
    expect(byHand.length).toBeGreaterThan(0)
    expect(await get<LotPage>('/api/lots?words=grenadyne')).toMatchObject({ isNear: true })
    expect(await get<LotPage>('/api/lots?words=xqzzt')).toMatchObject({ isNear: false, total: 0 })
    const one = all[0]
    expect((await get<LotPage>(`/api/lots?words=lot%20${one?.id}`)).rows.map((l) => l.id)).toContain(one?.id)
    expect((await get<LotPage>('/api/lots?of=grenadine')).rows.every((l) => l.ingredient === 'grenadine')).toBe(true)
  })

  it('what is usually poured is what all versions say, of everything, before and after another one, in another ounce', async () => {
    const compare = async () => {
      const held = await server.services.held.now()
      const drinks = await paged<{ slug: string }>('/api/drinks?hidden=with')
      const versions = (
        await Promise.all(drinks.map((d) => get<{ versions: Version[] }>(`/api/drinks/${d.slug}`)))
      ).flatMap((d) => d.versions)
      const { kit } = held.base?.settings ?? {}
      if (!kit) throw new Error('no house')
      await server.services.usual.count()
      for (const ingredient of held.allIngredients()) {
        // One drink's versions count together; the demo's drinks have names of their own.
        const all = usualRange(
          ingredient,
          versions.map((v) => v.document),
          kit,
        )
        const kept = (await server.services.usual.of([ingredient.slug]))[ingredient.slug]
        expect([ingredient.slug, kept?.basis, kept?.lowMl.toFixed(6), kept?.highMl.toFixed(6)]).toEqual([
          ingredient.slug,
          all?.basis,
          all?.lowMl.toFixed(6),
          all?.highMl.toFixed(6),
        ])
      }
    }
    await compare()
    const pours = [{ ingredient: 'lime-juice', amount: { value: 1.25, unit: 'oz' as const } }]
    await server.drinkWithVersion('Limes Only', { pours, glass: 'courtyard-tall' })
    await compare()
    const { base } = await server.services.held.now()
    const { settings, revisions } = base as NonNullable<typeof base>
    const document = { ...settings, kit: { ...settings.kit, ounceMl: 28.4 } }
    expect((await server.send('PUT', '/api/house/settings', { document, revision: revisions.settings })).status).toBe(
      200,
    )
    await compare()
  })

  it('what an edition freezes is computed ahead, and again when something happened in between', async () => {
    const runs = vi.spyOn(server.services.work, 'run')
    const count = () => runs.mock.calls.filter(([, job]) => job.name === 'lock').length
    const { plan, revision } = await get<Menu>('/api/menu')
    const drinks = plan.chapters.flatMap((c) => c.entries).length
    const asked = await Promise.all(Array.from({ length: 3 }, () => server.get('/api/menu/next/lock')))
    expect(asked.map((a) => [a.status, a.body])).toEqual(Array(3).fill([200, { drinks }]))
    expect(count()).toBe(1)
    expect((await server.get('/api/menu/next/lock', { as: 'lead' })).status).toBe(403)

    // Somebody measures a bottle while somebody else thinks of a name.
    await server.get('/api/menu/next/lock')
    const { ingredients, revisions } = await get<ShelfPart>('/api/shelf?of=orlop-white')
    const [rum] = ingredients
    const document = { ...rum, figures: { ...rum?.figures, abvPct: { value: 51, basis: 'label' } } }
    const put = { document, revision: revisions['orlop-white'] }
    expect((await server.send('PUT', '/api/ingredients/orlop-white', put)).status).toBe(200)
    const { number } = (await server.publish(revision, 'After the change')).body
    const { lock } = await get<Edition>(`/api/editions/${number}`)
    expect(lock.book.ingredients.find((i) => i.slug === 'orlop-white')?.figures.abvPct.value).toBe(51)

    // What cannot be published is said before anybody thinks of a name.
    const now = await get<Menu>('/api/menu')
    await server.plan([])
    expect((await server.get('/api/menu/next/lock')).problem.detail).toBe(
      'the plan is empty; put a drink on the menu first',
    )
    await server.send('PUT', '/api/menu', { plan: now.plan, revision: now.revision + 1 })
    runs.mockRestore()
  })

  it('what is picked is changed at once: all of it, or nothing', async () => {
    const part = await get<ShelfPart>('/api/shelf?of=orlop-white,tamber-light')
    const change = (slug: string, revision = part.revisions[slug]) => ({ slug, revision, stock: 'out' })
    const put = (changes: object[], as = 'manager') => server.send('PUT', '/api/ingredients', { changes }, { as })
    const stockOf = async () =>
      (await get<ShelfPart>('/api/shelf?of=orlop-white,tamber-light')).ingredients.map((i) => i.stock)
    const before = await stockOf()
    expect(await put([change('orlop-white'), change('tamber-light', 99)])).toMatchObject({
      status: 409,
      problem: { detail: expect.stringContaining('tamber-light') },
    })
    expect((await put([change('orlop-white'), change('orlop-white')])).problem.detail).toContain('is there twice')
    expect((await put([change('nothing-here', 1)])).problem.detail).toContain('there is no ingredient')
    expect((await put([])).problem.detail).toBe('changes: nothing is picked')
    expect(await stockOf()).toEqual(before)
    const sealed = await get<ShelfPart>('/api/shelf?of=ferry-nine')
    expect((await put([change('ferry-nine', sealed.revisions['ferry-nine'])], 'lead')).status).toBe(403)
    expect((await put([change('orlop-white'), change('tamber-light')])).body).toEqual({
      revisions: {
        'orlop-white': (part.revisions['orlop-white'] ?? 0) + 1,
        'tamber-light': (part.revisions['tamber-light'] ?? 0) + 1,
      },
    })
    expect(await stockOf()).toEqual(['out', 'out'])
  })

  it.each([
    ['/api/drinks?limit=0', 'limit'],
    ['/api/drinks?limit=101', 'limit'],
    ['/api/drinks?from=-1', 'from'],
    ['/api/drinks?colour=red', 'colour'],
    ['/api/shelf', 'say which part of the shelf'],
    ['/api/shelf?of=lime-juice&words=lime', 'say which part of the shelf'],
    ['/api/shelf?near=rum', 'slot:name or bottle:name'],
    ['/api/shelf?shown=everything', 'shown'],
    ['/api/shelf/rows?sort=luck', 'sort'],
    ['/api/versions?of=tide-clerk', 'drink@number'],
    ['/api/menu/poured', 'well'],
    ['/api/lots?sort=price', 'sort'],
    ['/api/flights?limit=1000', 'limit'],
  ])('%s is refused and says why', async (path, words) => {
    const { status, problem } = await server.get(path)
    expect([status, problem.detail]).toEqual([422, expect.stringContaining(words)])
  })

  it('a well that is not there is said to be none', async () => {
    expect((await server.get('/api/menu/poured?well=attic')).problem.detail).toBe('there is no well “attic”')
  })
})
