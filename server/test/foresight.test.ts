/** What a change is said to do before it is saved is what it then does, and stands with it afterwards. */

import { type Foresee, type Foresight, houseFileSchema, type Menu, type PouredMenu } from '@conch/contract'
import { MEASURE_NAMES, MEASURES } from '@conch/core/drink'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const NOW = new Date('2026-09-01T20:00:00Z')
const LEAD = { as: 'lead' }

describe.each(BACKENDS)('before it is saved, %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => NOW)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
    const { revision } = (await server.get<Menu>('/api/menu')).body
    const menu = (await server.get<PouredMenu>('/api/menu/poured?well=hearth')).body
    const entries = menu.chapters.flatMap((c) => c.drinks.map(({ drink, version }) => ({ drink, version })))
    const plan = { chapters: [{ name: 'All', entries: [...entries, { drink: 'sluice-gate-roster', version: 1 }] }] }
    const planned = await server.send<Menu>('PUT', '/api/menu', { plan, revision })
    expect((await server.publish(planned.body.revision, 'With a slot')).problem.detail).toBeUndefined()
    // A mix without a lot is as its recipe says.
    for (const { id } of (await server.services.held.now()).openLotsOf('coconut-cream-mix'))
      await server.send('POST', `/api/lots/${id}/events`, { event: { kind: 'usedUp' } })
  })
  afterAll(() => server.database.close())

  const foretell = (change: Foresee, who = {}) => server.send<Foresight>('POST', '/api/foresight', change, who)

  /** Every figure of the menu as it is read, by drink and well and measure. */
  async function figures(): Promise<Map<string, number>> {
    const { glasses, held } = server.services
    await glasses.settle()
    const all = new Map<string, number>()
    const keys = [...(await held.now()).listed.poured].map(([drink, version]) => ({ drink, version }))
    for (const [key, wells] of await glasses.read(keys, { isOpen: true }))
      for (const [well, { glass }] of Object.entries(wells))
        for (const m of MEASURE_NAMES) {
          const value = glass.predictions[m]?.value
          const drink = key.split(' ')[0] ?? ''
          if (value !== undefined) all.set(`${drink} ${well} ${m}`, Number(value.toFixed(MEASURES[m].digits)))
        }
    return all
  }

  /** One change of each kind. */
  async function changes(): Promise<{ name: string; change: Foresee; path: string; revision: number }[]> {
    const { settings, wells, glasses, slots, ingredients, revisions } = (await server.house()).body
    const thing = <T extends { slug: string }>(list: readonly T[], slug: string): T => {
      const found = list.find((x) => x.slug === slug)
      if (!found) throw new Error(`no ${slug}`)
      return found
    }
    const bottle = (slug: string, figure: 'sugarGPer100Ml' | 'acidGPer100Ml' | 'abvPct', by: number): Foresee => {
      const { closed: _, sealedAs: __, ...i } = thing(ingredients, slug)
      const value = i.figures[figure].value + by
      return { kind: 'ingredients', document: { ...i, figures: { ...i.figures, [figure]: { value, basis: 'label' } } } }
    }
    const { closed: _c, sealedAs: _s, ...mix } = thing(ingredients, 'coconut-cream-mix')
    const [first, ...rest] = mix.recipe?.components ?? []
    const recipe = { ...mix.recipe, components: [{ ...first, amount: (first?.amount ?? 0) * 1.3 }, ...rest] }
    const otherMix = { kind: 'ingredients', document: { ...mix, recipe } } as Foresee
    const slot = thing(slots, 'black-rum')
    const other = slot.candidates.find((c) => c.ingredient !== slot.pick)?.ingredient ?? ''
    const hearth = thing(wells, 'hearth')
    const reed = thing(glasses, 'reed')
    const of = (change: Foresee) => {
      const { kind, document } = change
      if (kind === 'settings') return { path: '/api/house/settings', revision: revisions.settings }
      const { slug } = document
      return { path: `/api/${kind}/${slug}`, revision: (revisions[kind] as Record<string, number>)[slug] ?? 0 }
    }
    const all: [string, Foresee][] = [
      ['a sweeter bottle', bottle('orgeat-fennick', 'sugarGPer100Ml', 9)],
      ['a stronger rum', bottle('sootwharf-black', 'abvPct', 6)],
      ['a sharper fruit', bottle('grapefruit-juice', 'acidGPer100Ml', 1)],
      ['a mix', otherMix],
      ['a slot', { kind: 'slots', document: { ...slot, pick: other, pickByWell: {} } as never }],
      ['a glass', { kind: 'glasses', document: { ...reed, heatCapacityJPerK: reed.heatCapacityJPerK + 160 } }],
      ['a well', { kind: 'wells', document: { ...hearth, roomTemperatureC: hearth.roomTemperatureC + 9 } }],
      ['the ounce', { kind: 'settings', document: { ...settings, kit: { ...settings.kit, ounceMl: 29.5735 } } }],
    ]
    return all.map(([name, change]) => ({ name, change, ...of(change) }))
  }

  it('says of every kind of change what then comes, drink by drink, and nothing else moves', async () => {
    const names = (await changes()).map((c) => c.name)
    for (const name of names) {
      const one = (await changes()).find((c) => c.name === name)
      if (!one) throw new Error(name)
      const before = await figures()
      const { status, body: foreseen, problem } = await foretell(one.change)
      expect(`${name}: ${problem.detail}`).toBe(`${name}: undefined`)
      expect(status).toBe(200)
      const saved = await server.send('PUT', one.path, { document: one.change.document, revision: one.revision })
      expect(`${name}: ${saved.problem.detail}`).toBe(`${name}: undefined`)
      const after = await figures()
      const said = new Map(
        foreseen.drinks
          .filter((d) => d.isPoured)
          .flatMap(({ drink, at }) =>
            at.flatMap(({ well, moved }) => moved.map((m) => [`${drink} ${well} ${m.measure}`, m] as const)),
          ),
      )
      expect(`${name}: ${said.size > 0}`).toBe(`${name}: true`)
      for (const [key, is] of after) {
        const was = before.get(key)
        const move = said.get(key as never)
        expect(`${name}, ${key}: ${was} → ${is}`).toBe(`${name}, ${key}: ${move?.was ?? was} → ${move?.is ?? was}`)
      }
      // The same list stands in the event.
      const { entries } = (await server.get<{ entries: { detail: { touches?: Foresight } }[] }>('/api/audit')).body
      const kept = entries[0]?.detail.touches
      const menu = foreseen.drinks.filter((d) => d.isPoured || d.isPlanned)
      expect(kept?.drinks.map((d) => d.drink)).toEqual(menu.map((d) => d.drink))
      for (const [i, d] of menu.entries())
        expect(kept?.drinks[i]?.at.map((a) => a.moved.map((m) => [m.measure, m.was, m.is]))).toEqual(
          d.at.map((a) => a.moved.map((m) => [m.measure, m.was, m.is])),
        )
      expect(foreseen.editions.length).toBeGreaterThan(0)
    }
  })

  it('knows what the menu stands on in a house that has computed nothing yet', async () => {
    const fresh = new TestServer(await openFresh(backend), () => NOW)
    await fresh.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
    const { settings } = (await fresh.house()).body
    const document = { ...settings, kit: { ...settings.kit, ounceMl: 29.5735 } }
    const { body } = await fresh.send<Foresight>('POST', '/api/foresight', { kind: 'settings', document })
    expect(body.drinks.filter((d) => d.isPoured).length).toBeGreaterThan(8)
    await fresh.database.close()
  })

  it('says of what is poured of a lot that it comes with the next one, and so it does', async () => {
    const { ingredients, revisions } = (await server.house()).body
    const mix = ingredients.find((i) => i.slug === 'cinnamon-syrup')
    const [first, ...rest] = mix?.recipe?.components ?? []
    const recipe = { ...mix?.recipe, components: [{ ...first, amount: (first?.amount ?? 0) * 1.4 }, ...rest] }
    const document = { ...mix, recipe }
    const before = await figures()
    const { body: foreseen } = await foretell({ kind: 'ingredients', document } as never)
    expect(foreseen.isFromNextLot).toBe(true)
    const revision = revisions.ingredients['cinnamon-syrup']
    expect((await server.send('PUT', '/api/ingredients/cinnamon-syrup', { document, revision })).status).toBe(200)
    expect(await figures()).toEqual(before)
    expect((await server.send('POST', '/api/lots', { ingredient: 'cinnamon-syrup' }, LEAD)).status).toBe(201)
    const after = await figures()
    const moves = foreseen.drinks.flatMap(({ drink, isPoured, at }) =>
      isPoured
        ? at.flatMap(({ well, moved }) => moved.map((m) => ({ key: `${drink} ${well} ${m.measure}`, is: m.is })))
        : [],
    )
    expect(moves.length).toBeGreaterThan(0)
    for (const { key, is } of moves) expect(`${key} ${after.get(key as never)}`).toBe(`${key} ${is}`)
  })

  it('says which mixes hold it, what it costs, and which allergens come in', async () => {
    const { ingredients } = (await server.house()).body
    const lime = ingredients.find((i) => i.slug === 'lime-juice')
    if (!lime) throw new Error('no lime juice')
    const dearer = { ...lime, allergens: ['celery' as const], price: (lime.price ?? 5) * 3, size: lime.size ?? 1000 }
    const { body } = await foretell({ kind: 'ingredients', document: dearer })
    expect(body.drinks.every((d) => d.at.every((a) => a.allergensIn.includes('celery')))).toBe(true)
    const orgeat = ingredients.find((i) => i.slug === 'orgeat-fennick')
    if (!orgeat) throw new Error('no orgeat')
    const costly = await foretell({ kind: 'ingredients', document: { ...orgeat, price: (orgeat.price ?? 5) * 3 } })
    const costs = costly.body.drinks.flatMap((d) => d.at.flatMap((a) => (a.cost ? [a.cost] : [])))
    expect(costs.length).toBeGreaterThan(0)
    for (const { by } of costs) expect(by).toBeGreaterThan(0)
    expect(costly.body.drinks.every((d) => d.at.every((a) => a.moved.length === 0))).toBe(true)
    const sugar = ingredients.find((i) => i.slug === 'demerara-rich') ?? orgeat
    const held = await foretell({ kind: 'ingredients', document: sugar })
    expect(held.body.drinks).toEqual([])
    expect(held.body.mixes.length).toBeGreaterThan(0)
    // A lead knows what a bottle costs, and what a serve does; of what holds something sealed nobody else does.
    const toLead = await foretell({ kind: 'ingredients', document: { ...lime, price: 99 } }, LEAD)
    const priced = new Map(toLead.body.drinks.map((d) => [d.drink, d.at.map((a) => a.cost)]))
    expect(priced.size).toBeGreaterThan(3)
    const roster = priced.get('sluice-gate-roster') ?? []
    expect(roster.length).toBeGreaterThan(0)
    // What the lime adds, and never what all of it comes to.
    for (const cost of roster) expect([cost?.is, (cost?.by ?? 0) > 0]).toEqual([undefined, true])
  })

  it('never says through what is sealed what a bottle is in', async () => {
    const { ingredients } = (await server.house()).body
    const ledger = ingredients.find((i) => i.slug === 'ferry-nine')
    const within = ledger?.recipe?.components.map((c) => c.ingredient) ?? []
    expect(within.length).toBeGreaterThan(1)
    for (const slug of within) {
      const bottle = ingredients.find((i) => i.slug === slug)
      const figures = { ...bottle?.figures, abvPct: { value: 5, basis: 'label' } }
      const change = { kind: 'ingredients', document: { ...bottle, figures } } as never
      const [open, closed] = [await foretell(change), await foretell(change, LEAD)]
      expect(open.body.drinks.map((d) => d.drink)).toContain('sluice-gate-roster')
      expect(JSON.stringify(closed.body)).not.toContain('sluice-gate-roster')
      expect(JSON.stringify(closed.body)).not.toContain('ferry-nine')
    }
  })

  it('is for whoever may change it, and says what is wrong with what is asked', async () => {
    const { settings } = (await server.house()).body
    expect((await foretell({ kind: 'settings', document: settings }, { as: 'bartender' })).status).toBe(403)
    expect((await server.send('POST', '/api/foresight', { kind: 'people', document: {} })).status).toBe(422)
    expect((await server.send('POST', '/api/foresight', { kind: 'glasses', document: {} })).status).toBe(422)
  })
})
