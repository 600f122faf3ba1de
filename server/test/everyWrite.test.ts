/** Every place of the API that writes, from the list of places itself: one event each, once, and none when refused. */

import type { Device, Draft, Drink, Menu, Tasting, VerifyReport } from '@conch/contract'
import type { Lot } from '@conch/core/lots'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ROUTES } from '../app.ts'
import { keptAnswers } from '../database/schema.ts'
import { heldAndStored, staleAnswers } from './keptAnswers.ts'
import { aDocument, aTrial, BACKENDS, openFresh, TestServer } from './testServer.ts'

interface Asked {
  path: string
  body?: object
  /** Who may, where it is not any manager. */
  as?: string
  called?: string
  /** A sign-in of its own. */
  headers?: { cookie: string }
  /** By what they know: nobody has to be signed in. */
  isForAnybody?: true
}

/** What is asked of each place, after what has to be there for it. A place without a line here fails. */
const ASK: Record<string, (server: TestServer) => Promise<Asked>> = {
  'PUT /api/house/settings': async (server) => {
    const { settings, revisions } = await house(server)
    return put('/api/house/settings', { ...settings, name: 'Another Parlour' }, revisions.settings)
  },
  'POST /api/people': async () => ({ path: '/api/people', body: { name: 'Ada', role: 'bartender' } }),
  'PUT /api/people/{id}': async (server) => {
    const made = await server.send<{ id: number }>('POST', '/api/people', { name: 'Ben', role: 'bartender' })
    return {
      path: `/api/people/${made.body.id}`,
      body: { name: 'Ben', role: 'lead', isActive: true, revision: 1 },
    }
  },
  'POST /api/sign-in': async (server) => {
    await newcomer(server, 'Comes In')
    return { path: '/api/sign-in', body: { name: 'comes in ', secret: A_PIN }, isForAnybody: true }
  },
  'POST /api/sign-out': async () => ({ path: '/api/sign-out', as: 'bartender', called: 'Goes Home' }),
  'POST /api/sign-out-everywhere': async () => ({
    path: '/api/sign-out-everywhere',
    body: {},
    as: 'viewer',
    called: 'Lost a phone',
  }),
  'POST /api/lock': async () => ({ path: '/api/lock', as: 'bartender', called: 'Washes hands' }),
  'PUT /api/own-secret': async (server) => {
    await newcomer(server, 'Chooses')
    const { headers } = await server.comeIn('Chooses', A_PIN)
    return { path: '/api/own-secret', body: { old: A_PIN, secret: '8305' }, headers }
  },
  'PUT /api/people/{id}/secret': async (server) => {
    const id = await newcomer(server, 'Forgets')
    return { path: `/api/people/${id}/secret`, body: { secret: '8305' } }
  },
  'DELETE /api/people/{id}/lock-out': async (server) => {
    const id = await newcomer(server, 'Mistypes')
    return { path: `/api/people/${id}/lock-out` }
  },
  'POST /api/device-codes': async () => ({ path: '/api/device-codes', body: A_TABLET }),
  'POST /api/devices': async (server) => {
    const { code } = (await server.send<{ code: string }>('POST', '/api/device-codes', A_TABLET)).body
    return { path: '/api/devices', body: { code }, isForAnybody: true }
  },
  'PUT /api/devices/{id}': async (server) => {
    const { id, revision } = await enrolled(server)
    return { path: `/api/devices/${id}`, body: { name: 'Yard tablet', well: 'yard', revision } }
  },
  'DELETE /api/devices/{id}': async (server) => ({ path: `/api/devices/${(await enrolled(server)).id}` }),
  'PUT /api/wells/{slug}': async (server) => change(server, 'wells', { name: 'Front, by the door' }),
  'PUT /api/glasses/{slug}': async (server) => change(server, 'glasses', { name: 'tall, new' }),
  'PUT /api/ingredients/{slug}': async (server) => change(server, 'ingredients', { name: 'Another name' }),
  'PUT /api/ingredients': async (server) => {
    const { ingredients, revisions } = await house(server)
    const changes = ingredients
      .slice(0, 3)
      .map(({ slug }) => ({ slug, revision: revisions.ingredients[slug] ?? 0, stock: 'low' }))
    return { path: '/api/ingredients', body: { changes } }
  },
  'PUT /api/slots/{slug}': async () => {
    const slot = {
      slug: 'heavy',
      name: 'Heavy',
      target: { weight: 8 },
      abvPct: { low: 40, high: 60 },
      candidates: [{ ingredient: 'aged-rum' }],
      pick: 'aged-rum',
    }
    return put('/api/slots/heavy', slot, 0)
  },
  'POST /api/ingredients.csv': async () => ({
    path: '/api/ingredients.csv',
    body: { csv: 'name,strength\nOne Rum,40\nTwo Rum,63\n', mode: 'whole' },
  }),
  'POST /api/lots': async () => ({ path: '/api/lots', body: { ingredient: 'lime-juice' } }),
  'POST /api/lots/{id}/events': async (server) => {
    const lot = (await server.send<Lot>('POST', '/api/lots', { ingredient: 'lime-juice' })).body
    return { path: `/api/lots/${lot.id}/events`, body: { event: { kind: 'usedUp' } } }
  },
  'POST /api/outs': async () => ({ path: '/api/outs', body: isOut('white-rum'), as: 'bartender' }),
  'POST /api/outs/{id}/end': async (server) => {
    const { id } = (await server.send<{ id: number }>('POST', '/api/outs', isOut('aged-rum'))).body
    return { path: `/api/outs/${id}/end`, body: { why: 'back' }, as: 'bartender' }
  },
  'POST /api/drinks/{slug}/tonight': async (server) => {
    const drink = await onTheMenu(server, 'Off Tonight')
    return { path: `/api/drinks/${drink}/tonight`, body: OFF, as: 'lead' }
  },
  'POST /api/tonight/choices/{id}/end': async (server) => {
    const drink = await onTheMenu(server, 'On Again')
    const { id } = (await server.send<{ id: number }>('POST', `/api/drinks/${drink}/tonight`, OFF)).body
    return { path: `/api/tonight/choices/${id}/end`, as: 'lead' }
  },
  'POST /api/rounds': async (server) => ({
    path: '/api/rounds',
    body: { state: 'made', round: await roundOf(server, '1'), skipped: ['lime juice'] },
    as: 'bartender',
  }),
  'POST /api/rounds/{id}/end': async (server) => {
    const parked = { state: 'parked', round: await roundOf(server, '2'), skipped: [] }
    const { id } = (await server.send<{ id: number }>('POST', '/api/rounds', parked)).body
    return { path: `/api/rounds/${id}/end`, body: { why: 'takenUp' }, as: 'bartender' }
  },
  'POST /api/practice': async () => ({
    path: '/api/practice',
    body: {
      kind: 'pours',
      scale: 'simulated',
      pours: [1, 2, 3, 4].map((n) => ({ wantedMl: 15, gotMl: 14 + n / 2 })),
    },
    as: 'bartender',
  }),
  'POST /api/flights': async () => ({
    path: '/api/flights',
    body: {
      document: { scores: ['white-rum', 'aged-rum'].map((ingredient) => ({ ingredient, style: { weight: 2 } })) },
    },
  }),
  'POST /api/split-preps': async (server) => {
    const { ingredients } = await house(server)
    const bottles = ingredients.filter((i) => i.recipe === undefined).slice(0, 4)
    const figures = Object.fromEntries(
      ['abvPct', 'sugarGPer100Ml', 'acidGPer100Ml'].map((figure) => [figure, { value: 0, basis: 'recipe' }]),
    )
    const components = bottles.map((b) => ({ ingredient: b.slug, amount: 10 }))
    const recipe = { by: 'partsByWeight', components }
    const sealed = { slug: 'code-name', name: 'Code Name', kind: 'houseMix', isSealed: true, figures, recipe }
    await server.send('PUT', '/api/ingredients/code-name', { document: sealed, revision: 0 })
    return { path: '/api/split-preps', body: { ingredient: 'code-name', hands: ['Ann', 'Ben'] } }
  },
  'POST /api/trials': async () => ({ path: '/api/trials', body: aTrial() }),
  'POST /api/trials/{id}/events': async (server) => {
    const { id } = (await server.send<{ id: number }>('POST', '/api/trials', aTrial())).body
    return { path: `/api/trials/${id}/events`, body: { event: { kind: 'excluded', reason: 'the bin leaked' } } }
  },
  'POST /api/calibrations': async (server) => {
    for (const afterG of [139, 141, 142]) await server.send('POST', '/api/trials', aTrial({ afterG }))
    return { path: '/api/calibrations', body: { well: 'front', station: 'flash-blend', ice: 'crushed' } }
  },
  'POST /api/drinks': async () => ({ path: '/api/drinks', body: { name: 'New Here' } }),
  'DELETE /api/drinks/{slug}': async (server) => {
    await server.createDrink('Thrown Away')
    return { path: '/api/drinks/thrown-away' }
  },
  'PUT /api/drinks/{slug}/hidden': async (server) => {
    await server.drinkWithVersion('Put Aside')
    return { path: '/api/drinks/put-aside/hidden', body: { isHidden: true } }
  },
  'POST /api/drinks/{slug}/versions': async (server) => {
    const { draft } = await server.createDrink('To Be Saved')
    const saved = await server.saveDraft('to-be-saved', aDocument({ name: 'To Be Saved' }), draft?.revision ?? 0)
    return {
      path: '/api/drinks/to-be-saved/versions',
      body: { draftRevision: saved.body.revision, reason: 'first writing' },
    }
  },
  'POST /api/drinks/{slug}/found': async (server) => {
    await server.drinkWithVersion('In A Book')
    const origin = { kind: 'historical' }
    const sources = [{ kind: 'book', title: 'A book' }]
    return { path: '/api/drinks/in-a-book/found', body: { document: aDocument(), origin, sources } }
  },
  'POST /api/drinks/{slug}/versions/{number}/findings': async (server) => {
    await server.drinkWithVersion('Asked About')
    return { path: '/api/drinks/asked-about/versions/1/findings', body: { kind: 'question', asks: 'who made it?' } }
  },
  'POST /api/drinks/{slug}/decisions': async (server) => {
    await server.drinkWithVersion('Decided')
    return { path: '/api/drinks/decided/decisions', body: { version: 1, reason: 'the best of two' } }
  },
  'POST /api/tastings': async (server) => (await tasting(server)).asked,
  'POST /api/tastings/{id}/sheets': async (server) => {
    const { id, codes } = await (await tasting(server)).draw()
    return { path: `/api/tastings/${id}/sheets`, body: { taster: 'Ann', code: codes[0], scores: { like: 4 } } }
  },
  'POST /api/tastings/{id}/close': async (server) => {
    const { id, codes } = await (await tasting(server)).draw()
    for (const taster of ['Ann', 'Ben'])
      await server.send(
        'POST',
        `/api/tastings/${id}/sheets`,
        { taster, code: codes[0], scores: { like: 3 } },
        { as: 'lead' },
      )
    return { path: `/api/tastings/${id}/close`, as: 'bartender', called: 'Maker' }
  },
  'POST /api/tastings/{id}/abandon': async (server) => {
    const { id } = await (await tasting(server)).draw()
    return { path: `/api/tastings/${id}/abandon`, body: { why: 'the ice ran out' } }
  },
  'POST /api/drinks/{slug}/versions/{number}/notes': async (server) => {
    await server.drinkWithVersion('Spoken Of')
    return { path: '/api/drinks/spoken-of/versions/1/notes', body: { says: 'tooSour', well: 'front' } }
  },
  'POST /api/drinks/{slug}/versions/{number}/notes/answer': async () => {
    const body = { isTaken: false, words: 'the limes were green', proposal: 'sour 0.92 → 0.86' }
    return { path: '/api/drinks/spoken-of/versions/1/notes/answer', body }
  },
  'PUT /api/menu': async (server) => {
    await server.drinkWithVersion('Planned')
    const { revision } = (await server.get<Menu>('/api/menu')).body
    const plan = { chapters: [{ name: 'Long', entries: [{ drink: 'planned', version: 1 }] }] }
    return { path: '/api/menu', body: { plan, revision } }
  },
  'POST /api/editions': async (server) => {
    const drink = await server.drinkWithVersion('Published')
    const { revision } = await server.plan([{ drink: drink.slug, version: 1 }])
    return { path: '/api/editions', body: { name: 'Summer', note: '', planRevision: revision } }
  },
  'POST /api/model': async (server) => {
    await server.publishByEarlierModel('Of Another Model')
    const { revision } = (await server.get<Menu>('/api/menu')).body
    return { path: '/api/model', body: { reason: 'ice is computed anew', drinks: [], planRevision: revision } }
  },
  'PUT /api/drinks/{slug}/draft': async (server) => {
    const { draft } = await server.createDrink('Drafted')
    const body = { document: aDocument({ name: 'Drafted' }), revision: draft?.revision ?? 0, baseVersion: null }
    return { path: '/api/drinks/drafted/draft', body }
  },
  'DELETE /api/drinks/{slug}/draft/{revision}': async (server) => {
    const { draft } = await server.createDrink('Dropped')
    return { path: `/api/drinks/dropped/draft/${draft?.revision}` }
  },
  ...draftsOf('ingredients'),
  ...draftsOf('slots'),
}

