/** Several people, lost connections, killed servers: nobody loses words. */

import type { Drink, Edition, EditionSummary, Menu, ShelfPart } from '@conch/contract'
import type { Browser, Page } from '@playwright/test'
import { draftSaved, expect, figure, signInHere, test, worksHere } from './house.ts'

test('two people on one draft: the second is told, compares, and neither loses words', async ({ demo, browser }) => {
  const open = async (role: 'Manager' | 'Lead') => {
    const context = await browser.newContext()
    await worksHere(context, role)
    const page = await context.newPage()
    await page.goto(`${demo.url}/drinks/parrot-ledger`)
    await page.getByRole('button', { name: 'Change', exact: true }).click()
    return page
  }
  const manager = await open('Manager')
  const lead = await open('Lead')
  await hearsNothing(lead)
  await manager.getByRole('textbox', { name: 'Amount of Lemon juice' }).fill('1 oz')
  await draftSaved(manager)
  await lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' }).fill('¾ oz')

  const panel = lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })
  await expect(panel).toBeVisible()
  await expect(panel.getByRole('row', { name: /Lemon juice 1 oz ¾ oz/ })).toBeVisible()
  await expect(panel.getByRole('row', { name: /Sugar syrup 1:1 by weight ½ oz ¾ oz/ })).toBeVisible()

  // Theirs is taken: mine is one undo away.
  await panel.getByRole('button', { name: /Take theirs/ }).click()
  await expect(lead.getByRole('textbox', { name: 'Amount of Lemon juice' })).toHaveValue('1 oz')
  await lead.getByRole('button', { name: 'Undo' }).click()
  await expect(lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' })).toHaveValue('¾ oz')
  await draftSaved(lead)
  const drink = (await demo.send<Drink>('GET', '/api/drinks/parrot-ledger')).body
  expect(drink.draft?.savedBy).toBe('Lead')
})

/** Two devices, each with its person, on one page. */
async function twoOn(browser: Browser, url: string): Promise<[Page, Page]> {
  const open = async (who: 'Manager' | 'Lead') => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })
    await worksHere(context, who)
    const page = await context.newPage()
    await page.goto(url)
    return page
  }
  return [await open('Manager'), await open('Lead')]
}

/** A page that has not heard of what others did: nothing of drafts and plans reaches it but as an answer to its writes. */
async function hearsNothing(page: Page): Promise<void> {
  await page.route(/\/(draft|menu)$|\/api\/drinks\/[a-z-]+$/, (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  )
}

test('two people on one mix: chosen line by line, and both changes are in the recipe that is saved', async ({
  demo,
  browser,
}) => {
  const [manager, lead] = await twoOn(browser, `${demo.url}/mixes/cinnamon-syrup`)
  const amounts = (page: Page) => page.getByRole('textbox', { name: /^Amount of / })
  await expect(amounts(manager).first()).toBeVisible()
  const names = await amounts(manager).evaluateAll((all) => all.map((e) => e.getAttribute('aria-label') ?? ''))
  const [first = '', second = ''] = names
  await expect(amounts(lead).first()).toBeVisible()
  await hearsNothing(lead)
  await manager.getByRole('textbox', { name: first }).fill('777')
  await draftSaved(manager)
  await lead.getByRole('textbox', { name: second }).fill('555')
  const panel = lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })
  await expect(panel).toBeVisible()
  // What each changed alone is chosen already: theirs of the first line, ours of the second.
  await expect(panel.getByRole('row')).toHaveCount(3)
  await panel.getByRole('button', { name: 'Go on with what is chosen' }).click()
  await expect(lead.getByRole('textbox', { name: first })).toHaveValue('777')
  await expect(lead.getByRole('textbox', { name: second })).toHaveValue('555')
  await draftSaved(lead)
  await lead.getByLabel('Why it is changed').fill('both of us')
  await lead.getByRole('button', { name: 'Save the recipe' }).click()
  await expect(lead.getByText('is saved. Lots that are made already')).toBeVisible()
  const shelf = (await demo.send<ShelfPart>('GET', '/api/shelf?of=cinnamon-syrup')).body
  const recipe = shelf.ingredients.find((i) => i.slug === 'cinnamon-syrup')?.recipe
  expect(recipe?.components.map((c) => c.amount).slice(0, 2)).toEqual([777, 555])

  // The same line changed by both: nothing goes on before somebody has chosen.
  await lead.unrouteAll()
  await manager.reload()
  await lead.reload()
  await expect(amounts(lead).first()).toBeVisible()
  await hearsNothing(lead)
  await manager.getByRole('textbox', { name: first }).fill('700')
  await draftSaved(manager)
  await lead.getByRole('textbox', { name: first }).fill('600')
  await expect(panel).toBeVisible()
  await expect(panel.getByRole('button', { name: 'Go on with what is chosen' })).toBeDisabled()
  await panel.getByRole('radio').last().check()
  await panel.getByRole('button', { name: 'Go on with what is chosen' }).click()
  await draftSaved(lead)
  await expect(lead.getByRole('textbox', { name: first })).toHaveValue('600')
})

