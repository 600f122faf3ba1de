/** What is out, what that does to the menu, and what is chosen for one night. */

import type { PouredMenu, PublishedMenu, ShelfPart, TonightChoice } from '@conch/contract'
import {
  type DrinkAtWell,
  type FeedFrame,
  houseFileSchema,
  type Menu,
  type OutMarkSaid,
  type Pourable,
  type Tonight,
} from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { outs } from '../database/tonightSchema.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { BACKENDS, historyStays, openFresh, TestServer, type Who } from './testServer.ts'

const BAR = { as: 'bartender', called: 'Bartender Hearth' }
const LEAD = { as: 'lead' }

describe.each(BACKENDS)('tonight, %s', (backend) => {
  let server: TestServer
  let now = new Date('2026-09-01T20:00:00Z')
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => now)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, now)))
    // With a drink that names a slot, and holds something sealed.
    const { revision } = (await server.get<Menu>('/api/menu')).body
    const menu = (await server.get<PouredMenu>('/api/menu/poured?well=hearth')).body
    const entries = menu.chapters.flatMap((c) => c.drinks.map(({ drink, version }) => ({ drink, version })))
    const plan = { chapters: [{ name: 'All', entries: [...entries, { drink: 'sluice-gate-roster', version: 1 }] }] }
    const planned = await server.send<Menu>('PUT', '/api/menu', { plan, revision })
    expect(planned.problem.detail).toBeUndefined()
    const published = await server.publish(planned.body.revision, 'With a slot')
    expect(published.problem.detail).toBeUndefined()
  })
  afterAll(() => server.database.close())

  const tonight = async () => (await server.get<Tonight>('/api/tonight', BAR)).body
  const at = async (drink: string, well: string): Promise<DrinkAtWell | undefined> =>
    (await tonight()).drinks.find((d) => d.drink === drink)?.at[well]
  const mark = (of: string, more: object = {}, who: Who & Record<string, string> = BAR) =>
    server.send<OutMarkSaid>(
      'POST',
      '/api/outs',
      { kind: 'ingredient', of, well: null, level: 'out', ...more },
      who as never,
    )
  const back = (id: number, why: 'back' | 'mistake' = 'back', who: Who & Record<string, string> = BAR) =>
    server.send('POST', `/api/outs/${id}/end`, { why }, who)
  const choose = (drink: string, choice: object, who: Who & Record<string, string> = LEAD) =>
    server.send<TonightChoice>(
      'POST',
      `/api/drinks/${drink}/tonight`,
      { well: null, words: '', sees: null, ...choice },
      who as never,
    )
  const documentOf = async (drink: string): Promise<DrinkDocument> => {
    const { versions, latestVersion } = (
      await server.get<{ versions: { number: number; document: DrinkDocument }[]; latestVersion: number }>(
        `/api/drinks/${drink}`,
      )
    ).body
    const found = versions.find((v) => v.number === latestVersion) ?? versions.at(-1)
    if (!found) throw new Error(`no version of ${drink}`)
    return found.document
  }

  it('is dark what the house is out of, until somebody who tends the bar says that it is back', async () => {
    expect(await at('green-pilot', 'hearth')).toBeUndefined()
    const falernum = await mark('falernum')
    expect(falernum.status).toBe(201)
    expect(falernum.body).toMatchObject({ name: 'Falernum with alcohol', savedBy: 'Bartender Hearth', level: 'out' })
    expect(await at('green-pilot', 'courtyard')).toMatchObject({ state: 'dark', missing: [{ of: 'falernum' }] })
    // Said twice it is said once.
    expect((await mark('falernum')).body.id).toBe(falernum.body.id)
    expect((await back(falernum.body.id)).status).toBe(200)
    expect(await at('green-pilot', 'hearth')).toBeUndefined()
    // Somebody else was faster: whoever comes late is told, and ends nothing newer.
    const again = await mark('falernum')
    const late = await back(falernum.body.id, 'back', { as: 'bartender', called: 'Bartender Courtyard' })
    expect(late.status).toBe(409)
    expect(late.problem.detail).toContain('Bartender Hearth was faster')
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'dark' })
    await back(again.body.id, 'mistake')
  })

  it('counts at the well where it was said', async () => {
    const { body } = await mark('falernum', { well: 'courtyard' })
    expect(await at('green-pilot', 'courtyard')).toMatchObject({ state: 'dark' })
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'made', missing: [] })
    await back(body.id)
  })

  it('pours the next candidate of a slot, in the figures too, and the edition keeps its own', async () => {
    const poured = async () => {
      await server.services.glasses.settle()
      const menu = (await server.get<PouredMenu>('/api/menu/poured?well=hearth', BAR)).body
      return menu.chapters.flatMap((c) => c.drinks).find((d) => d.drink === 'sluice-gate-roster')
    }
    const before = await poured()
    const { slots } = (await server.house(LEAD)).body
    const slot = slots.find((s) => s.slug === 'black-rum')
    const pick = slot?.pickByWell?.hearth ?? slot?.pick ?? ''
    const { body } = await mark(pick, { well: 'hearth' })
    const there = await at('sluice-gate-roster', 'hearth')
    expect(there?.swapped).toHaveLength(1)
    const after = await poured()
    expect(after?.now?.predictions.sweetGPer100Ml?.value ?? after?.now?.predictions.strengthPct?.value).not.toBe(
      before?.now?.predictions.sweetGPer100Ml?.value ?? before?.now?.predictions.strengthPct?.value,
    )
    expect(after?.locked).toEqual(before?.locked)
    await back(body.id)
    expect((await poured())?.now?.predictions).toEqual(before?.now?.predictions)
  })

  it('tells low from out, and the newer word counts', async () => {
    const low = await mark('falernum', { level: 'low' })
    expect(await at('green-pilot', 'hearth')).toBeUndefined()
    const out = await mark('falernum')
    const said = (await tonight()).outs.filter((o) => o.of === 'falernum')
    expect(said.map((o) => [o.id, o.level])).toEqual([[out.body.id, 'out']])
    expect((await back(low.body.id)).problem.detail).toContain('something newer was said of it')
    await back(out.body.id)
  })

  it('takes lots, fruit and glasses, and a new lot takes its mark away', async () => {
    const glass = await mark('reed', { kind: 'glass' })
    expect(await at('cistern-ladder', 'hearth')).toMatchObject({ state: 'dark', missing: [{ kind: 'glass' }] })
    expect(await at('cistern-ladder', 'courtyard')).toMatchObject({ state: 'made' })
    await back(glass.body.id)

    const lots = (await server.get<{ rows: { id: number }[] }>('/api/lots?open=yes&of=falernum', BAR)).body.rows
    const made =
      lots.length > 0
        ? lots
        : [(await server.send<{ id: number }>('POST', '/api/lots', { ingredient: 'falernum' }, LEAD)).body]
    for (const { id } of made) expect((await mark(String(id), { kind: 'lot' })).status).toBe(201)
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'dark' })
    expect((await server.send('POST', '/api/lots', { ingredient: 'falernum' }, LEAD)).status).toBe(201)
    expect(await at('green-pilot', 'hearth')).toBeUndefined()
    expect((await tonight()).outs.filter((o) => o.kind === 'lot')).toEqual([])

    const limes = await mark('lime', { kind: 'fruit' })
    expect((await at('brass-ferry', 'hearth'))?.without).toEqual(['lime wheel'])
    await back(limes.body.id)
  })

  it('refuses what the house does not have, naming the field', async () => {
    for (const [of, more, field] of [
      ['no-such-rum', {}, 'of'],
      ['9999', { kind: 'lot' }, 'of'],
      ['durian', { kind: 'fruit' }, 'of'],
      ['falernum', { well: 'attic' }, 'well'],
      ['falernum', { level: 'gone' }, 'level'],
      ['Fal ernum', {}, 'of'],
    ] as const) {
      const { status, problem } = await mark(of, more)
      expect([status, problem.fields?.[0]?.field]).toEqual([422, field])
    }
    expect((await mark('falernum', {}, { as: 'viewer' })).status).toBe(403)
    expect((await back(99_999)).status).toBe(404)
  })

  it('is what a lead chooses for tonight: something instead, until what was missing is back', async () => {
    const { body: out } = await mark('falernum')
    const document = await documentOf('green-pilot')
    const instead = {
      ...document,
      pours: document.pours.map((p) => (p.ingredient === 'falernum' ? { ...p, ingredient: 'allspice-liqueur' } : p)),
    }
    // It has to be there itself, and to be made.
    expect((await choose('green-pilot', { kind: 'instead', document })).problem.detail).toContain('not there either')
    const broken = { ...instead, glass: 'no-such-glass' }
    expect((await choose('green-pilot', { kind: 'instead', document: broken })).problem.fields?.[0]?.field).toBe(
      'document.glass',
    )
    expect((await choose('green-pilot', { kind: 'instead', document: instead }, BAR)).status).toBe(403)
    expect((await choose('green-pilot', { kind: 'off', document: instead })).status).toBe(422)
    expect((await choose('nothing-like-it', { kind: 'off' })).status).toBe(404)
    const words = 'allspice liqueur for the falernum'
    const chosen = await choose('green-pilot', { kind: 'instead', document: instead, words })
    expect(chosen.status).toBe(201)
    expect(chosen.body.because).toEqual(['ingredient/falernum'])
    expect(await at('green-pilot', 'courtyard')).toMatchObject({ state: 'instead', choice: chosen.body.id })
    // Another lead who saw nothing of it does not write over it.
    const blind = await choose('green-pilot', { kind: 'off' })
    expect(blind.problem.detail).toContain(words)
    const off = await choose('green-pilot', { kind: 'off', sees: chosen.body.id })
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'off' })
    expect((await server.send('POST', `/api/tonight/choices/${off.body.id}/end`, undefined, LEAD)).status).toBe(200)
    expect((await server.send('POST', `/api/tonight/choices/${off.body.id}/end`, undefined, LEAD)).status).toBe(404)
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'dark' })
    await choose('green-pilot', { kind: 'instead', document: instead, words })
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'instead' })
    await back(out.id)
    expect(await at('green-pilot', 'hearth')).toBeUndefined()
  })

  it('ends when the bar’s day turns; what is out stays out', async () => {
    const { body: out } = await mark('falernum')
    const before = (await tonight()).choices.find((c) => c.drink === 'green-pilot')
    await choose('green-pilot', { kind: 'off', sees: before?.id ?? null })
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'off' })
    now = new Date('2026-09-02T20:00:00Z')
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'dark' })
    expect((await tonight()).outs.map((o) => o.of)).toContain('falernum')
    await back(out.id)
  })

  it('is said to guests in a word, and to nobody what is in what is sealed', async () => {
    const { body: out } = await mark('falernum')
    const guests = (await server.get<PublishedMenu>('/api/published-menu', { as: 'viewer' })).body
    const drinks = guests.chapters.flatMap((c) => c.drinks)
    expect(drinks.find((d) => d.name === 'Green Pilot')?.isOff).toBe(true)
    expect(drinks.filter((d) => d.isOff).length).toBeLessThan(drinks.length / 2)
    await back(out.id)
    // Whatever a sealed blend is made of runs out: it stands in its bottle.
    const shelf = (await server.get<ShelfPart>('/api/shelf?of=ferry-nine')).body
    const within = shelf.ingredients.find((i) => i.slug === 'ferry-nine')?.recipe?.components ?? []
    expect(within.length).toBeGreaterThan(1)
    const was = await at('sluice-gate-roster', 'hearth')
    const marks = await Promise.all(within.map((c) => mark(c.ingredient)))
    const is = await at('sluice-gate-roster', 'hearth')
    const own = (d?: DrinkAtWell) => d?.missing.filter((m) => m.of === 'ferry-nine') ?? []
    expect([own(was), own(is)]).toEqual([[], []])
    for (const { body } of marks) await back(body.id)
  })

  it('pours what was chosen: its figures on the menu, its allergens before the guest', async () => {
    const document = await documentOf('green-pilot')
    const instead = {
      ...document,
      pours: document.pours.map((p) => (p.ingredient === 'falernum' ? { ...p, ingredient: 'coconut-cream-mix' } : p)),
    }
    const lineOf = async () =>
      (await server.get<PouredMenu>('/api/menu/poured?well=hearth', BAR)).body.chapters
        .flatMap((c) => c.drinks)
        .find((d) => d.drink === 'green-pilot')
    const guestOf = async () =>
      (await server.get<PublishedMenu>('/api/published-menu', { as: 'viewer' })).body.chapters
        .flatMap((c) => c.drinks)
        .find((d) => d.name === 'Green Pilot')
    const [before, guestBefore] = [await lineOf(), await guestOf()]
    const { body: out } = await mark('falernum')
    expect(guestBefore?.allergens.join()).not.toContain('coconut')
    const sees = (await tonight()).choices.filter((c) => c.drink === 'green-pilot').at(-1)?.id ?? null
    expect((await choose('green-pilot', { kind: 'instead', document: instead, sees })).status).toBe(201)
    const guest = await guestOf()
    expect(guest?.allergens.join()).toContain('coconut')
    expect(guest?.allergens.join()).toContain('ask the bar')
    expect([guest?.isOff, guest?.strengthPct]).toEqual([false, undefined])
    const after = await lineOf()
    expect(after?.now?.predictions.strengthPct?.value).not.toBe(before?.now?.predictions.strengthPct?.value)
    expect(after?.locked).toEqual(before?.locked)
    const pour = (wish: string) =>
      server.get<Pourable>(`/api/pourable?well=hearth&of=menu&wish=${encodeURIComponent(wish)}`, BAR)
    expect((await pour('no coconut')).body.drinks.map((d) => d.drink)).not.toContain('green-pilot')
    expect((await pour('coconut')).body.drinks.find((d) => d.drink === 'green-pilot')?.state).toBe('instead')
    await back(out.id)
    expect(await guestOf()).toEqual(guestBefore)
    // Out again, what was chosen before is not poured by itself.
    const again = await mark('falernum')
    expect(await at('green-pilot', 'hearth')).toMatchObject({ state: 'dark' })
    await back(again.body.id)
  })

  it('finds what can be poured, and what cannot only where that is asked for', async () => {
    await server.services.glasses.settle()
    const ask = async (search: string) => (await server.get<Pourable>(`/api/pourable?well=hearth&${search}`, BAR)).body
    const all = await ask('of=book')
    const menu = await ask('of=menu')
    expect(menu.total).toBeLessThan(all.total)
    expect(menu.pourable).toBe(menu.total)
    const { body: out } = await mark('falernum')
    const dark = await ask('of=menu&dark=with')
    const without = await ask('of=menu')
    expect(without.pourable).toBe(dark.drinks.length - dark.drinks.filter((d) => d.state === 'dark').length)
    expect(dark.drinks.find((d) => d.drink === 'green-pilot')?.words).toBe('no Falernum with alcohol')
    expect(without.drinks.map((d) => d.drink)).not.toContain('green-pilot')
    await back(out.id)
    const nuts = await ask('of=book&wish=no%20nuts')
    expect(nuts.understood).toEqual(['without tree nuts', 'without peanuts'])
    for (const d of nuts.drinks) expect(d.allergens).not.toContain('tree nuts')
    expect(all.drinks.some((d) => d.allergens.includes('tree nuts'))).toBe(true)
    // What is in it nobody knows for sure: it is counted, and nobody is told of it.
    const shelf = (await server.get<ShelfPart>('/api/shelf?of=lime-juice')).body
    const lime = shelf.ingredients.find((i) => i.slug === 'lime-juice')
    const document = { ...lime, allergens: ['celery'] }
    const revision = shelf.revisions['lime-juice']
    expect((await server.send('PUT', '/api/ingredients/lime-juice', { document, revision }, LEAD)).status).toBe(200)
    await server.services.glasses.settle()
    const unsure = await ask('of=book&wish=no%20nuts')
    expect(unsure.unsure).toBeGreaterThan(0)
    expect(unsure.drinks.map((d) => d.drink)).not.toContain('sluice-gate-roster')
    expect((await server.get('/api/pourable?well=attic&of=menu', BAR)).status).toBe(404)
    expect((await server.get('/api/pourable?well=hearth&of=cellar', BAR)).status).toBe(422)
  })

  it('is history: said, ended, in the chain, told by the feed, and never changed', async () => {
    const begin = (await server.get<FeedFrame>('/api/feed', { as: 'viewer' })).body.sequence
    const { body } = await mark('falernum')
    await back(body.id)
    expect((await server.get<FeedFrame>(`/api/feed?after=${begin}`, { as: 'viewer' })).body.changed).toEqual(['out'])
    const bar = (await server.get<FeedFrame>(`/api/feed?after=${begin}`, BAR)).body.changed
    expect(bar).toEqual(expect.arrayContaining(['out', 'out/ingredient/falernum']))
    await expect(server.database.db.delete(outs)).rejects.toMatchObject(historyStays('outs'))
    const entries = (
      await server.get<{ entries: { kind: string; verb: string; detail: object }[] }>('/api/audit?kind=out')
    ).body.entries
    expect(entries.slice(0, 2).map((e) => [e.verb, e.detail])).toEqual([
      ['ended', { name: 'Falernum with alcohol', well: 'the whole house', why: 'back' }],
      ['ranOut', { name: 'Falernum with alcohol', well: 'the whole house' }],
    ])
  })

  it('lets one of many who say it at once say it, and one of many who end it', async () => {
    const hands = ['Ann', 'Ben', 'Cat', 'Dan']
    for (const called of hands) await server.idOf({ as: 'bartender', called })
    const said = await Promise.all(hands.map((called) => mark('orgeat-fennick', {}, { as: 'bartender', called })))
    expect(new Set(said.map((s) => s.body.id)).size).toBe(1)
    const [id = 0] = said.map((s) => s.body.id)
    const ended = await Promise.all(hands.map((called) => back(id, 'back', { as: 'bartender', called })))
    expect(ended.map((e) => e.status).sort()).toEqual([200, 409, 409, 409])
  })

  it('lists what the menu wants for a shift to go through, and finds the rest by words', async () => {
    const list = (await server.get<{ kind: string; of: string; drinks: string[] }[]>('/api/tonight/markables', BAR))
      .body
    const lime = list.find((m) => m.of === 'lime-juice')
    expect(lime?.drinks).toContain('Brass Ferry')
    expect(list.map((m) => m.kind)).toEqual(expect.arrayContaining(['fruit', 'glass', 'ingredient']))
    expect(list.map((m) => m.drinks.length)).toEqual(list.map((m) => m.drinks.length).sort((a, b) => b - a))
    const found = (await server.get<{ of: string }[]>('/api/tonight/markables?words=quayside', BAR)).body
    expect(found.map((m) => m.of)).toEqual(['quayside-reserve'])
  })

  it('opens with whatever a copy that was written by hand calls a lot', async () => {
    const odd = { kind: 'lot' as const, of: 'no-number', well: null, level: 'out' as const }
    for (const of of ['no-number', '99999999999'])
      await server.database.db.insert(outs).values({ document: { ...odd, of }, savedBy: 'X', savedAt: now })
    server.services.held.forget()
    expect((await tonight()).outs.filter((o) => o.kind === 'lot').map((o) => o.name)).toEqual([
      'no-number',
      '99999999999',
    ])
  })
})