const A_PIN = '5927'
const A_TABLET = { name: 'Front tablet', well: 'front' }

/** Somebody new, who can sign in. @returns their number */
async function newcomer(server: TestServer, name: string): Promise<number> {
  const made = await server.send<{ id: number }>('POST', '/api/people', { name, role: 'bartender', secret: A_PIN })
  return made.body.id
}

async function enrolled(server: TestServer): Promise<Device> {
  const { code } = (await server.send<{ code: string }>('POST', '/api/device-codes', A_TABLET)).body
  return (await server.send<Device>('POST', '/api/devices', { code }, { as: '' })).body
}

/** Two versions to taste, made by somebody who does not taste. */
async function tasting(server: TestServer) {
  for (const name of ['One To Taste', 'Two To Taste'])
    if ((await server.get(`/api/drinks/${name.toLowerCase().replaceAll(' ', '-')}`)).status === 404)
      await server.drinkWithVersion(name)
  const makerId = await server.idOf({ as: 'bartender', called: 'Maker' })
  const subjects = ['one-to-taste', 'two-to-taste'].map((drink) => ({ drink, version: 1 }))
  const body = { question: 'which one?', subjects, tasters: ['Ann', 'Ben'], makerId }
  return {
    asked: { path: '/api/tastings', body },
    draw: async () => {
      const { id } = (await server.send<{ id: number }>('POST', '/api/tastings', body)).body
      const { document } = (await server.get<Tasting>(`/api/tastings/${id}`)).body
      return { id, codes: document.orders[0] ?? [] }
    },
  }
}

