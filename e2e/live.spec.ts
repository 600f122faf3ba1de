/** What one does everybody sees: three people, three sizes, one evening. */

import type { Browser, Page } from '@playwright/test'
import { draftSaved, expect, type PEOPLE, test, worksHere } from './house.ts'

async function at(
  browser: Browser,
  who: keyof typeof PEOPLE,
  [width, height]: [number, number],
  url: string,
): Promise<Page> {
  const context = await browser.newContext({ viewport: { width, height }, hasTouch: width < 1100 })
  await worksHere(context, who)
  const page = await context.newPage()
  await page.goto(url)
  return page
}

test('a lead marks a rum out on a phone: the menu and the tablet go dark, and pour what the lead found instead', async ({
  demo,
  browser,
}) => {
  const manager = await at(browser, 'Manager', [1280, 800], demo.url)
  const tablet = await at(browser, 'Bartender', [1024, 768], `${demo.url}/drinks/low-water-bell`)
  const lead = await at(browser, 'Lead', [390, 844], `${demo.url}/out`)
  const guest = await at(browser, 'Guest', [1024, 768], demo.url)
  await expect(manager.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  await expect(tablet.getByRole('heading', { name: 'Low Water Bell' })).toBeVisible()
  await expect(guest.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  await expect(manager.getByText('dark tonight')).toHaveCount(0)

  await lead.getByRole('searchbox', { name: /Find a bottle/ }).fill('brackwater')
  await lead.getByRole('button', { name: 'Brackwater Heavy Overproof: out in the house' }).tap()
  await expect(manager.getByRole('link', { name: '2 dark tonight' })).toBeVisible()
  await expect(manager.getByRole('link', { name: /Black Buoy/ })).toContainText('dark: no Brackwater Heavy Overproof')
  await expect(tablet.locator('[data-tonight="dark"]')).toContainText('Dark at the Hearth: no Brackwater')
  await expect(guest.getByText('not tonight')).toHaveCount(2)
  await expect(lead.getByText(/in the house · Lead, \d\d:\d\d/)).toBeVisible()

  // Something instead, for tonight, at this well alone.
  const dark = lead.getByRole('region', { name: 'On the menu, at the Hearth' })
  await dark
    .getByRole('link', { name: /Instead of Brackwater/ })
    .first()
    .tap()
  await lead.getByRole('button', { name: 'Tonight at the Hearth' }).tap()
  await expect(lead).toHaveURL(/\/out$/)
  await expect(tablet.locator('[data-tonight="instead"]')).toContainText('for Brackwater Heavy Overproof (Lead,')
  await expect(manager.getByRole('link', { name: '1 dark tonight' })).toBeVisible()
  await tablet.getByRole('link', { name: 'How it is made tonight' }).tap()
  await expect(tablet.getByRole('link', { name: 'As it is written' })).toBeVisible()
  await expect(tablet.locator('[data-pour]').filter({ hasText: 'Brackwater' })).toHaveCount(0)
  await manager.getByRole('button', { name: 'Courtyard', exact: true }).click()
  await expect(manager.getByRole('link', { name: '2 dark tonight' })).toBeVisible()

  // It is back: all is as it was, and a wrong tap is taken back where it was made.
  await lead.getByRole('button', { name: 'It is back' }).tap()
  await expect(manager.getByText('dark tonight')).toHaveCount(0)
  await expect(tablet.locator('[data-tonight]')).toHaveCount(0)
  await lead.getByRole('button', { name: 'Undo' }).last().tap()
  await expect(manager.getByRole('link', { name: '2 dark tonight' })).toBeVisible()
  for (const page of [manager, tablet, lead, guest]) await page.context().close()
})

test('what others change comes by itself, and never over what one is writing', async ({ demo, browser }) => {
  const manager = await at(browser, 'Manager', [1280, 800], `${demo.url}/drinks/parrot-ledger`)
  const lead = await at(browser, 'Lead', [1280, 800], `${demo.url}/drinks/parrot-ledger`)
  await manager.getByRole('button', { name: 'Change', exact: true }).click()
  await manager.getByRole('textbox', { name: 'Amount of Lemon juice' }).fill('1 oz')
  await draftSaved(manager)
  // The other sees the draft come, and who is on it.
  await expect(lead.getByRole('textbox', { name: 'Amount of Lemon juice' })).toHaveValue('1 oz')
  await expect(lead.locator('[data-others]')).toHaveText('Manager is on this draft, too')
  await expect(manager.locator('[data-others]')).toHaveText('Lead is on this draft, too')
  // What is typed and not sent yet stays, whatever arrives.
  await lead.route(/\/draft$/, (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
  await lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' }).fill('¾ oz')
  await manager.getByRole('textbox', { name: 'Amount of Passion-fruit purée' }).fill('1¼ oz')
  await draftSaved(manager)
  await demo.send('POST', '/api/drinks', { name: 'Something else' })
  await expect(lead.getByText('no connection: kept on this device')).toBeVisible()
  await expect(lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' })).toHaveValue('¾ oz')
  // Sent again, the two are compared.
  await lead.unroute(/\/draft$/)
  await expect(lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })).toBeVisible()
  await manager.goto(`${demo.url}/`)
  await expect(lead.locator('[data-others]')).toHaveCount(0)
  // A list follows, too.
  await lead.goto(`${demo.url}/drinks`)
  await expect(lead.getByRole('table', { name: 'Drinks' })).toContainText('Something else')
  await demo.send('POST', '/api/drinks', { name: 'Also new' })
  await expect(lead.getByRole('table', { name: 'Drinks' })).toContainText('Also new')
  for (const page of [manager, lead]) await page.context().close()
})

test('a house that goes away is said, and when it is back nothing was missed', async ({ demo, browser }) => {
  const page = await at(browser, 'Bartender', [1024, 768], demo.url)
  await expect(page.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  await demo.stop()
  await expect(page.locator('[data-alone]')).toContainText(/On its own since \d\d:\d\d/)
  await expect(page.getByRole('link', { name: /Black Buoy/ })).toBeVisible()
  await demo.open()
  const out = { kind: 'ingredient', of: 'brackwater', well: null, level: 'out' }
  expect((await demo.send('POST', '/api/outs', out, 3)).status).toBe(201)
  await expect(page.getByRole('link', { name: '2 dark tonight' })).toBeVisible()
  await expect(page.locator('[data-alone]')).toHaveCount(0)
  await page.context().close()
})

test('several pages of one browser hold one stream, and all of them follow', async ({ demo, browser }) => {
  const context = await browser.newContext()
  await worksHere(context, 'Lead')
  const streams: string[] = []
  context.on('request', (r) => {
    if (r.url().includes('/api/feed') && r.headers().accept?.includes('text/event-stream')) streams.push(r.url())
  })
  const pages = [await context.newPage(), await context.newPage(), await context.newPage()]
  for (const page of pages) {
    await page.goto(demo.url)
    await expect(page.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  }
  await expect.poll(() => streams.length).toBeGreaterThan(0)
  const out = { kind: 'ingredient', of: 'brackwater', well: null, level: 'out' }
  await demo.send('POST', '/api/outs', out, 3)
  for (const page of pages) await expect(page.getByRole('link', { name: '2 dark tonight' })).toBeVisible()
  expect(streams.length).toBe(1)
  // The one that held it is closed: another takes it up, and misses nothing.
  await pages[0]?.close()
  await expect.poll(() => streams.length).toBe(2)
  await demo.send('POST', '/api/outs', { ...out, of: 'falernum' }, 3)
  for (const page of pages.slice(1)) await expect(page.getByRole('link', { name: '3 dark tonight' })).toBeVisible()
  await context.close()
})

test('what can be poured is found by a wish in plain words, and follows what is out', async ({ demo, browser }) => {
  const page = await at(browser, 'Bartender', [1024, 768], `${demo.url}/pour`)
  await page.getByRole('searchbox', { name: 'What is wished for' }).fill('no nuts, under 20 %, long')
  const status = page.locator('main [role=status]').filter({ hasText: 'can be poured' })
  await expect(status).toContainText('Understood: without tree nuts')
  await expect(status).toContainText(/3 can be poured/)
  await expect(page.getByRole('link', { name: /Low Water Bell/ })).toHaveCount(0)
  await expect(page.getByText('Follow your local licensing')).toBeVisible()
  await demo.send('POST', '/api/outs', { kind: 'ingredient', of: 'ginger-beer', well: 'hearth', level: 'out' }, 3)
  await expect(status).toContainText(/2 can be poured, 1 more is dark/)
  await page.getByLabel('what is dark, too').check()
  await expect(page.getByRole('link', { name: /Tide Clerk/ })).toContainText('no Ginger beer')
  await page.getByRole('searchbox', { name: 'What is wished for' }).fill('durian')
  await expect(page.getByText('Nothing on the menu is like that.')).toBeVisible()
  await page.context().close()
})