test('two people on one slot: the second takes theirs, and has their own back with one undo', async ({
  demo,
  browser,
}) => {
  const [manager, lead] = await twoOn(browser, `${demo.url}/slots/light-mixing`)
  await expect(lead.getByRole('textbox', { name: 'Highest strength' })).toBeVisible()
  await hearsNothing(lead)
  await manager.getByRole('textbox', { name: 'Highest strength' }).fill('47')
  await draftSaved(manager)
  await lead.getByRole('textbox', { name: 'Lowest strength' }).fill('36')
  const panel = lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })
  await expect(panel.getByRole('row', { name: /strength/ })).toBeVisible()
  await panel.getByRole('button', { name: /Take theirs/ }).click()
  await expect(lead.getByRole('textbox', { name: 'Highest strength' })).toHaveValue('47')
  await lead.getByRole('button', { name: 'Undo' }).click()
  await expect(lead.getByRole('textbox', { name: 'Lowest strength' })).toHaveValue('36')
  await draftSaved(lead)
})

test('two people on one plan: neither overwrites the other, and a double tap publishes once', async ({
  demo,
  browser,
}) => {
  const [manager, lead] = await twoOn(browser, `${demo.url}/next`)
  await expect(lead.getByRole('button', { name: 'Take Green Pilot off' })).toBeVisible()
  await hearsNothing(lead)
  await manager.getByRole('button', { name: 'Take Tide Clerk off' }).click()
  await draftSaved(manager)
  await lead.getByRole('button', { name: 'Take Green Pilot off' }).click()
  const panel = lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })
  await expect(panel.getByRole('row', { name: /Tide Clerk/ })).toBeVisible()
  await expect(panel.getByRole('row', { name: /Green Pilot/ })).toBeVisible()
  await panel.getByRole('button', { name: 'Go on with what is chosen' }).click()
  await draftSaved(lead)
  const menu = (await demo.send<Menu>('GET', '/api/menu')).body
  const planned = menu.plan.chapters.flatMap((c) => c.entries.map((e) => e.drink))
  expect(planned).not.toContain('tide-clerk')
  expect(planned).not.toContain('green-pilot')

  await manager.reload()
  await manager.getByRole('button', { name: 'Publish …' }).click()
  await manager.getByLabel('Name', { exact: true }).fill('Twice tapped')
  await manager.getByRole('dialog').getByRole('button', { name: 'Publish' }).dblclick()
  await expect(manager).toHaveURL(`${demo.url}/`)
  const editions = (await demo.send<EditionSummary[]>('GET', '/api/editions')).body
  expect(editions.filter((e) => e.name === 'Twice tapped')).toHaveLength(1)
})

test('computing that fails says so, with a way to try again', async ({ demo, page }) => {
  let isBroken = true
  await page.route('**/compute.worker-*', (route) => (isBroken ? route.abort() : route.continue()))
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('alert').filter({ hasText: 'the glass could not be computed' })).toBeVisible()
  isBroken = false
  await page.getByRole('button', { name: 'Try again' }).first().click()
  expect(await figure(page, 'strengthPct')).toBeGreaterThan(3)
})

test('an answer that is none of ours says so, and asks again', async ({ demo, page }) => {
  let isStrange = true
  await page.route('**/api/drinks/tide-clerk', (route) =>
    isStrange ? route.fulfill({ json: { slug: 'tide-clerk', versions: 'many' } }) : route.continue(),
  )
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('alert')).toContainText('something that this page does not understand')
  isStrange = false
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
})