const isOut = (of: string) => ({ kind: 'ingredient', of, well: null, level: 'out' })
const OFF = { well: null, kind: 'off', words: 'no hands for it', sees: null }

/** A round of one drink, with a key of its own. */
async function roundOf(server: TestServer, digit: string) {
  const { slug } = await server.drinkWithVersion(`Round ${digit}`)
  const { versions } = (await server.get<Drink>(`/api/drinks/${slug}`)).body
  const [load] = versions.map((v) => ({ id: 'a', drink: slug, version: v.number, document: v.document, glasses: 1 }))
  const { wells } = await house(server)
  return {
    key: digit.repeat(32),
    well: wells[0]?.slug,
    startedAt: '2026-09-01T21:00:00Z',
    loads: [load],
    ticks: ['pour:a:0'],
    poured: {},
    clocks: {},
  }
}

async function onTheMenu(server: TestServer, name: string): Promise<string> {
  const { slug } = await server.drinkWithVersion(name)
  await server.publish((await server.plan([{ drink: slug, version: 1 }])).revision, name)
  return slug
}

const keptUnder = async ({ database }: TestServer, key: string) =>
  (await database.db.select().from(keptAnswers).where(eq(keptAnswers.key, key))).length

/** Words that are not finished are no event. */
const leavesNone = (place: string) => place.includes('/draft')

