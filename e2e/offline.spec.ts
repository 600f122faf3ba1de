/** A tablet that is cut off: its cards, its taps, its people; and everything when it is back. */

import AxeBuilder from '@axe-core/playwright'
import type { OutMarkSaid, SaidNoteRow, Tonight } from '@conch/contract'
import type { Browser, BrowserContext, Page } from '@playwright/test'
import { draftSaved, expect, type House, type PEOPLE, signInHere, tapPin, test, worksHere } from './house.ts'

const TABLET = { width: 1024, height: 768 }

async function deviceOf(browser: Browser, who: keyof typeof PEOPLE, viewport = TABLET): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport, hasTouch: viewport.width < 1100, serviceWorkers: 'allow' })
  await worksHere(context, who)
  return context
}

/** What the browser keeps: addresses of answers, words that wait, and everything else as one text. */
const keptBy = (page: Page) =>
  page.evaluate(async () => {
    const database = await new Promise<IDBDatabase>((resolve) => {
      const opening = indexedDB.open('conch')
      opening.onsuccess = () => resolve(opening.result)
    })
    const all = <T>(store: string) =>
      new Promise<T[]>((resolve) => {
        if (!database.objectStoreNames.contains(store)) return resolve([])
        const asked = database.transaction(store).objectStore(store).getAll()
        asked.onsuccess = () => resolve(asked.result as T[])
      })
    const answers = await all<{ path: string; audience: string }>('answers')
    const taps = await all<{ words: string }>('taps')
    database.close()
    const cached: string[] = []
    for (const name of await caches.keys())
      for (const request of await (await caches.open(name)).keys()) cached.push(new URL(request.url).pathname)
    const text = JSON.stringify([answers, taps, { ...localStorage }, { ...sessionStorage }, document.cookie])
    return { answers: answers.map((a) => `${a.audience} ${a.path}`), taps: taps.map((t) => t.words), cached, text }
  })

/** Until the pages and the bar's answers are kept on the device. */
async function untilReady(page: Page): Promise<void> {
  await expect.poll(async () => (await keptBy(page)).answers).toContain('bar /api/menu')
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect.poll(async () => (await keptBy(page)).cached.length).toBeGreaterThan(100)
}

/** Whoever went on by their word alone says their PIN. */
async function sayPin(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Say it', exact: true }).click()
  await tapPin(page, name)
}

const alone = (page: Page) => page.locator('[data-alone]')
const tonightOf = async (demo: House) => (await demo.send<Tonight>('GET', '/api/tonight')).body

