/**
 * An attack on what is sealed, by all that a role can fetch and write over a season. Whoever knows even the ratio looks
 * for the bottles that fit; and houses that differ in nothing but those bottles answer every question alike, so that no
 * cleverer attacker can do better.
 */

import { type HouseFileInput, houseFileSchema, type SplitPrep } from '@conch/contract'
import { type KnownOfSealed, lettersOf, type Recipe, waysToFill } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { SHELF_SHOWN } from '@conch/core/house'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ROUTES } from '../app.ts'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { diceOf } from '../testing/dice.ts'
import { openFresh, TestServer } from './testServer.ts'

const AT_LEAST = 50
/** Houses that are tried whole; each takes seconds. */
const TRIED = 2
const SEALED = ['ferry-nine', 'ebb-ledger'] as const
const ROLES = ['lead', 'bartender', 'viewer'] as const

const demoFile = (): HouseFileInput => structuredClone(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z')))

/** The fillings that fit what somebody knows; up to so many. */
const fitting = (recipe: Recipe, known: KnownOfSealed, shelf: readonly Ingredient[], most: number, seed: number) =>
  waysToFill(recipe, known, shelf, { most, mostMixed: 100_000, uniform: diceOf(seed).uniform }).ways

/** The house with other bottles in a sealed blend. */
function withBottles(slug: string, bottles: readonly string[]): HouseFileInput {
  const file = demoFile()
  const blend = file.ingredients.find((i) => i.slug === slug)
  if (!blend?.recipe) throw new Error(`no sealed ${slug} in the demo`)
  const letters = lettersOf(blend.recipe as never)
  blend.recipe.components = blend.recipe.components.map((c, i) => ({
    ...c,
    // The same letters on other bottles, or the letters would be what differs.
    letter: letters.get(c.ingredient)?.name,
    ingredient: bottles[i] ?? c.ingredient,
  })) as never
  // What was ever made, dealt and written of it is of the bottles that it holds.
  return {
    ...file,
    recipes: (file.recipes ?? []).filter((r) => r.ingredient !== slug),
    lots: (file.lots ?? []).filter((l) => l.ingredient !== slug),
    splitPreps: (file.splitPreps ?? []).filter((s) => s.ingredient !== slug),
    editions: file.editions.map(({ lock: _, ...e }) => e),
  }
}

const AT = new Date('2026-09-01T20:00:00Z')

async function open(file: HouseFileInput): Promise<TestServer> {
  // Its clock stands: how often something asks for the time is no answer.
  const server = new TestServer(await openFresh('pglite'), () => AT)
  await server.demo(houseFileSchema.parse(file))
  return server
}

/** Every address that is read, with everything that can stand in it. */
async function everyAddress(server: TestServer): Promise<string[]> {
  const { ingredients, wells } = (await server.house()).body
  const slugs = ingredients.map((i) => i.slug)
  const drinks = (await server.get<{ rows: { slug: string }[] }>('/api/drinks')).body.rows.map((d) => d.slug)
  const values: Record<string, readonly (string | number)[]> = {
    slug: drinks,
    number: [1, 2],
    id: [1, 2, 3],
    revision: [1],
  }
  const atWells = (search: string) => wells.map((w) => `?well=${w.slug}${search}`)
  const searches: Record<string, string[]> = {
    '/api/shelf': [
      ...slugs.flatMap((s) => [`?of=${s}`, `?near=bottle:${s}`, `?sweetLike=${s}`]),
      ...Object.keys(SHELF_SHOWN).map((s) => `?shown=${s}`),
      '?strongerThan=40',
    ],
    '/api/shelf/rows': ['', ...['abvPct', 'sugarGPer100Ml', 'acidGPer100Ml', 'price'].map((s) => `?sort=${s}`)],
    '/api/usual-amounts': [`?of=${slugs.slice(0, 40).join(',')}`],
    '/api/versions': drinks.map((d) => `?of=${d}@1`),
    '/api/feed': ['', '?after=1', '?after=40'],
    '/api/pourable': [
      ...atWells('&of=book&dark=with'),
      ...['no celery', 'no nuts', 'under 20 %', 'sweet', 'dry', 'funk', 'rum'].flatMap((w) =>
        atWells(`&of=book&wish=${encodeURIComponent(w)}`),
      ),
    ],
    '/api/tonight/markables': ['', ...slugs.slice(0, 40).map((s) => `?words=${s}`)],
    '/api/menu/poured': atWells(''),
    '/api/menu/next': atWells(''),
    '/api/shown-drinks': [...atWells(''), ...slugs.flatMap((s) => atWells(`&on=${s}`))],
  }
  const ofIngredients = ['/api/ingredients/{slug}/mixes', '/api/ingredients/{slug}/recipes']
  return ROUTES.filter((r) => r.method === 'get' && !r.path.includes('sign-in') && !r.path.endsWith('.pdf')).flatMap(
    ({ path }) => {
      const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1] ?? '')
      const ways = names.reduce<string[]>(
        (all, name) =>
          all.flatMap((p) =>
            (ofIngredients.includes(path) ? slugs : (values[name] ?? ['x'])).map((v) => p.replace(`{${name}}`, `${v}`)),
          ),
        [path],
      )
      return ways.flatMap((way) => (searches[path] ?? ['']).map((search) => way + search))
    },
  )
}

