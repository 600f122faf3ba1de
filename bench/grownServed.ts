/** A house that grew for years, served: how quick it is for those who work in it, while others save. */

import type { Menu, ShelfPart } from '@conch/contract'
import { POPULAR } from '../server/testing/growHouse.ts'
import { type Asked, ask, load, quantile, type Served } from './served.ts'

type Say = (what: string, figure: string, aim?: string) => void

const ms = (value: number) => `${value.toFixed(value < 10 ? 1 : 0)} ms`
const kB = (bytes: number) => `${(bytes / 1000).toFixed(0)} kB`
const WELL = 'hearth'
const ON_THE_MENU = 200

/** What a person looks at in an evening, each in as many ways as it has pages. */
const PAGES: Record<string, (turn: number) => string> = {
  menu: () => `/api/menu/poured?well=${WELL}`,
  'next edition': () => `/api/menu/next?well=${WELL}`,
  house: () => '/api/house',
  drinks: (i) => `/api/drinks?from=${100 * (i % 90)}&limit=100`,
  'a drink': (i) => `/api/drinks/grown-${String((i * 37) % 10_000).padStart(5, '0')}`,
  'drinks found': (i) =>
    `/api/drinks?words=${['harbor', 'pelcan', 'lant', 'ember tide', 'copper'][i % 5]}&limit=${20 + (i % 80)}`,
  'back bar': (i) => `/api/shelf/rows?from=${100 * (i % 60)}&limit=100`,
  'back bar by strength': (i) => `/api/shelf/rows?sort=abvPct&from=${i % 5000}&limit=100`,
  mixes: (i) => `/api/shelf/rows?shown=mixes&sort=name&from=${50 * (i % 30)}&limit=100`,
  'what a mix needs': (i) => `/api/shelf?of=mix-${String((i * 23) % 2000).padStart(4, '0')}`,
  'what words lead to': (i) =>
    `/api/shelf?words=${['amber', 'lime', 'mix', 'sluice tide'][i % 4]}&limit=${20 + (i % 80)}`,
  'drinks on a mix': (i) => `/api/shown-drinks?well=${WELL}&on=mix-${String((i * 23) % 2000).padStart(4, '0')}`,
  lots: (i) => `/api/lots?from=${50 * (i % 900)}`,
  'lots by use-by': (i) => `/api/lots?sort=useBy&from=${50 * (i % 900)}`,
  'lots by name': (i) => `/api/lots?sort=name&from=${50 * (i % 900)}`,
}
const TURNS = 30

async function benchPages(say: Say, url: string): Promise<void> {
  for (const [name, address] of Object.entries(PAGES)) {
    const all: Asked[] = []
    for (let i = 0; i < TURNS; i++) all.push(await ask(url, address(i)))
    const fresh = all.filter((a, i) => all.findIndex((b) => b.etag === a.etag) === i)
    const largest = all.reduce((most, a) => (a.bytes > most.bytes ? a : most))
    say(
      `  ${name}, ${fresh.length} different answers`,
      `p95 ${ms(
        quantile(
          all.map((a) => a.ms),
          0.95,
        ),
      )}, slowest ${ms(Math.max(...all.map((a) => a.ms)))}; ${kB(largest.packedBytes)} packed, ${kB(largest.bytes)} as it is`,
      'p95 under 150 ms, under 100 kB',
    )
  }
}

/** Puts so many grown drinks on the plan that can be made everywhere. */
async function planMenu(url: string): Promise<{ revision: number; drinks: string[] }> {
  const entries: { drink: string; version: number }[] = []
  for (let from = 0; entries.length < ON_THE_MENU; from += 100) {
    const { rows } = (await ask(url, `/api/drinks?from=${from}&limit=100&made=yes`)).json() as {
      rows: { slug: string; latestVersion: number }[]
    }
    const some = rows
      .filter((r) => r.slug.startsWith('grown-'))
      .map((r) => ({ drink: r.slug, version: r.latestVersion }))
    for (const entry of some) {
      // Some of what grew names gear and glasses that are gone.
      const shown = (await ask(url, `/api/versions?of=${entry.drink}@${entry.version}`)).json() as [
        { document: { glass?: string; stages: { station?: string }[] } },
      ]
      const [{ document }] = shown
      const isGone = document.glass === 'broken-coupe' || document.stages.some((s) => s.station?.includes('steam'))
      if (!isGone && entries.length < ON_THE_MENU) entries.push(entry)
    }
  }
  const { revision } = (await ask(url, '/api/menu')).json() as Menu
  const chapters = [0, 1, 2, 3].map((c) => ({ name: `Chapter ${c + 1}`, entries: entries.slice(c * 50, c * 50 + 50) }))
  const planned = await ask(url, '/api/menu', { method: 'PUT', body: { plan: { chapters }, revision } })
  return { revision: (planned.json() as Menu).revision, drinks: entries.map((e) => e.drink) }
}

