/** Kept glasses: right after every change, old until then, and nothing computed that did not change. */

import { houseFileSchema, type Menu } from '@conch/contract'
import { type DrinkDocument, glassFor } from '@conch/core/drink'
import type { Ingredient } from '@conch/core/house'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { keptGlasses, keptUpTo } from '../database/schema.ts'
import { bookFor } from '../held/index.ts'
import { GlassKeeper, keyOf } from '../kept/index.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const NOW = new Date('2026-09-01T20:00:00Z')
const DAY_MS = 24 * 3_600_000

describe.each(BACKENDS)('kept glasses on %s', (backend) => {
  let server: TestServer
  let at = NOW
  const glasses = () => server.services.glasses
  const anotherKeeper = () => new GlassKeeper({ ...server.services, now: () => at })
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => at)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
    await glasses().settle()
  })
  afterAll(async () => {
    await server.services.work.close()
    await server.database.close()
  })

  const rows = async () => {
    const all = await server.database.db.select().from(keptGlasses)
    return all.sort((a, b) => `${keyOf(a)} ${a.well}`.localeCompare(`${keyOf(b)} ${b.well}`))
  }
  type Row = Awaited<ReturnType<typeof rows>>[number]
  const figures = (all: readonly Row[]) => all.map(({ sequence: _, ...row }) => row)
  const keys = async () => [...(await glasses().shownVersions())].map(([drink, version]) => ({ drink, version }))

  /** Everything from the beginning, by another keeper in an emptied table. */
  async function anew(): Promise<Row[]> {
    const before = await rows()
    await server.database.db.delete(keptGlasses)
    await server.database.db.delete(keptUpTo)
    await anotherKeeper().settle()
    const made = await rows()
    await server.database.db.delete(keptGlasses)
    if (before.length > 0) await server.database.db.insert(keptGlasses).values(before)
    return made
  }

  /** What is old by now, of what is shown. */
  async function oldKeys(): Promise<string[]> {
    const read = await glasses().read(await keys(), { isOpen: true })
    return [...read].filter(([, wells]) => Object.values(wells).some((w) => w.isOld)).map(([key]) => key)
  }

  async function put(kind: string, slug: string, change: (document: never) => object): Promise<void> {
    const held = await server.services.held.now()
    const base = held.base as NonNullable<typeof held.base>
    const found = {
      settings: base.settings,
      ingredients: held.ingredient(slug),
      glasses: base.glasses.find((g) => g.slug === slug),
      slots: base.slots.find((s) => s.slug === slug),
      wells: base.wells.find((w) => w.slug === slug),
    }[kind]
    const revision =
      kind === 'settings'
        ? base.revisions.settings
        : kind === 'ingredients'
          ? held.ingredientRevision(slug)
          : (base.revisions[kind as 'wells'][slug] ?? 0)
    const document = { ...found, ...change(found as never) }
    const path = kind === 'settings' ? '/api/house/settings' : `/api/${kind}/${slug}`
    const answer = await server.send('PUT', path, { document, revision })
    expect(answer.problem.detail).toBeUndefined()
    expect(answer.status).toBe(200)
  }

  it('are there for every version that is poured, planned or the newest, at every well, as the page computes them', async () => {
    const held = await server.services.held.now()
    const all = await rows()
    const wells = held.base?.wells.map((w) => w.slug) ?? []
    const shown = new Set((await keys()).map(keyOf))
    expect(shown.size).toBeGreaterThan(10)
    for (const key of shown) expect(all.filter((r) => keyOf(r) === key).map((r) => r.well)).toEqual([...wells].sort())
    for (const row of all) {
      const drink = (
        await server.get<{ versions: { number: number; document: DrinkDocument }[] }>(`/api/drinks/${row.drink}`)
      ).body
      const document = drink.versions.find((v) => v.number === row.version)?.document as DrinkDocument
      const made = glassFor(document, { ...bookFor(held, [document], at), at: undefined } as never, row.well)
      if (!made.ok) throw new Error(`${row.drink} cannot be computed`)
      expect(row.glass.cautions).toEqual(made.consequences.filter((c) => c.weight !== 'note'))
      for (const [measure, predicted] of Object.entries(made.result.predictions))
        expect(row.glass.predictions[measure as 'volumeMl']?.value).toBeCloseTo(predicted.value, 3)
    }
  })

  it('are small: no curves', async () => {
    for (const { glass, dependsOn } of await rows())
      expect(JSON.stringify({ glass, dependsOn }).length).toBeLessThan(2048)
  })

  /** Every kind of change, each to something that some drink stands on. */
  const changes: [what: string, change: () => Promise<void>][] = [
    ['a bottle’s strength', () => put('ingredients', 'tamber-light', strength(44))],
    ['a bottle runs out', () => put('ingredients', 'orlop-white', () => ({ stock: 'out' }))],
    [
      'a bottle’s name, and another’s is the same',
      () => put('ingredients', 'marl-gin', () => ({ name: 'Tamber Light' })),
    ],
    ['a mix’s recipe', () => put('ingredients', 'grenadine', moreOfTheFirst)],
    ['a mix within a mix', () => put('ingredients', 'sugar-syrup', sugar(70))],
    ['what a recipe has newly in it', () => put('ingredients', 'honey-mix', withSalt)],
    ['and that then changes', () => put('ingredients', 'salt', () => ({ note: 'finer', price: 3 }))],
    ['a blend', () => put('ingredients', 'third-bell', moreOfTheFirst)],
    [
      'a glass',
      () =>
        put('glasses', 'reed', (g: { heatCapacityJPerK: number }) => ({ heatCapacityJPerK: g.heatCapacityJPerK + 40 })),
    ],
    ['a well', () => put('wells', 'courtyard', () => ({ roomTemperatureC: 33 }))],
    ['the settings', () => put('settings', '', () => ({ standardDrinkG: 12 }))],
    [
      'a lot',
      async () => void (await server.send('POST', '/api/lots', { ingredient: 'grenadine', measured: { brix: 50 } })),
    ],
    [
      'a table of bottles',
      async () =>
        void (await server.send('POST', '/api/ingredients.csv', {
          csv: 'name,strength\nSootwharf Black,49\n',
          mode: 'whole',
        })),
    ],
    ['the plan', async () => planAnother()],
    ['a new version', async () => newVersion()],
    ['another well', async () => anotherWell()],
  ]

  async function planAnother(): Promise<void> {
    const { plan, revision } = (await server.get<Menu>('/api/menu')).body
    const [chapter] = plan.chapters
    if (!chapter) throw new Error('nothing is planned')
    const entries = chapter.entries.map((e, i) => (i === 0 ? { ...e, version: 1 } : e))
    await server.send('PUT', '/api/menu', {
      plan: { chapters: [{ ...chapter, entries }, ...plan.chapters.slice(1)] },
      revision,
    })
  }

  async function newVersion(): Promise<void> {
    const drink = (
      await server.get<{ versions: { document: DrinkDocument; number: number }[] }>('/api/drinks/tide-clerk')
    ).body
    const last = drink.versions.at(-1)
    if (!last) throw new Error('no version')
    const document = { ...last.document, note: 'stirred once more', serves: last.document.serves }
    const draft = await server.saveDraft('tide-clerk', document as never, 0)
    const saved = await server.send('POST', '/api/drinks/tide-clerk/versions', {
      draftRevision: draft.body.revision,
      reason: 'a test wants it',
    })
    expect(saved.status).toBe(201)
  }

  async function anotherWell(): Promise<void> {
    const held = await server.services.held.now()
    const [first] = held.base?.wells ?? []
    const document = { ...first, slug: 'cellar', name: 'Cellar', roomTemperatureC: 12 }
    expect((await server.send('PUT', '/api/wells/cellar', { document, revision: 0 })).status).toBe(200)
  }

  it.each(changes)(
    '%s: what became another is old at once, then right; and nothing else is computed',
    async (_, change) => {
      const before = await rows()
      await change()
      const wanted = await anew()
      const old = new Set(await oldKeys())
      const shown = new Set((await keys()).map(keyOf))
      const moved = wanted.filter((w) => {
        const was = before.find((b) => keyOf(b) === keyOf(w) && b.well === w.well)
        return was && JSON.stringify(figures([was])) !== JSON.stringify(figures([w]))
      })
      // Of what moved nothing is shown as if it were still right.
      expect(moved.map(keyOf).filter((key) => shown.has(key) && !old.has(key))).toEqual([])
      await glasses().settle()
      const after = await rows()
      expect(figures(after)).toEqual(figures(wanted))
      expect(await oldKeys()).toEqual([])
      const untouched = after.filter((a) =>
        before.some((b) => keyOf(b) === keyOf(a) && b.well === a.well && b.sequence === a.sequence),
      )
      const unmoved = after.length - new Set(moved.map((m) => `${keyOf(m)} ${m.well}`)).size
      // A change of everything leaves nothing; any other leaves what does not stand on it.
      expect(untouched.length).toBeLessThanOrEqual(unmoved)
    },
  )

  it('leave alone what does not stand on what changed', async () => {
    const before = await rows()
    const topics = [...new Set(before.flatMap((r) => r.dependsOn))].filter((t) => t.startsWith('i:'))
    const topic = topics.find((t) => !before.every((r) => r.dependsOn.includes(t)))
    if (!topic) throw new Error('every drink stands on everything')
    await put('ingredients', topic.slice(2), () => ({ note: 'another word' }))
    await glasses().settle()
    const dependent = (r: Row) => r.dependsOn.includes(topic)
    const after = await rows()
    for (const row of after) {
      const was = before.find((b) => keyOf(b) === keyOf(row) && b.well === row.well)
      expect([keyOf(row), row.sequence === was?.sequence]).toEqual([keyOf(row), !dependent(row)])
    }
  })

  it('are judged on the night on which they are read: a lot that comes due turns its drinks', async () => {
    const turning = (await rows()).filter((r) => r.turnsOn !== null)
    expect(turning.length).toBeGreaterThan(0)
    const nights = [...new Set(turning.map((r) => r.turnsOn as string))].sort()
    at = new Date(Date.parse(`${nights[0]}T20:00:00Z`))
    const due = new Set(turning.filter((r) => r.turnsOn === nights[0]).map(keyOf))
    const shown = new Set((await keys()).map(keyOf))
    expect([...(await oldKeys())].sort()).toEqual([...due].filter((k) => shown.has(k)).sort())
    await glasses().settle()
    expect(figures(await rows())).toEqual(figures(await anew()))
    at = new Date(at.getTime() + 200 * DAY_MS)
    await glasses().settle()
    expect(figures(await rows())).toEqual(figures(await anew()))
  })

  it('are taken up again where a crash left them', async () => {
    await put('ingredients', 'lime-juice', acid(5.4))
    await glasses().digest()
    expect(glasses().left).toBeGreaterThan(2)
    // Another process begins: it knows of nothing but what is stored.
    const next = anotherKeeper()
    await next.digest()
    expect(next.left).toBe(glasses().left)
    await next.settle()
    expect(figures(await rows())).toEqual(figures(await anew()))
    await glasses().settle()
    expect(await oldKeys()).toEqual([])
  })

  it('what changes while it is computed is computed again', async () => {
    let release = () => {}
    const held = new Promise<void>((resolve) => {
      release = resolve
    })
    let isWaiting = () => {}
    const waiting = new Promise<void>((resolve) => {
      isWaiting = resolve
    })
    const { work } = server.services
    const slow = new GlassKeeper({
      ...server.services,
      now: () => at,
      work: {
        ...work,
        run: (async (...order: Parameters<typeof work.run>) => {
          const answer = await work.run(...order)
          isWaiting()
          await held
          return answer
        }) as typeof work.run,
      },
    })
    await put('ingredients', 'honey-mix', withMalic)
    const settling = slow.settle()
    await waiting
    // Neither the drinks of before nor their old rows know of it.
    await put('ingredients', 'malic-acid', acid(90))
    release()
    await settling
    await glasses().settle()
    expect(figures(await rows())).toEqual(figures(await anew()))
  })

  it('show whoever may not open a sealed blend what they may compute of it, and no more', async () => {
    const sealed = (await rows()).filter((r) => r.closed !== null)
    expect(sealed.length).toBeGreaterThan(0)
    const read = await glasses().read(sealed, { isOpen: false })
    for (const row of sealed)
      expect(read.get(keyOf(row))?.[row.well]?.glass.predictions).toEqual(row.closed?.predictions)
    const names = ['Weirkeeper Pot', 'Verdelis Cane']
    for (const row of sealed)
      for (const name of names)
        if (!row.glass.pours.some((p) => p.name === name)) expect(JSON.stringify(row.closed)).not.toContain(name)
  })
})

const withFigure = (name: 'abvPct' | 'sugarGPer100Ml' | 'acidGPer100Ml', value: number) => (i: Ingredient) => ({
  figures: { ...i.figures, [name]: { value, basis: 'measured' as const } },
})
const strength = (value: number) => withFigure('abvPct', value)
const sugar = (value: number) => withFigure('sugarGPer100Ml', value)
const acid = (value: number) => withFigure('acidGPer100Ml', value)

function moreOfTheFirst({ recipe }: Ingredient): object {
  if (!recipe) throw new Error('no recipe')
  const components = recipe.components.map((c, i) => (i === 0 ? { ...c, amount: c.amount * 1.3 } : c))
  return { recipe: { ...recipe, components } }
}

const withAlso =
  (slug: string) =>
  ({ recipe }: Ingredient) => {
    if (!recipe) throw new Error('no recipe')
    const first = recipe.components[0]?.amount ?? 1
    return { recipe: { ...recipe, components: [...recipe.components, { ingredient: slug, amount: first / 20 }] } }
  }
const withSalt = withAlso('salt')
const withMalic = withAlso('malic-acid')