/** Each sealed blend in a drink that is poured, in an open mix, and in a lot of that; by a manager. */
async function pour(server: TestServer): Promise<void> {
  const entries = []
  for (const [i, ingredient] of SEALED.entries()) {
    const figures = { abvPct: 0, sugarGPer100Ml: 0, acidGPer100Ml: 0 }
    const document = {
      slug: `holds-${ingredient}`,
      name: `Holds ${ingredient}`,
      kind: 'houseMix',
      figures: Object.fromEntries(Object.entries(figures).map(([k, value]) => [k, { value, basis: 'assumed' }])),
      recipe: {
        by: 'volume',
        components: [
          { ingredient, amount: 331 },
          { ingredient: 'lime-juice', amount: 77 },
        ],
        keepsDays: 5,
      },
    }
    const put = await server.send('PUT', `/api/ingredients/${document.slug}`, { document, revision: 0 })
    expect(put.problem.detail).toBeUndefined()
    const made = await server.send('POST', '/api/lots', {
      ingredient: document.slug,
      factor: 2.7,
      weighed: [{ ingredient, actualG: 844.4 }],
    })
    expect(made.problem.detail).toBeUndefined()
    const name = `Pours ${i}`
    const drink = await server.drinkWithVersion(name, {
      pours: [
        { ingredient, volumeMl: 47 },
        { ingredient: document.slug, volumeMl: 23 },
      ],
      stages: [{ method: 'flashBlend', durationS: 4 }],
      glass: 'quay-tumbler',
    })
    entries.push({ drink: drink.slug, version: 1 })
  }
  const menu = await server.plan(entries)
  expect((await server.publish(menu.revision, 'Sealed')).status).toBe(201)
}