const house = async (server: TestServer) => (await server.house()).body
const put = (path: string, document: object, revision: number): Asked => ({ path, body: { document, revision } })

async function change(
  server: TestServer,
  kind: 'wells' | 'glasses' | 'ingredients' | 'slots',
  changes: object,
): Promise<Asked> {
  const all = await house(server)
  const first = all[kind][0] as { slug: string }
  return put(`/api/${kind}/${first.slug}`, { ...first, ...changes }, all.revisions[kind][first.slug] ?? 0)
}

/** The two writes of the draft of a thing of the shelf. */
function draftsOf(kind: 'ingredients' | 'slots'): typeof ASK {
  const saved = async (server: TestServer) => {
    const { path, body } = await change(server, kind, { name: 'Half done' })
    const { document } = body as { document: object }
    const { revision } = (await server.get<Draft | null>(`${path}/draft`)).body ?? { revision: 0 }
    return { path: `${path}/draft`, body: { document, revision, baseVersion: null } }
  }
  return {
    [`PUT /api/${kind}/{slug}/draft`]: saved,
    [`DELETE /api/${kind}/{slug}/draft/{revision}`]: async (server) => {
      const { path, body } = await saved(server)
      const { revision } = (await server.send<Draft>('PUT', path, body)).body
      return { path: `${path}/${revision}` }
    },
  }
}

