/** What is sealed stays sealed: every endpoint and every export, asked by those who may not open it. */

import { inflateSync } from 'node:zlib'
import type { Edition, OthersKnow, Pourable, RecipeVersion, SplitPrep } from '@conch/contract'
import { SHELF_SHOWN } from '@conch/core/house'
import type { Lot } from '@conch/core/lots'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aDocument, BACKENDS, historyStays, openFresh, TestServer } from './testServer.ts'

const figure = (value: number) => ({ value, basis: 'assumed' })
const figures = { abvPct: figure(0), sugarGPer100Ml: figure(0), acidGPer100Ml: figure(0) }

/** The bottle that only the sealed blend holds; its shares; words of its maker. */
const BOTTLE = 'xanthic-reserve'
const SECRETS = ['37.131', '62.869', 'only-the-maker-knows', 'stir-it-with-a-feather', '271.8281']

const sealedBlend = (more: object = {}) => ({
  slug: 'code-name',
  name: 'Code Name',
  kind: 'blend',
  figures,
  note: 'only-the-maker-knows',
  allergens: [],
  isSealed: true,
  recipe: {
    by: 'percentByVolume',
    components: [
      { ingredient: BOTTLE, amount: 37.131, note: 'only-the-maker-knows' },
      { ingredient: 'aged-rum', amount: 62.869 },
    ],
    steps: [{ text: 'stir-it-with-a-feather' }],
  },
  ...more,
})

const ROLES = ['lead', 'bartender'] as const