/** Saves versions of a drink, one after the other. @returns ms each, draft and version apart */
async function saveVersions(url: string, slug: string, count: number): Promise<number[]> {
  const took: number[] = []
  for (let i = 0; i < count; i++) {
    const drink = (await ask(url, `/api/drinks/${slug}`)).json() as {
      versions: { number: number; document: object }[]
      draft: { revision: number } | null
    }
    const last = drink.versions.at(-1)
    if (!last) throw new Error(`${slug} has no version`)
    const draft = (
      await ask(url, `/api/drinks/${slug}/draft`, {
        method: 'PUT',
        body: {
          document: { ...last.document, note: `again ${i}` },
          baseVersion: last.number,
          revision: drink.draft?.revision ?? 0,
        },
      })
    ).json() as { revision: number }
    const saved = await ask(url, `/api/drinks/${slug}/versions`, {
      method: 'POST',
      body: { draftRevision: draft.revision, reason: 'a measurement' },
    })
    took.push(saved.ms)
  }
  return took
}

/** The mix that so many drinks pour, a gram more of its first part. @returns when everything is right again, ms */
async function changePopular(url: string): Promise<{ savedMs: number; rightMs: number; drinks: number }> {
  const part = (await ask(url, `/api/shelf?of=${POPULAR.mix}`)).json() as ShelfPart
  const mix = part.ingredients.find((i) => i.slug === POPULAR.mix)
  if (!mix?.recipe) throw new Error('the popular mix is gone')
  const components = mix.recipe.components.map((c, i) => (i === 0 ? { ...c, amount: c.amount + 1 } : c))
  const startedAt = performance.now()
  const saved = await ask(url, `/api/ingredients/${POPULAR.mix}`, {
    method: 'PUT',
    body: { document: { ...mix, recipe: { ...mix.recipe, components } }, revision: part.revisions[POPULAR.mix] },
  })
  for (;;) {
    const { drinks } = (await ask(url, `/api/shown-drinks?well=${WELL}&on=${POPULAR.mix}`)).json() as {
      drinks: { isOld: boolean }[]
    }
    if (drinks.length > 0 && drinks.every((d) => !d.isOld))
      return { savedMs: saved.ms, rightMs: performance.now() - startedAt, drinks: drinks.length }
    await new Promise((r) => setTimeout(r, 25))
  }
}

const LOAD_MS = 8_000
const HANDS = 32
const SAVERS = 4
const SAVE_EVERY_MS = 500
/** Of ten reads so many ask for what they have already. */
const KNOWN_OF_TEN = 7

async function benchLoad(say: Say, url: string, drinks: readonly string[]): Promise<void> {
  const addresses = Object.values(PAGES)
  const etags = new Map<string, string | null>()
  const statuses = { same: 0, other: 0 }
  const saved: number[] = []
  const until = performance.now() + LOAD_MS
  const savers = Array.from({ length: SAVERS }, async (_, i) => {
    while (performance.now() < until) {
      saved.push(...(await saveVersions(url, drinks[10 + i] ?? '', 1)))
      await new Promise((r) => setTimeout(r, SAVE_EVERY_MS))
    }
  })
  const took = await load(HANDS, LOAD_MS, async (hand, turn) => {
    const isKnown = turn % 10 < KNOWN_OF_TEN
    const address = addresses[(hand * 7 + turn) % addresses.length] ?? addresses[0]
    const path = address?.(isKnown ? 1 : hand * 31 + turn) ?? ''
    const answer = await ask(url, path, { etag: isKnown ? (etags.get(path) ?? null) : null })
    etags.set(path, answer.etag)
    if (answer.status === 304) statuses.same += 1
    else statuses.other += 1
    return answer.ms
  })
  await Promise.all(savers)
  const share = Math.round((100 * statuses.same) / took.length)
  say(
    `  ${HANDS} hands read, ${SAVERS} save (${saved.length} versions, p95 ${ms(quantile(saved, 0.95))})`,
    `${Math.round((1000 * took.length) / LOAD_MS)} reads a second, p50 ${ms(quantile(took, 0.5))}, p99 ${ms(quantile(took, 0.99))}; ${share} % were told that nothing changed`,
    '500 a second, p99 under 300 ms',
  )
  // Never twice the same words: nothing can be kept.
  let words = 0
  const uncached = await load(
    HANDS,
    LOAD_MS / 2,
    async () => (await ask(url, `/api/drinks?words=t${words++}&limit=50`)).ms,
  )
  say(
    '  the same hands, each looking for other drinks: nothing kept',
    `${Math.round((2000 * uncached.length) / LOAD_MS)} reads a second, p99 ${ms(quantile(uncached, 0.99))}`,
  )
}