const places = ROUTES.filter((r) => r.writes === 'atOnce').map((r) => `${r.method.toUpperCase()} ${r.path}`)
/** Set up what the others need, below; the claim of a house that came in is tried where people sign in. */
const ELSEWHERE = ['POST /api/house', 'POST /api/claim']
const isHere = (place: string) => !ELSEWHERE.includes(place)
const isSecret = (place: string) =>
  ROUTES.some((r) => r.isSecret === true && `${r.method.toUpperCase()} ${r.path}` === place)

describe.each(BACKENDS)('every write on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
  })
  afterAll(() => server.database.close())
  const events = async () => (await server.get<VerifyReport>('/api/verify')).body.events

  it('setting up a house is one event', async () => {
    expect((await server.setUp()).status).toBe(201)
    expect(await events()).toBe(1)
    expect((await server.setUp('Again')).status).toBe(409)
    expect(await events()).toBe(1)
    await server.drinkWithVersion('Harbour Test')
  })

  it('is in the list below, and nothing else is', () => {
    expect(Object.keys(ASK).sort()).toEqual(places.filter(isHere).sort())
    // An import brings its own chain; it is looked at where copies are.
    const byThemselves = ROUTES.filter((r) => r.writes === 'byItself').map((r) => r.path)
    expect(byThemselves).toEqual(['/api/import', '/api/import/{id}/cancel'])
  })

  it.each(places.filter(isHere))('%s', async (place) => {
    const [method = ''] = place.split(' ')
    const ask = ASK[place] as (server: TestServer) => Promise<Asked>
    const { path, body, as, called, headers, isForAnybody } = await ask(server)
    const who = headers ?? (isForAnybody ? { as: '' } : as ? { as, ...(called ? { called } : {}) } : {})
    // They are met before anything is counted.
    if (!headers) await server.header(who)
    const before = await events()
    // Nobody in particular changes nothing.
    if (!isForAnybody) {
      expect((await server.send(method, path, body, { as: '' })).status).toBeGreaterThanOrEqual(400)
      expect(await events()).toBe(before)
    }
    if (body) {
      const refused = await server.send(method, path, { ...body, unheardOf: 1 }, who)
      expect([refused.status, refused.problem.detail]).toEqual([422, expect.stringContaining('unheardOf')])
      expect(await events()).toBe(before)
    }
    const key = { 'idempotency-key': place.replace(/\W+/g, '-'), ...who }
    const first = await server.send(method, path, body, key)
    expect(first.problem.detail).toBeUndefined()
    expect(first.status).toBeLessThan(300)
    const after = before + (leavesNone(place) ? 0 : 1)
    expect(await events()).toBe(after)
    // Sent again, as a device does that has not heard the answer: the same answer, and nothing more.
    if (!isSecret(place)) expect(await server.send(method, path, body, key)).toEqual(first)
    // What is secret is not kept to be told again.
    else expect(await keptUnder(server, key['idempotency-key'])).toBe(0)
    expect(await events()).toBe(after)
    // Whatever was changed: nobody is told what was before.
    expect(await staleAnswers(server)).toEqual([])
    const [held, stored] = await heldAndStored(server)
    expect(held).toEqual(stored)
  })
})