test('who it is is asked once on a device, and nobody sees more than that', async ({ demo, browser }) => {
  const page = await (await browser.newContext()).newPage()
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByText('Who is it?')).toBeVisible()
  await signInHere(page, 'Bartender Courtyard')
  await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
  // They leave the house: the device asks again.
  const left = { name: 'Bartender Courtyard', role: 'bartender', isActive: false, revision: 1 }
  expect((await demo.send('PUT', '/api/people/4', left)).status).toBe(200)
  await page.reload()
  await expect(page.getByText('Who is it?')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Bartender Courtyard/ })).toHaveCount(0)
})

test('what is written while the server is away is kept and sent later', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/night-tariff`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await demo.stop()
  await page.getByRole('textbox', { name: 'Seconds' }).fill('31')
  await expect(page.getByText('no connection: kept on this device')).toBeVisible()
  await demo.open()
  await expect(page.locator('[data-draft-status="saved"]')).toBeVisible()
  const drink = (await demo.send<Drink>('GET', '/api/drinks/night-tariff')).body
  expect(drink.draft?.document.stages[0]?.durationS).toBe(31)
})

test('a kill in the middle of saves loses nothing that was acknowledged', async ({ demo }) => {
  const acknowledged: number[] = []
  const versions: { number: number; reason: string }[] = []
  for (let round = 0; round < 3; round++) {
    let isKilled = false
    const saving = (async () => {
      let revision = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body.draft?.revision ?? 0
      const { document } = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body
        .versions[0] as Drink['versions'][0]
      for (let n = 1; !isKilled; n++) {
        const note = `round ${round}, save ${n}`
        const saved = await demo
          .send<{ revision: number }>('PUT', '/api/drinks/green-pilot/draft', {
            document: { ...document, note },
            revision,
            baseVersion: 1,
          })
          .catch(() => undefined)
        if (!saved) return
        expect(saved.status).toBe(200)
        revision = saved.body.revision
        acknowledged.push(revision)
        if (n % 5 === 0) {
          const version = await demo
            .send<{ number: number }>('POST', '/api/drinks/green-pilot/versions', {
              draftRevision: revision,
              reason: note,
            })
            .catch(() => undefined)
          if (!version) return
          versions.push({ number: version.body.number, reason: note })
          revision = 0
        }
      }
    })()
    // By count, not by the clock: on a slow machine nothing was acknowledged yet when the time was up.
    const enough = acknowledged.length + 6 + round
    await expect.poll(() => acknowledged.length, { intervals: [5], timeout: 60_000 }).toBeGreaterThanOrEqual(enough)
    isKilled = true
    await demo.stop('SIGKILL')
    await saving
    await demo.open()
    const drink = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body
    for (const { number, reason } of versions)
      expect(drink.versions.find((v) => v.number === number)?.reason).toBe(reason)
    const last = acknowledged[acknowledged.length - 1] as number
    if (drink.draft) expect(drink.draft.revision).toBeGreaterThanOrEqual(last)
    else expect(drink.versions.length).toBeGreaterThan(1)
  }
  expect(acknowledged.length).toBeGreaterThan(10)
})

test('a second server on the same data stops with a plain message', async ({ demo }) => {
  const second = await demo.openSecond()
  expect(second.code).toBe(1)
  expect(second.output).toMatch(
    /^The data directory .+ is open in process \d+ on .+\. Stop that one first, or choose another directory with CONCH_DATA\.\n$/,
  )
  expect((await demo.send('GET', '/api/ready')).status).toBe(200)
})

test('closes cleanly on SIGTERM, and opens again as it was', async ({ demo }) => {
  const before = (await demo.send<Edition>('GET', '/api/editions/1')).body
  await demo.stop('SIGTERM')
  await demo.open()
  expect((await demo.send<Edition>('GET', '/api/editions/1')).body).toEqual(before)
})

test('a bartender reads and cannot change', async ({ demo, browser }) => {
  const context = await browser.newContext()
  await worksHere(context, 'Bartender')
  const page = await context.newPage()
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  expect(await figure(page, 'strengthPct')).toBeGreaterThan(10)
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toHaveCount(0)
  await page.goto(`${demo.url}/next`)
  await expect(page.getByRole('button', { name: 'Publish …' })).toBeDisabled()
})