/** @param server with the grown house, nothing of it kept yet */
export async function benchServed(say: Say, server: Served): Promise<void> {
  const { url } = server
  const startedAt = performance.now()
  await ask(url, `/api/menu/poured?well=${WELL}`)
  say('  the first menu after the start, the shelf read into memory', ms(performance.now() - startedAt))
  const { revision: planRevision, drinks } = await planMenu(url)
  const published = await ask(url, '/api/editions', {
    method: 'POST',
    body: { name: 'The large one', note: '', planRevision },
  })
  say(`  publishing ${ON_THE_MENU} drinks, nothing computed ahead, 10,000 being computed`, ms(published.ms))
  await untilRight(say, url)
  await untilCalm(say, url)
  await benchPublish(say, url)
  await benchPages(say, url)
  const saves = await saveVersions(url, drinks[3] ?? '', 20)
  say('  a version saved, 20 of them', `p95 ${ms(quantile(saves, 0.95))}`, 'under 150 ms')
  await benchChange(say, url)
  await benchLoad(say, url, drinks)
  say('  memory at most', `${server.memoryMb()} MB`, 'under 400 MB')
}

/** As the page does: the lock is computed while somebody thinks of a name. */
async function benchPublish(say: Say, url: string): Promise<void> {
  const { plan, revision } = (await ask(url, '/api/menu')).json() as { plan: { chapters: object[] }; revision: number }
  const turned = { chapters: plan.chapters.toReversed() }
  const menu = (await ask(url, '/api/menu', { method: 'PUT', body: { plan: turned, revision } })).json() as {
    revision: number
  }
  const ahead = await ask(url, '/api/menu/next/lock')
  const body = { name: 'Turned round', note: '', planRevision: menu.revision }
  const published = await ask(url, '/api/editions', { method: 'POST', body })
  say(
    `  publishing ${ON_THE_MENU} drinks, computed ahead in ${ms(ahead.ms)} while a name is thought of`,
    ms(published.ms),
    'under 1500 ms',
  )
}

async function untilRight(say: Say, url: string): Promise<void> {
  const startedAt = performance.now()
  for (;;) {
    const { chapters } = (await ask(url, `/api/menu/poured?well=${WELL}`)).json() as {
      chapters: { drinks: { now?: { isOld: boolean } }[] }[]
    }
    if (chapters.every((c) => c.drinks.every((d) => d.now && !d.now.isOld))) break
    await new Promise((r) => setTimeout(r, 100))
  }
  say(
    '  until the whole menu stands, while 10,000 drinks are computed for the first time',
    `${((performance.now() - startedAt) / 1000).toFixed(1)} s`,
  )
}

/** Waits until every drink of the house was computed once: what is measured then is how it is every day. */
async function untilCalm(say: Say, url: string): Promise<void> {
  const startedAt = performance.now()
  while (((await ask(url, `/api/shown-drinks?well=${WELL}&menu=yes`)).json() as { waiting: number }).waiting > 0)
    await new Promise((r) => setTimeout(r, 500))
  say('  until all 10,000 stand', `${((performance.now() - startedAt) / 1000).toFixed(0)} s more`)
}

async function benchChange(say: Say, url: string): Promise<void> {
  const read = async (turn: number) => (await ask(url, `/api/drinks?from=${turn % 5000}&limit=50`)).ms
  const calm: number[] = []
  for (let i = 0; i < 60; i++) calm.push(await read(i))
  const meanwhile: number[] = []
  let isOver = false
  const change = changePopular(url).finally(() => {
    isOver = true
  })
  for (let i = 0; !isOver; i++) meanwhile.push(await read(100 + i))
  const { savedMs, rightMs, drinks } = await change
  const slower = quantile(meanwhile, 0.5) / quantile(calm, 0.5)
  say(
    `  a mix changed that ${drinks} drinks pour: saved in ${ms(savedMs)}, all right`,
    `${ms(rightMs)}; others meanwhile ${slower.toFixed(2)} × as slow (p95 ${ms(quantile(meanwhile, 0.95))})`,
    'under 2000 ms, under 1.5 ×',
  )
}