/** A season, as somebody sees it who may change the shelf: what they read before, after, and what they are answered. */
async function season(server: TestServer, bottles: readonly string[]): Promise<Map<string, string>> {
  const lead = { as: 'lead' }
  const seen = new Map<string, string>()
  await pour(server)
  const addresses = await everyAddress(server)
  const look = async (when: string) => {
    await server.services.glasses.settle()
    for (const as of ROLES)
      for (const address of addresses) {
        const { status, text } = await server.file(address, { as })
        seen.set(`${when}, ${as}: ${address}`, `${status} ${text}`)
      }
  }
  // After each single change: what moves with a bottle is what it is in.
  const glance = async (when: string) => {
    await server.services.glasses.settle()
    const some = addresses.filter((a) => /^\/api\/menu\/(poured|next)|^\/api\/shown-drinks\?well=\w+$/.test(a))
    const asked = [
      ...some,
      `/api/shelf?of=${SEALED.join(',')}`,
      '/api/shelf/rows?sort=abvPct',
      '/api/lots',
      '/api/tonight',
    ]
    for (const address of asked) {
      const { status, text } = await server.file(address, lead)
      seen.set(`${when}, a glance: ${address}`, `${status} ${text}`)
    }
  }
  await look('at first')
  const say = async (what: string, answer: Promise<{ status: number; body: unknown }>) => {
    const { status, body } = await answer
    seen.set(what, `${status} ${JSON.stringify(body)}`)
  }
  for (const [i, slug] of SEALED.entries()) {
    await server.send('POST', '/api/split-preps', {
      ingredient: slug,
      factor: 7 + i,
      hands: ['Lead', 'Bartender Hearth'],
    })
    for (const factor of [1, 3.3, 11])
      await say(`a lot of ${slug}`, server.send('POST', '/api/lots', { ingredient: slug, factor }, lead))
  }
  // Makings are weighed as a hand likes, and stations fitted to them.
  for (const drink of ['pours-0', 'pours-1']) {
    for (const afterG of [141.1, 152.2, 163.3])
      await say(
        `a trial of ${drink}, ${afterG}`,
        server.send(
          'POST',
          '/api/trials',
          {
            well: 'hearth',
            station: 'mixer',
            drink,
            version: 1,
            liquidBeforeG: 100,
            ice: [{ kind: 'crushed', massG: 150 }],
            durationS: 4,
            afterG,
          },
          lead,
        ),
      )
    const fit = { well: 'hearth', station: 'mixer', ice: 'crushed', since: '2026-09-01' }
    await say(`a fit after ${drink}`, server.send('POST', '/api/calibrations', fit, lead))
    const decided = { version: 1, reason: 'to see its figures' }
    await say(`a decision on ${drink}`, server.send('POST', `/api/drinks/${drink}/decisions`, decided, lead))
  }
  // The strength, the days, the allergens and the stock of every bottle that could be in it, one after another.
  const { ingredients, revisions } = (await server.house(lead)).body
  for (const slug of bottles) {
    const bottle = ingredients.find((i) => i.slug === slug)
    if (!bottle) continue
    const document = {
      ...bottle,
      keepsDays: 2,
      stock: 'out',
      allergens: ['celery'],
      figures: { ...bottle.figures, abvPct: { value: bottle.figures.abvPct.value + 20, basis: 'label' } },
    }
    // What it would do, before it does it.
    const foreseen = { kind: 'ingredients', document: { ...document, price: 12.34 } }
    await say(`what another ${slug} would do`, server.send('POST', '/api/foresight', foreseen, lead))
    await say(
      `another ${slug}`,
      server.send('PUT', `/api/ingredients/${slug}`, { document, revision: revisions.ingredients[slug] }, lead),
    )
    await glance(`another ${slug}`)
    await say(`a lot of ${slug}`, server.send('POST', '/api/lots', { ingredient: slug, useBy: '2026-09-03' }, lead))
    await glance(`a lot of ${slug}`)
    // Whatever it is in goes dark with it, if that can be seen.
    const isOut = { kind: 'ingredient', of: slug, well: null, level: 'out' }
    await say(`${slug} is out`, server.send('POST', '/api/outs', isOut, lead))
    await glance(`${slug} is out`)
    for (const of of SEALED) {
      await say(`a lot of ${of} after ${slug}`, server.send('POST', '/api/lots', { ingredient: of, factor: 2 }, lead))
      const asked = { name: 'Asked', pours: [{ ingredient: of, volumeMl: 41.3 }], glass: 'quay-tumbler' }
      await say(`${of} after ${slug}, 41.3 ml of it`, server.send('POST', '/api/preview', asked, lead))
    }
  }
  for (const slug of SEALED)
    await say(`a late lot of ${slug}`, server.send('POST', '/api/lots', { ingredient: slug, factor: 2 }, lead))
  for (const ml of [7, 30.3, 61.7])
    for (const ingredient of SEALED) {
      const document = {
        name: 'Asked',
        pours: [{ ingredient, volumeMl: ml }],
        stages: [{ method: 'stir', durationS: 20 }],
        glass: 'quay-tumbler',
      }
      await say(`${ml} ml of ${ingredient}`, server.send('POST', '/api/preview', document, lead))
    }
  await look('in the end')
  return seen
}