describe.each(BACKENDS)('on %s', (backend) => {
  let server: TestServer
  let lotId = 0
  let tastingId = 0
  const as = (role: string, name = role) => ({ as: role, called: name })
  const put = (document: { slug: string; [more: string]: unknown }, revision = 0, headers = {}) =>
    server.send('PUT', `/api/ingredients/${document.slug}`, { document, revision }, headers)

  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    const reserve = {
      slug: BOTTLE,
      name: 'Xanthic Reserve',
      kind: 'spirit',
      figures: { ...figures, abvPct: figure(58) },
      allergens: ['sulphites'],
      price: 80,
      size: 700,
    }
    expect((await put(reserve)).status).toBe(200)
    expect((await put(sealedBlend())).status).toBe(200)
    // A sealed mix with an emulsion in it, and an open one that holds the sealed blend.
    const butter = { slug: 'butter-heart', name: 'Butter Heart', kind: 'houseMix', figures }
    const part = (ingredient: string, amount = 100) => ({ ingredient, amount })
    expect(
      (await put({ ...butter, recipe: { by: 'weight', components: [part('sugar-syrup')], isEmulsion: true } })).status,
    ).toBe(200)
    const closedMix = { ...butter, slug: 'closed-mix', name: 'Closed Mix', isSealed: true }
    expect(
      (await put({ ...closedMix, recipe: { by: 'weight', components: [part('butter-heart', 271.8281)] } })).status,
    ).toBe(200)
    const open = { ...butter, slug: 'open-mix', name: 'Open Mix' }
    expect(
      (await put({ ...open, recipe: { by: 'weight', components: [part('code-name'), part('sugar-syrup')] } })).status,
    ).toBe(200)
    const pours = ['code-name', 'open-mix', 'closed-mix', 'lime-juice'].map((ingredient) => ({
      ingredient,
      volumeMl: 20,
    }))
    await server.drinkWithVersion('Sealed Sling', { pours })
    const menu = await server.plan([{ drink: 'sealed-sling', version: 1 }])
    expect((await server.publish(menu.revision)).status).toBe(201)
    const made = await server.send<Lot>('POST', '/api/lots', {
      ingredient: 'code-name',
      factor: 7,
      weighed: [{ ingredient: BOTTLE, actualG: 240 }],
    })
    expect(made.status).toBe(201)
    lotId = made.body.id
    const dealt = await server.send('POST', '/api/split-preps', {
      ingredient: 'code-name',
      factor: 7,
      hands: ['Ann', 'Ben'],
    })
    expect(dealt.status).toBe(201)
    // What is decided about a drink, said of it and tasted holds figures of it, too.
    const decided = { version: 1, reason: 'only-this-one' }
    expect((await server.send('POST', '/api/drinks/sealed-sling/decisions', decided)).status).toBe(201)
    const noted = { says: 'tooSweet', well: 'front' }
    expect((await server.send('POST', '/api/drinks/sealed-sling/versions/1/notes', noted)).status).toBe(201)
    await server.drinkWithVersion('Open Sling', { pours: [{ ingredient: 'white-rum', volumeMl: 50 }] })
    const subjects = ['sealed-sling', 'open-sling'].map((drink) => ({ drink, version: 1 }))
    const tasting = await server.send<{ id: number }>('POST', '/api/tastings', {
      question: 'which?',
      subjects,
      tasters: ['Ann', 'Ben'],
    })
    tastingId = tasting.body.id
    await server.services.glasses.settle()
  })
  afterAll(() => server.database.close())

  /** Every place of the API that is read, with every value that its parameters can have here. */
  async function everyReading(): Promise<string[]> {
    const { paths } = (await server.get<{ paths: Record<string, object> }>('/api/openapi.json')).body
    const { ingredients, wells } = (await server.house()).body
    const slugs = ingredients.map((i) => i.slug)
    const values: Record<string, string[]> = {
      '/api/lots/{id}': [String(lotId)],
      '/api/lots/{id}/label.pdf': [String(lotId)],
      '/api/editions/{number}': ['1'],
      '/api/drinks/{slug}': ['sealed-sling'],
      '/api/drinks/{slug}/lineage': ['sealed-sling'],
      '/api/drinks/{slug}/versions/{number}/notes': ['sealed-sling'],
      '/api/tastings/{id}': [String(tastingId)],
      '/api/tastings/{id}/key': [String(tastingId)],
      '/api/ingredients/{slug}/recipes': ingredients.map((i) => i.slug),
      '/api/ingredients/{slug}/draft': ingredients.map((i) => i.slug),
      '/api/drinks/{slug}/draft': ['sealed-sling'],
      '/api/slots/{slug}/draft': ['any'],
      '/api/import/{id}': ['00000000-0000-4000-8000-000000000000'],
      '/api/ingredients/{slug}/mixes': slugs,
      '/api/ingredients/{slug}/in-the-open': slugs,
      '/api/ingredients/{slug}/others-know': slugs,
    }
    const atWells = (search: string) => wells.map((w) => `?well=${w.slug}${search}`)
    /** What stands behind the question mark: everything that can stand there. */
    const searches: Record<string, string[]> = {
      '/api/shelf': [
        ...slugs.flatMap((slug) => [
          `?of=${slug}`,
          `?near=bottle:${slug}`,
          `?sweetLike=${slug}`,
          `?words=${slug}`,
          `?meant=${slug}`,
        ]),
        `?of=${slugs.filter((s) => s !== BOTTLE).join(',')}`,
        ...Object.keys(SHELF_SHOWN).map((shown) => `?shown=${shown}`),
        '?strongerThan=0',
        '?words=secret',
      ],
      '/api/shelf/rows': ['', '?sort=abvPct', '?words=code', ...Object.keys(SHELF_SHOWN).map((s) => `?shown=${s}`)],
      '/api/usual-amounts': slugs.map((slug) => `?of=${slug}`),
      '/api/lots': ['', '?open=yes', '?words=xanthic', ...slugs.map((slug) => `?of=${slug}`)],
      '/api/flights': ['', ...slugs.map((slug) => `?of=${slug}`)],
      '/api/versions': ['?of=sealed-sling@1'],
      '/api/feed': ['', '?after=0', '?after=5'],
      '/api/pourable': ['', `&wish=${BOTTLE}`, '&wish=no%20nuts', '&dark=with'].flatMap((s) => atWells(`&of=book${s}`)),
      '/api/tonight/markables': ['', ...slugs.map((slug) => `?words=${slug}`)],
      '/api/drinks': ['', '?hidden=with', '?words=sling', '?of=sealed-sling', '?made=yes'],
      '/api/menu/poured': atWells(''),
      '/api/menu/next': atWells(''),
      '/api/shown-drinks': [
        ...atWells(''),
        ...atWells('&menu=yes'),
        ...slugs.flatMap((slug) => atWells(`&on=${slug}`)),
      ],
    }
    expect(wells.length).toBe(2)
    const readings = Object.entries(paths).filter(([, methods]) => 'get' in methods)
    expect(readings.length).toBeGreaterThan(15)
    return [
      '/api/openapi.json',
      '/api/schemas/drink.json',
      `/api/labels.pdf?lots=${lotId}`,
      ...readings.flatMap(([path]) => {
        if (!path.includes('{')) return (searches[path] ?? ['']).map((search) => path + search)
        const all = values[path]
        // A new place must be thought about here before it passes.
        if (!all) throw new Error(`nobody has said how ${path} is asked`)
        return all.map((v) => path.replace(/\{\w+\}/, v).replace('{number}', '1'))
      }),
    ]
  }

  /** What is answered, whatever it is; a PDF with its streams unpacked. */
  async function read(path: string, headers: Record<string, string>): Promise<string> {
    const { text } = await server.file(path, headers)
    const streams = [...text.matchAll(/stream\r?\n([\s\S]*?)\r?\nendstream/g)].map((m) => {
      try {
        return inflateSync(Buffer.from(m[1] ?? '', 'latin1')).toString('latin1')
      } catch {
        return ''
      }
    })
    return [text, ...streams].join('\n')
  }

  /** The house without the secret bottle's own place on the shelf: there it may stand, as any bottle does. */
  function withoutOwnPlace(path: string, text: string): string {
    // What is asked for by its slug brings what it is made of: there it may not stand.
    if (path.startsWith('/api/shelf') && !path.includes('of=') && text.startsWith('{"')) {
      const shelf = JSON.parse(text) as Record<string, unknown>
      const isOther = (x: unknown) => {
        const { slug, ingredient } = x as { slug?: string; ingredient?: string | { slug: string } }
        const own =
          typeof x === 'string' ? x : (slug ?? (typeof ingredient === 'string' ? ingredient : ingredient?.slug))
        return own !== BOTTLE
      }
      return JSON.stringify(
        Object.fromEntries(
          Object.entries(shelf).map(([key, value]) => [
            key,
            Array.isArray(value)
              ? value.filter(isOther)
              : typeof value === 'object' && value
                ? { ...value, [BOTTLE]: undefined }
                : value,
          ]),
        ),
      )
    }
    // That the bottle itself was changed is no word about what it is in.
    if (path.startsWith('/api/feed')) return text.replaceAll(`"ingredient/${BOTTLE}"`, '')
    if (path === '/api/ingredients.csv')
      return text
        .split('\n')
        .filter((line) => !line.startsWith('Xanthic Reserve'))
        .join('\n')
    return text
  }

  function expectNoSecret(path: string, text: string): void {
    const rest = withoutOwnPlace(path, text)
    for (const secret of SECRETS) expect(`${path}: ${rest.includes(secret) ? secret : 'none'}`).toBe(`${path}: none`)
    // Asked for by its own name, an answer may say that name back.
    if (!path.includes(BOTTLE))
      expect(`${path}: ${/xanthic/i.test(rest) ? 'the bottle' : 'none'}`).toBe(`${path}: none`)
  }

  it('is there for the manager, or this would prove nothing', async () => {
    const all = await Promise.all((await everyReading()).map((path) => read(path, as('manager'))))
    for (const secret of SECRETS) expect(all.some((text) => text.includes(secret))).toBe(true)
    expect(all.filter((text) => /xanthic/i.test(text)).length).toBeGreaterThan(4)
  })

  it.each(ROLES)('no reading gives it to a %s', async (role) => {
    for (const path of await everyReading()) expectNoSecret(path, await read(path, as(role)))
  })

  it.each(ROLES)('nor does a wish for it find what holds it, for a %s', async (role) => {
    for (const wish of [BOTTLE, 'xanthic', 'code name'])
      for (const { slug } of (await server.house()).body.wells) {
        const path = `/api/pourable?well=${slug}&of=book&dark=with&wish=${encodeURIComponent(wish)}`
        const { status, body } = await server.get<Pourable>(path, as(role))
        if (status !== 200) continue
        const found = body.drinks.map((d) => d.drink)
        // By the name that everybody knows it is found.
        expect(`${wish}: ${found.includes('sealed-sling')}`).toBe(`${wish}: ${wish === 'code name'}`)
      }
  })

  it.each(ROLES)('no writing gives it to a %s, allowed or refused', async (role) => {
    const headers = as(role)
    const house = (await server.house(headers)).body
    const closed = house.ingredients.find((i) => i.slug === 'code-name')
    const revision = house.revisions.ingredients['code-name']
    const lime = house.ingredients.find((i) => i.slug === 'lime-juice')
    const draft = aDocument({ pours: [{ ingredient: 'code-name', volumeMl: 30 }] })
    const writes: [string, string, unknown][] = [
      ['PUT', '/api/ingredients/code-name', { document: closed, revision }],
      ['PUT', '/api/ingredients/code-name', { document: { ...closed, closed: undefined }, revision }],
      ['PUT', '/api/ingredients/code-name', { document: { ...lime, slug: 'code-name' }, revision: 0 }],
      [
        'PUT',
        '/api/ingredients/probe',
        {
          document: {
            ...sealedBlend(),
            slug: 'probe',
            isSealed: false,
            recipe: { by: 'weight', components: [{ ingredient: 'code-name', amount: 1 }] },
            kind: 'houseMix',
          },
          revision: 0,
        },
      ],
      // A bottle made of the blend would go round in a circle only if the blend held it.
      [
        'PUT',
        '/api/ingredients/aged-rum',
        {
          document: {
            ...lime,
            slug: 'aged-rum',
            kind: 'houseMix',
            recipe: { by: 'weight', components: [{ ingredient: 'code-name', amount: 1 }] },
          },
          revision: 1,
        },
      ],
      ['POST', '/api/ingredients.csv', { csv: 'name,strength\nCode Name,40\n', mode: 'check' }],
      ['POST', '/api/lots', { ingredient: 'code-name', weighed: [{ ingredient: 'aged-rum', actualG: 10 }] }],
      [
        'POST',
        '/api/lots',
        { ingredient: 'code-name', factor: 3, weighed: [{ ingredient: 'part-b', actualG: 111.5 }] },
      ],
      ['POST', `/api/lots/${lotId}/events`, { event: { kind: 'labelled', copies: 1 } }],
      ['POST', '/api/preview', draft],
      [
        'POST',
        '/api/preview',
        aDocument({ pours: ['closed-mix', 'open-mix'].map((ingredient) => ({ ingredient, volumeMl: 30 })) }),
      ],
      ['PUT', '/api/drinks/sealed-sling/draft', { document: draft, revision: 0, baseVersion: 1 }],
      ['POST', '/api/split-preps', { ingredient: 'code-name', hands: ['Ann', role] }],
      ['POST', '/api/house', {}],
      ['POST', '/api/import', {}],
    ]
    for (const [method, path, body] of writes) {
      const { status, body: answer } = await server.send(method, path, body, headers)
      expect(status).toBeLessThan(500)
      expectNoSecret(path, JSON.stringify(answer))
    }
  })

  it('tells nobody by what stands on a bottle that a sealed blend holds it', async () => {
    const well = (await server.house()).body.wells[0]?.slug
    const asked = [`/api/shown-drinks?well=${well}&on=${BOTTLE}`, `/api/ingredients/${BOTTLE}/mixes`] as const
    const counts = async (role: string) =>
      Promise.all(asked.map(async (path) => (await server.get<{ total: number }>(path, as(role))).body.total))
    expect(await counts('manager')).toEqual([1, 2])
    for (const role of ROLES) {
      expect(await counts(role)).toEqual([0, 0])
      const rows = await server.get<{ rows: { ingredient: { slug: string }; inMixes: number }[] }>(
        '/api/shelf/rows',
        as(role),
      )
      expect(rows.body.rows.find((r) => r.ingredient.slug === BOTTLE)?.inMixes).toBe(0)
      // Through what is open it is found all the same.
      const openly = `/api/shown-drinks?well=${well}&on=sugar-syrup`
      expect((await server.get<{ total: number }>(openly, as(role))).body.total).toBe(1)
    }
  })

  it('leaves what is needed to pour, to weigh and to warn', async () => {
    const house = (await server.house(as('bartender'))).body
    const blend = house.ingredients.find((i) => i.slug === 'code-name')
    expect(blend?.recipe).toBeUndefined()
    expect(blend?.figures.abvPct.value).toBeGreaterThan(43)
    expect(blend?.allergens).toEqual(['sulphites'])
    expect(blend?.closed).toMatchObject({ volumeMl: 100, isAllergenUnsure: false })
    // In whole figures, without a price: nor has what holds it one.
    for (const { value } of Object.values(blend?.figures ?? {})) expect(value).toBe(Number(value.toFixed(1)))
    expect(blend?.figures.abvPct.value).toBe(Math.round(blend?.figures.abvPct.value ?? 0.5))
    expect([blend?.price, blend?.size, blend?.sealedAs, blend?.densityGPerMl]).toEqual(Array(4).fill(undefined))
  })

  it('is written down by a lead without a weight, and the lot is a lot like any other', async () => {
    const ask = (weighed: object[]) =>
      server.send<Lot>('POST', '/api/lots', { ingredient: 'code-name', factor: 5, weighed }, as('lead'))
    const made = await ask([])
    expect(made.status).toBe(201)
    expect(made.body.document).toMatchObject({ weighed: [], factor: 5, theory: { volumeMl: 500 } })
    const whole = (await server.get<Lot>(`/api/lots/${made.body.id}`)).body
    expect(whole.document.weighed.map((w) => [w.ingredient, w.actualG])).toEqual([
      [BOTTLE, null],
      ['aged-rum', null],
    ])
    for (const ingredient of ['part-a', 'aged-rum'])
      expect((await ask([{ ingredient, actualG: 10 }])).problem.fields?.[0]?.field).toBe('weighed')
  })

  it('is dealt to two people so that neither knows all of it, now or after another batch', async () => {
    const batch = { ingredient: 'code-name', factor: 7, hands: ['Ann', 'Ben'] }
    expect((await server.send('POST', '/api/split-preps', batch)).status).toBe(201)
    const mine = (await server.get<SplitPrep[]>('/api/split-preps', as('bartender', 'Ann'))).body
    // Of another night nothing is left to read.
    expect(mine[1]?.sheets).toEqual([])
    expect(mine[0]?.hands).toEqual(['Ann', 'Ben'])
    expect(mine[0]?.sheets.map((s) => [s.hand, s.lines.length])).toEqual([['Ann', 1]])
    // Under letters, and to one per cent.
    expect(mine[0]?.sheets[0]?.lines[0]).toMatchObject({ ingredient: 'part-a', name: 'A', massG: expect.any(Number) })
    expect(Number.isInteger(mine[0]?.sheets[0]?.lines[0]?.massG)).toBe(true)
    expect((await server.get<SplitPrep[]>('/api/split-preps', as('bartender', 'Cy'))).body[0]?.sheets).toEqual([])
    expect((await server.get<SplitPrep[]>('/api/split-preps')).body[0]?.sheets).toHaveLength(2)
    const deal = (hands: string[]) => server.send('POST', '/api/split-preps', { ingredient: 'code-name', hands })
    expect((await deal(['Ben', 'Ann'])).problem.detail).toContain('Ben has weighed the other half before')
    expect((await deal(['Ann', 'Ann'])).problem.detail).toContain('name two people')
    expect((await deal(['Ann', 'Cy'])).status).toBe(201)
    expect(
      (await server.send('POST', '/api/split-preps', { ingredient: 'lime-juice', hands: ['Ann', 'Ben'] })).status,
    ).toBe(422)
  })

  it('is closed in editions that were published before it was sealed, and a name in a warning, too', async () => {
    const whole = (await server.get<Edition>('/api/editions/1')).body
    const open = (await server.get<Edition>('/api/editions/1', as('bartender'))).body
    const names = (e: Edition) => e.lock.book.ingredients.map((i) => i.slug)
    expect(names(whole)).toContain(BOTTLE)
    expect(names(open)).toEqual(names(whole).filter((s) => s !== BOTTLE && s !== 'butter-heart' && s !== 'aged-rum'))
    // Its figures start from whole ones.
    const strength = (e: Edition) =>
      e.lock.chapters[0]?.drinks[0]?.byWell.front?.result.predictions.strengthPct?.value ?? 0
    expect(strength(open)).not.toBe(strength(whole))
    expect(Math.abs(strength(open) - strength(whole))).toBeLessThan(0.5)
    // Sealed only now: what was published openly is not shown any longer.
    const house = (await server.house()).body
    const mix = house.ingredients.find((i) => i.slug === 'open-mix')
    if (!mix) throw new Error('no open mix')
    expect((await put({ ...mix, isSealed: true }, house.revisions.ingredients['open-mix'])).status).toBe(200)
    const later = (await server.get<Edition>('/api/editions/1', as('bartender'))).body
    expect(later.lock.book.ingredients.find((i) => i.slug === 'open-mix')?.recipe).toBeUndefined()
    expect((await put({ ...mix }, (house.revisions.ingredients['open-mix'] ?? 0) + 1)).status).toBe(200)
  })

  it('keeps every recipe of a mix, with who changed it and why', async () => {
    const house = (await server.house()).body
    const mix = house.ingredients.find((i) => i.slug === 'open-mix')
    if (!mix?.recipe) throw new Error('no open mix')
    const next = { ...mix, recipe: { ...mix.recipe, keepsDays: 9 } }
    const revision = house.revisions.ingredients['open-mix']
    await server.send(
      'PUT',
      '/api/ingredients/open-mix',
      { document: next, revision, reason: 'keeps longer now' },
      as('lead', 'Ann'),
    )
    await server.send('PUT', '/api/ingredients/open-mix', {
      document: { ...next, storedIn: 'fridge' },
      revision: (revision ?? 0) + 1,
    })
    const versions = (await server.get<RecipeVersion[]>('/api/ingredients/open-mix/recipes', as('bartender'))).body
    expect(versions.map((v) => [v.number, v.reason, v.savedBy])).toEqual([
      [2, 'keeps longer now', 'Ann, lead'],
      [1, '', 'Manager'],
    ])
    await expect(server.database.db.execute("update recipes set reason = 'x'")).rejects.toMatchObject(
      historyStays('recipes'),
    )
    await expect(server.database.db.execute('delete from flights')).resolves.toBeDefined()
    await expect(server.database.db.execute('delete from split_preps')).rejects.toMatchObject(
      historyStays('split_preps'),
    )
    expect((await server.get('/api/ingredients/nobody/recipes')).status).toBe(404)
  })

  it('goes out and comes back whole in a copy', async () => {
    const copy = await server.copy()
    const other = new TestServer(await openFresh(backend))
    expect(await other.bring(copy)).toMatchObject({ state: 'done' })
    expect(await other.copy()).toBe(copy)
    expect(copy.split('"table":"recipes"').length).toBeGreaterThan(4)
    expect(copy.split('"table":"split_preps"').length).toBeGreaterThan(2)
    await other.database.close()
  })

  it('when an allergen is changed on the shelf, of whatever, others are told to ask, until a manager has looked', async () => {
    const seen = async (who = as('bartender')) =>
      (await server.house(who)).body.ingredients.find((i) => i.slug === 'code-name')?.closed?.isAllergenUnsure
    const said = async () => {
      const document = aDocument({ pours: [{ ingredient: 'code-name', volumeMl: 30 }] })
      const { consequences } = (
        await server.send<{ consequences: { code: string }[] }>('POST', '/api/preview', document, as('bartender'))
      ).body
      return consequences.map((c) => c.code)
    }
    const known = async () => (await server.get<OthersKnow>('/api/ingredients/code-name/others-know')).body
    const saveAgain = async () => {
      const { ingredients, revisions } = (await server.house()).body
      const blend = ingredients.find((i) => i.slug === 'code-name')
      if (!blend) throw new Error('no blend')
      expect((await put(blend, revisions.ingredients['code-name'])).status).toBe(200)
    }
    await saveAgain()
    expect([await seen(), (await known()).isAllergenUnsure]).toEqual([false, false])
    const { ingredients, revisions } = (await server.house(as('lead'))).body
    // It is in nothing that is sealed: that others are told all the same says nothing of it.
    const rum = ingredients.find((i) => i.slug === 'white-rum')
    const document = { ...rum, allergens: ['celery'] }
    const change = { document, revision: revisions.ingredients['white-rum'] }
    expect((await server.send('PUT', '/api/ingredients/white-rum', change, as('lead'))).status).toBe(200)
    expect([await seen(), (await known()).isAllergenUnsure]).toEqual([true, true])
    expect(await said()).toContain('allergenUnsure')
    await saveAgain()
    expect([await seen(), (await known()).isAllergenUnsure]).toEqual([false, false])
    expect(await said()).not.toContain('allergenUnsure')
    // A shelf of so few bottles hides little, and the manager hears how little.
    expect(await known()).toMatchObject({ isWhole: true, allergens: ['sulphites'] })
  })
})