test('a tablet is cut off: the edition stays, taps are kept, people change, and it all comes back once and in order', async ({
  demo,
  browser,
}) => {
  const context = await deviceOf(browser, 'Bartender')
  const tablet = await context.newPage()
  const office = await deviceOf(browser, 'Manager', { width: 1280, height: 800 })
  const manager = await office.newPage()
  await tablet.goto(demo.url)
  await manager.goto(`${demo.url}/out`)
  await expect(tablet.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  // A lead has marked a rum out, and taken another drink off for tonight.
  const rum = { kind: 'ingredient', of: 'brackwater', well: null, level: 'out' }
  expect((await demo.send('POST', '/api/outs', rum, 2)).status).toBe(201)
  const off = { well: null, kind: 'off', words: 'too slow tonight', sees: null }
  expect((await demo.send('POST', '/api/drinks/night-tariff/tonight', off, 2)).status).toBe(201)
  await expect(tablet.getByRole('link', { name: /Night Tariff/ })).toContainText('off tonight: too slow tonight')
  await untilReady(tablet)
  await context.setOffline(true)
  await expect(alone(tablet)).toContainText(/On its own since \d\d:\d\d/)
  // Opened anew without the network: the menu with what is out, and a card that nobody ever opened here.
  await tablet.goto(demo.url)
  await expect(tablet.getByRole('link', { name: /Black Buoy/ })).toContainText('dark: no Brackwater Heavy Overproof')
  await expect(tablet.getByRole('link', { name: /Night Tariff/ })).toContainText('off tonight')
  await expect(alone(tablet)).toContainText(/On its own since \d\d:\d\d/)
  await tablet.getByRole('link', { name: /Lamplighter/ }).click()
  await expect(tablet.locator('tr[data-measure="strengthPct"] td').last()).toContainText('%')
  await expect(tablet.locator('[data-pour]').first()).toBeVisible()
  // A place that was never opened says so, and the way on is not lost.
  await tablet.goto(`${demo.url}/research`)
  await expect(tablet.getByRole('alert')).toContainText('not kept on this device')

  // Something runs out; the drinks go dark here at once, though the house has not heard.
  await tablet.goto(`${demo.url}/out`)
  await tablet.getByRole('button', { name: 'Lime juice: out at the Hearth' }).tap()
  const list = tablet.getByRole('region', { name: 'What is out' })
  await expect(list.getByText('not sent yet')).toHaveCount(1)
  await tablet.getByRole('button', { name: 'Aromatic bitters: low' }).tap()
  // Said one after the other, as a hand does.
  await expect(tablet.locator('[data-sonner-toast]').filter({ hasText: 'Aromatic bitters' })).toBeVisible()
  await tablet.getByRole('button', { name: 'Grenadine: out in the house' }).tap()
  // A wrong tap is taken back where it was made: it was never said.
  const front = tablet.locator('[data-sonner-toast][data-front="true"]').filter({ hasText: 'Grenadine' })
  await front.getByRole('button', { name: 'Undo' }).click()
  await expect(list.getByText('not sent yet')).toHaveCount(2)
  await list.getByRole('listitem').filter({ hasText: 'Brackwater' }).getByRole('button', { name: 'It is back' }).tap()
  await expect(list.getByText('Brackwater')).toHaveCount(0)
  await tablet.goto(demo.url)
  await expect(tablet.getByRole('link', { name: /Low Water Bell/ })).toContainText('dark: no Lime juice')
  await expect(tablet.getByRole('link', { name: /Black Buoy/ })).not.toContainText('Brackwater Heavy Overproof and')
  await tablet.getByRole('link', { name: /Tide Clerk/ }).click()
  await tablet.getByRole('button', { name: 'too sweet' }).click()
  await tablet.getByRole('button', { name: 'Write it down' }).click()
  await expect(alone(tablet).getByRole('button')).toHaveText('4 wait to be sent')
  for (const theme of ['chart', 'lantern']) {
    await tablet.evaluate((t) => {
      document.documentElement.dataset.theme = t
    }, theme)
    await alone(tablet).getByRole('button').click()
    await expect(tablet.getByRole('dialog')).toContainText('waits for the house')
    const { violations } = await new AxeBuilder({ page: tablet }).withTags(['wcag2a', 'wcag2aa']).analyze()
    expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')).toEqual([])
    await tablet.keyboard.press('Escape')
  }

  // Another hand takes it: nobody can look whether it is they, and nothing hides the card.
  await tablet.getByRole('button', { name: 'Bartender Hearth' }).click()
  await tablet.getByRole('menuitem', { name: 'Lock the screen' }).click()
  await expect(tablet.getByRole('region', { name: 'The screen is locked' })).toBeVisible()
  await expect(tablet.getByRole('heading', { name: 'Tide Clerk' })).toBeVisible()
  await tablet.getByRole('button', { name: 'Who is it?' }).click()
  await expect(tablet.getByRole('dialog')).toContainText('no PIN is kept on this device')
  await tablet.getByRole('button', { name: /^Bartender Courtyard/ }).click()
  await expect(tablet.getByRole('region', { name: 'Nobody could look who it is' })).toContainText('unconfirmed')
  await expect(tablet.getByRole('heading', { name: 'Tide Clerk' })).toBeVisible()
  await tablet.goto(`${demo.url}/out`)
  await tablet.getByRole('button', { name: 'Lemon juice: out in the house' }).tap()
  await expect(alone(tablet).getByRole('button')).toHaveText('5 wait to be sent')

  // Meanwhile somebody else has marked the lime and brought more: the newer word stands.
  const lime = { kind: 'ingredient', of: 'lime-juice', well: 'hearth', level: 'out' }
  const meanwhile = await demo.send<OutMarkSaid>('POST', '/api/outs', lime, 2)
  expect((await demo.send('POST', `/api/outs/${meanwhile.body.id}/end`, { why: 'back' }, 2)).status).toBe(200)
  // Late words are those of more than a moment ago.
  await tablet.waitForTimeout(10_000)

  await context.setOffline(false)
  await expect(alone(tablet)).toHaveCount(0)
  // Hers came under her name; his waits for his PIN. The manager sees it by itself.
  const out = manager.getByRole('region', { name: 'What is out' })
  await expect(out.getByText('Aromatic bitters')).toBeVisible()
  await expect(out.getByText(/Bartender Hearth/)).toHaveCount(1)
  await expect(out.getByText('Brackwater')).toHaveCount(0)
  await expect(out.getByText('Lemon juice')).toHaveCount(0)
  expect((await tonightOf(demo)).outs.map((o) => o.of)).toEqual(['aromatic-bitters'])
  const notes = (await demo.send<SaidNoteRow[]>('GET', '/api/drinks/tide-clerk/versions/1/notes')).body
  expect(notes.map((n) => [n.savedBy, n.document.kind === 'note' && n.document.says])).toEqual([
    ['Bartender Hearth', 'tooSweet'],
  ])
  await sayPin(tablet, 'Bartender Courtyard')
  await expect(out.getByText('Lemon juice')).toBeVisible()
  await expect(out.getByText(/Bartender Courtyard/)).toHaveCount(1)
  // What the house would not take is shown with its reason until somebody has seen it.
  const refused = tablet.getByRole('status').filter({ hasText: 'the house would not take' })
  await expect(refused).toContainText('One thing')
  await refused.getByRole('button', { name: 'Look at it' }).click()
  await expect(tablet.getByRole('dialog')).toContainText('Lead said something newer: Lime juice is back')
  await tablet.getByRole('button', { name: 'Seen' }).click()
  await expect(tablet.getByRole('dialog')).toContainText('Nothing waits any more')
  expect((await keptBy(tablet)).taps).toEqual([])
  await context.close()
  await office.close()
})

test('a tablet and a house that both go down lose no tap, and send none twice', async ({ demo, browser }) => {
  const context = await deviceOf(browser, 'Bartender')
  const first = await context.newPage()
  await first.goto(`${demo.url}/out`)
  await expect(first.getByRole('button', { name: 'Lime juice: low' })).toBeVisible()
  await untilReady(first)
  await demo.stop('SIGKILL')
  await first.getByRole('button', { name: 'Lime juice: low' }).tap()
  await expect(first.getByText('not sent yet')).toHaveCount(1)
  // The page is gone without a word.
  await first.close()
  const second = await context.newPage()
  await second.goto(`${demo.url}/out`)
  await expect(second.getByText('not sent yet')).toHaveCount(1)
  // Two pages at once, which both would send it.
  const third = await context.newPage()
  await third.goto(`${demo.url}/out`)
  await demo.open()
  await expect(third.getByText('not sent yet')).toHaveCount(0)
  await expect(third.getByRole('region', { name: 'What is out' })).toContainText('Lime juice')
  const audit = await demo.send<{ entries: { kind: string; by: string; subject: string }[] }>('GET', '/api/audit')
  expect(audit.body.entries.filter((e) => e.kind === 'out').map((e) => [e.by, e.subject])).toEqual([
    ['Bartender Hearth', 'ingredient/lime-juice'],
  ])
  await context.close()
})

test('nothing sealed, nobody’s word and no page of a manager stays on a device; who signs out leaves nothing', async ({
  demo,
  browser,
}) => {
  const context = await deviceOf(browser, 'Manager')
  const page = await context.newPage()
  await page.goto(demo.url)
  await expect(page.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  for (const place of ['/base', '/mixes', '/back-bar', '/people', '/drinks/low-water-bell', '/out']) {
    await page.goto(demo.url + place)
    await expect(page.locator('main h1').first()).toBeVisible()
  }
  await page.getByRole('button', { name: 'Manager' }).click()
  await page.getByRole('menuitem', { name: 'Somebody else works here now' }).click()
  await expect(page.getByRole('button', { name: /^Bartender Courtyard/ })).toBeVisible()
  await page.keyboard.press('Escape')
  const asManager = await keptBy(page)
  expect(asManager.answers).toEqual(['anybody /api/ready'])
  expect(asManager.cached.filter((path) => path.startsWith('/api'))).toEqual([])
  for (const secret of ['low tide at noon', '4071', '2580', '9173', '6044'])
    expect(asManager.text).not.toContain(secret)

  // The bar works here next: what it reads is kept, and stays while a manager looks something up.
  await page.goto(demo.url)
  await page.getByRole('button', { name: 'Manager' }).click()
  await page.getByRole('menuitem', { name: 'Somebody else works here now' }).click()
  await signInHere(page, 'Bartender Hearth')
  await untilReady(page)
  await page.getByRole('button', { name: 'Bartender Hearth' }).click()
  await page.getByRole('menuitem', { name: 'Somebody else works here now' }).click()
  await signInHere(page, 'Manager', true)
  await expect(page.getByRole('banner').getByRole('button', { name: 'Manager' })).toBeVisible()
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  await expect(page.getByRole('heading', { name: 'Low Water Bell' })).toBeVisible()
  await demo.stop()
  await page.goto(demo.url)
  // Cut off and opened anew by a manager: the bar can go on, with its own cards.
  await expect(page.getByRole('alert')).toContainText('No connection to the house')
  await page.getByRole('button', { name: /^Bartender Courtyard/ }).click()
  await expect(page.getByRole('link', { name: /Low Water Bell/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Nobody could look who it is' })).toBeVisible()
  await demo.open()
  // The house still has the manager's sign-in here; what it now answers is what the bar may read.
  await expect(alone(page)).toHaveCount(0)
  const house = await page.evaluate(async () => (await fetch('/api/sign-in')).json())
  expect(house.you).toMatchObject({ name: 'Manager', isLocked: true })
  await sayPin(page, 'Bartender Courtyard')
  await expect(page.getByRole('banner').getByRole('button', { name: 'Bartender Courtyard', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Bartender Courtyard', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Sign out' }).click()
  await expect(page.getByText('Who is it?')).toBeVisible()
  await expect.poll(async () => (await keptBy(page)).answers).toEqual(['anybody /api/ready'])
  await context.close()
})

test('the guests’ tablet shows its last menu, and as of when', async ({ demo, browser }) => {
  const context = await deviceOf(browser, 'Guest')
  const page = await context.newPage()
  await page.goto(demo.url)
  await expect(page.getByText('Low Water Bell')).toBeVisible()
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect.poll(async () => (await keptBy(page)).answers).toContain('guests /api/published-menu')
  await demo.stop()
  await page.goto(demo.url)
  await expect(page.getByText('Low Water Bell')).toBeVisible()
  await expect(alone(page)).toContainText(/As of \d\d:\d\d/)
  await demo.open()
  await expect(alone(page)).toHaveCount(0)
  await context.close()
})

test('what a lead is writing goes on without the network, opened anew too, and is saved when the house is back', async ({
  demo,
  browser,
}) => {
  const context = await deviceOf(browser, 'Lead', { width: 1280, height: 800 })
  const page = await context.newPage()
  await page.goto(`${demo.url}/drinks/parrot-ledger`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('textbox', { name: 'Amount of Lemon juice' }).fill('1 oz')
  await draftSaved(page)
  await page.goto(`${demo.url}/mixes/cinnamon-syrup`)
  await expect(page.getByRole('textbox', { name: /Amount of/ }).first()).toBeVisible()
  await untilReady(page)
  await demo.stop()
  // The mix, never written on before; and the drink that was being written.
  await page.goto(`${demo.url}/mixes/cinnamon-syrup`)
  const first = page.getByRole('textbox', { name: /Amount of/ }).first()
  await first.fill('444')
  await first.press('Enter')
  await expect(page.getByText('no connection: kept on this device')).toBeVisible()
  await page.goto(`${demo.url}/drinks/parrot-ledger`)
  const lemon = page.getByRole('textbox', { name: 'Amount of Lemon juice' })
  await expect(lemon).toHaveValue('1 oz')
  await lemon.fill('1¼ oz')
  await expect(page.getByText('no connection: kept on this device')).toBeVisible()
  await page.goto(`${demo.url}/mixes/cinnamon-syrup`)
  await expect(first).toHaveValue(/444/)
  await demo.open()
  await draftSaved(page)
  await page.goto(`${demo.url}/drinks/parrot-ledger`)
  await draftSaved(page)
  const mix = await demo.send<unknown>('GET', '/api/ingredients/cinnamon-syrup/draft', undefined, 2)
  expect(JSON.stringify(mix.body)).toContain('444')
  const drink = await demo.send<{ draft: unknown }>('GET', '/api/drinks/parrot-ledger', undefined, 2)
  expect(JSON.stringify(drink.body.draft)).toContain('1.25')
  await context.close()
})