describe('whoever would know what is sealed', () => {
  let server: TestServer
  let shelf: Ingredient[]
  beforeAll(async () => {
    server = await open(demoFile())
    // As the house itself has it: what others are told stands in no answer, not even a manager's.
    shelf = [...(await server.services.held.now()).allIngredients()]
  })
  afterAll(() => server.database.close())

  /** What the half that was dealt to somebody says, as they get it. */
  async function halfOf(slug: string, hand: 'Lead' | 'Bartender Hearth'): Promise<Map<string, number>> {
    const { sealedAs } = shelf.find((i) => i.slug === slug) as Ingredient
    const as = hand === 'Lead' ? 'lead' : 'bartender'
    const preps = (await server.get<SplitPrep[]>('/api/split-preps', { as, called: hand })).body
    const lines = preps.find((p) => p.ingredient === slug)?.sheets.flatMap((s) => s.lines) ?? []
    expect(lines.length).toBeGreaterThan(0)
    // They are weighed in whole grams of a large batch: taken as finely as they can ever be.
    return new Map(lines.map((l) => [l.name, sealedAs?.shares[l.name] ?? 0]))
  }

  it.each(SEALED)(
    'knowing the ratio and a half by weight, is left with at least fifty ways of filling %s',
    async (slug) => {
      await server.send('POST', '/api/split-preps', {
        ingredient: slug,
        factor: 8,
        hands: ['Lead', 'Bartender Hearth'],
      })
      const blend = shelf.find((i) => i.slug === slug) as Ingredient
      const closed = (await server.house({ as: 'bartender' })).body.ingredients.find(
        (i) => i.slug === slug,
      ) as Ingredient
      for (const hand of ['Lead', 'Bartender Hearth'] as const) {
        const known = {
          abvPct: closed.figures.abvPct.value,
          sugarGPer100Ml: closed.figures.sugarGPer100Ml.value,
          allergens: closed.allergens,
          shares: await halfOf(slug, hand),
        }
        const ways = fitting(blend.recipe as Recipe, known, shelf, AT_LEAST, 1)
        expect(`${slug}, ${hand}: ${ways.length}`).toBe(`${slug}, ${hand}: ${AT_LEAST}`)
      }
    },
  )

  it.each(SEALED)(
    'with other bottles in %s that fit, every answer of a season is the same',
    async (slug) => {
      const blend = shelf.find((i) => i.slug === slug) as Ingredient
      const { recipe, sealedAs } = blend
      const known = {
        abvPct: sealedAs?.figures.abvPct ?? 0,
        sugarGPer100Ml: sealedAs?.figures.sugarGPer100Ml ?? 0,
        allergens: sealedAs?.allergens ?? [],
        // Of both halves: what each would see is the same then, too.
        shares: new Map(Object.entries(sealedAs?.shares ?? {})),
      }
      const own = (recipe as Recipe).components.map((c) => c.ingredient)
      const others = fitting(recipe as Recipe, known, shelf, 200, 7).filter((o) => o.join() !== own.join())
      expect(others.length).toBeGreaterThanOrEqual(1)
      // Those that share the fewest bottles say the most.
      const common = (o: readonly string[]) => o.filter((b) => own.includes(b)).length
      const tried = others.sort((a, b) => common(a) - common(b)).slice(0, TRIED)
      const bottles = [...new Set([...own, ...tried.flat()])]
      const first = await open(withBottles(slug, own))
      const seen = await season(first, bottles)
      expect(seen.size).toBeGreaterThan(1000)
      // What was asked was answered, and what was written was written, or nothing would have been attacked.
      const asked = [...seen].filter(([what]) => !/, (lead|bartender|viewer): |, a glance: /.test(what))
      expect(asked.length).toBeGreaterThan(40)
      expect(asked.filter(([, answer]) => !answer.startsWith('2'))).toEqual([])
      expect(
        [...seen].filter(([what, answer]) => what.includes(', lead: ') && answer.startsWith('200')).length,
      ).toBeGreaterThan(500)
      for (const other of tried) {
        const second = await open(withBottles(slug, other))
        const alike = await season(second, bottles)
        const differ = [...seen].filter(([what, answer]) => alike.get(what) !== answer).map(([what]) => what)
        expect({ other, differ: differ.slice(0, 12), of: differ.length }).toEqual({ other, differ: [], of: 0 })
        // For a manager they are two houses.
        const openly = async (s: TestServer) => (await s.file(`/api/shelf?of=${slug}`)).text
        expect(await openly(second)).not.toBe(await openly(first))
        await second.database.close()
      }
      await first.database.close()
    },
    900_000,
  )
})
