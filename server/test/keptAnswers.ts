/** Every place whose answer is kept, and whether what is kept is what would be answered anew. */

import { ROUTES } from '../app.ts'
import { shelfInOrder } from '../features/house/resolvedShelf.ts'
import type { HeldHouse } from '../held/index.ts'
import { readHouse } from '../held/index.ts'
import { TestServer } from './testServer.ts'

export const KEPT = ROUTES.filter((r) => r.isKept).map((r) => r.path)

const ROLES = ['manager', 'bartender'] as const

/** Everything that may stand in an address, by the place. */
export async function addressesOf(server: TestServer): Promise<string[]> {
  const slugs = (rows: { slug: string }[]) => rows.map((r) => r.slug)
  const drinks = slugs((await server.get<{ rows: { slug: string }[] }>('/api/drinks')).body.rows)
  const held = await server.services.held.now()
  const lots = (await server.get<{ rows: { id: number }[] }>('/api/lots')).body.rows.map((l) => l.id)
  const editions = (await server.get<{ number: number }[]>('/api/editions')).body.map((e) => e.number)
  const ingredients = held.allIngredients().filter((i) => i.recipe)
  const fillings: Record<string, readonly (string | number)[]> = {
    '/api/drinks/{slug}': drinks,
    '/api/drinks/{slug}/lineage': drinks,
    '/api/drinks/{slug}/versions/{number}/notes': drinks,
    '/api/lots/{id}': lots,
    '/api/editions/{number}': editions.slice(0, 2),
    '/api/ingredients/{slug}/recipes': slugs(ingredients),
    '/api/ingredients/{slug}/in-the-open': slugs(ingredients),
    '/api/ingredients/{slug}/others-know': slugs(ingredients),
    '/api/ingredients/{slug}/mixes': ['lime-juice', ...slugs(ingredients)],
  }
  const wells = held.base?.wells.map((w) => w.slug) ?? []
  /** What stands behind the question mark, where a place wants something there. */
  const asked: Record<string, readonly string[]> = {
    '/api/usual-amounts': ['?of=lime-juice,white-rum'],
    '/api/versions': [`?of=${drinks.map((d) => `${d}@1`).join(',')}`],
    '/api/shelf': [
      '?shown=all',
      '?of=lime-juice,sugar-syrup',
      '?words=lime',
      '?sweetLike=sugar-syrup',
      '?strongerThan=9',
    ],
    '/api/shelf/rows': ['', '?shown=mixes', '?sort=name&down=yes', '?sort=abvPct', '?words=rum&shown=spirit'],
    '/api/lots': ['', '?open=yes&sort=useBy', '?sort=name&down=yes', '?words=lime', '?of=lime-juice'],
    '/api/flights': ['', '?of=white-rum'],
    '/api/drinks': [
      '',
      '?sort=poured',
      '?sort=versions&down=yes',
      '?sort=changed',
      '?words=harbur',
      '?hidden=with&down=yes',
      '?made=yes',
    ],
    '/api/pourable': wells.flatMap((w) => ['menu', 'book'].map((of) => `?well=${w}&of=${of}&dark=with`)),
    '/api/tonight/markables': ['', '?words=lime', '?words=rum'],
    '/api/menu/poured': wells.map((w) => `?well=${w}`),
    '/api/menu/next': wells.map((w) => `?well=${w}`),
    '/api/shown-drinks': wells.flatMap((w) => [`?well=${w}`, `?well=${w}&menu=yes`, `?well=${w}&on=lime-juice`]),
  }
  return KEPT.flatMap((path) => {
    if (!path.includes('{')) return (asked[path] ?? ['']).map((search) => path + search)
    const filling = fillings[path]
    if (!filling) throw new Error(`nothing is known to put into ${path}`)
    return filling.map((value) => path.replace(/\{\w+\}/, String(value)).replace('{number}', '1'))
  })
}

/** Those addresses whose kept answer is not what a server that has just begun says; for a manager and a bartender. */
export async function staleAnswers(server: TestServer): Promise<string[]> {
  const anew = new TestServer(server.database, server.services.now, server.services)
  // Whoever is met first comes in.
  for (const as of ROLES) await server.header({ as })
  const stale: string[] = []
  for (const path of await addressesOf(server))
    for (const as of ROLES) {
      const [kept, fresh] = [await server.get(path, { as }), await anew.get(path, { as })]
      if (JSON.stringify(kept.body) === JSON.stringify(fresh.body)) continue
      // The bar's day may have turned between the two.
      const again = await server.get(path, { as })
      if (JSON.stringify(again.body) !== JSON.stringify(fresh.body)) stale.push(`${path} for a ${as}`)
    }
  return stale
}

/** All that is held, as plain data. */
const written = (held: HeldHouse, now: Date) => {
  const ingredients = held.allIngredients()
  return {
    base: held.base,
    people: held.people,
    drafts: held.drafts,
    listed: held.listed,
    drinks: held.drinksByName().all,
    at: held.at,
    lots: held.allOpenLots(),
    // What is held of it follows each change by itself.
    byStrength: held.base && shelfInOrder(held, { shown: 'all', sort: 'abvPct', isDown: false, isOpen: true }, now),
    ingredients: ingredients.map((i) => ({
      document: i,
      revision: held.ingredientRevision(i.slug),
      holders: [...held.holdersOf(i.slug)].sort(),
      namesakes: [...held.namesakesOf(i.slug)].sort(),
      lots: held.openLotsOf(i.slug).map((l) => l.id),
      profile: held.profileOf(i.slug),
      fruitYield: held.fruitYieldOf(i.slug),
    })),
  }
}

/** What is held, and what is in the database. */
export async function heldAndStored(server: TestServer): Promise<[held: object, stored: object]> {
  const now = server.services.now()
  return [written(await server.services.held.now(), now), written(await readHouse(server.database.db), now)]
}
