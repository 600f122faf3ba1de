/** Making it: a round on a tablet at the Courtyard, cut off half-way, with a line forgotten; put aside, and put right. */

import AxeBuilder from '@axe-core/playwright'
import type { Rounds } from '@conch/contract'
import type { Browser, BrowserContext, Page } from '@playwright/test'
import { expect, type House, type PEOPLE, test, worksHere } from './house.ts'

const TABLET = { width: 1024, height: 768 }

async function tabletOf(
  browser: Browser,
  url: string,
  who: keyof typeof PEOPLE,
  { well = 'Courtyard', viewport = TABLET } = {},
): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ viewport, hasTouch: true, serviceWorkers: 'allow' })
  await worksHere(context, who)
  const page = await context.newPage()
  await page.goto(url)
  await page.getByRole('button', { name: well, exact: true }).click()
  await page.goto(`${url}/rail`)
  await expect(page.getByRole('button', { name: 'Tide Clerk', exact: true })).toBeVisible()
  return { context, page }
}

const drink = (page: Page, name: string) =>
  page.getByRole('region', { name: 'What is poured' }).getByRole('button', { name: new RegExp(`^${name}`) })
const hand = (page: Page) => page.getByLabel('The step in hand')
const done = (page: Page) => page.getByRole('button', { name: 'Done', exact: true })
const rounds = async (demo: House) => (await demo.send<Rounds>('GET', '/api/rounds')).body

/** Ticks on while there is something to tick and the words are not there yet. */
async function tickUntil(page: Page, words: RegExp): Promise<void> {
  await page.waitForTimeout(400)
  for (let i = 0; i < 60; i++) {
    const text = await hand(page).innerText()
    if (words.test(text)) return
    await done(page).tap()
    await expect.poll(() => page.locator('main').innerText()).not.toBe(text)
    // A second tap so soon would be a slip of the thumb, and none.
    await page.waitForTimeout(400)
    if ((await hand(page).count()) === 0) return
  }
  throw new Error(`never came to ${words}`)
}

/** Runs the clock until it stands in its window, and stops it. */
async function chill(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Start the clock' }).tap()
  await expect(page.locator('[data-standing]')).toHaveAttribute('data-standing', 'in', { timeout: 30_000 })
  await expect(page.locator('[data-reading]')).toContainText(/in the glass now: \d+ % water from ice, −?\d+\.\d °C/)
  await page.getByRole('button', { name: 'Stop' }).tap()
}

async function noViolations(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
  expect(
    violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => [v.id, v.nodes[0]?.html]),
  ).toEqual([])
}

/** What a wet thumb has to hit is large enough, and what is read from two metres too. */
async function largeEnough(page: Page): Promise<void> {
  for (const target of await page.locator('main button:visible, footer button:visible, footer a:visible').all()) {
    const box = await target.boundingBox()
    expect(box?.height, await target.innerText()).toBeGreaterThanOrEqual(55.9)
    expect(box?.width, await target.innerText()).toBeGreaterThanOrEqual(47.9)
  }
  const amount = page.locator('[data-amount]')
  if ((await amount.count()) > 0)
    expect(await amount.evaluate((e) => Number.parseFloat(getComputedStyle(e).fontSize))).toBeGreaterThanOrEqual(48)
}

test('a round of three at the Courtyard: cut off half-way, a line forgotten and caught, opened anew, and sent when the house is back', async ({
  demo,
  browser,
}) => {
  test.setTimeout(240_000)
  const { context, page } = await tabletOf(browser, demo.url, 'Courtyard')
  expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('lantern')
  await largeEnough(page)
  await noViolations(page)
  await drink(page, 'Tide Clerk').tap()
  await drink(page, 'Tide Clerk').tap()
  await drink(page, 'Brass Ferry').tap()
  await page.getByRole('button', { name: 'Make 3' }).tap()

  // Said before: what is in it, what stands in the way, and in which order; two of the same go in one.
  await expect(page.getByText('In this order')).toBeVisible()
  const order = page.getByRole('main').getByRole('listitem')
  await expect(order.filter({ hasText: '2 × Tide Clerk' })).toContainText('in one go')
  await expect(page.getByText('Follow your local licensing')).toBeVisible()
  await largeEnough(page)
  await noViolations(page)
  await page.getByRole('button', { name: /egin$/ }).tap()

  // A wet thumb taps twice: one line is ticked, not two.
  const dones = page.getByText(/^1 of \d+ steps done$/)
  await page.waitForTimeout(400)
  await done(page).dblclick()
  await expect(dones).toHaveCount(1)
  // Both pour the same syrup: it is poured for both, each said, and what they come to.
  await tickUntil(page, /Cinnamon syrup/)
  await expect(page.locator('[data-shared]')).toHaveText(/^\S+ in 1 \+ \S+ in 2 = \S+ oz$/)
  await largeEnough(page)
  await noViolations(page)
  // The first tin's syrup is forgotten.
  await page.getByRole('button', { name: /Leave it for later/ }).tap()
  await expect(hand(page)).toContainText('Cinnamon syrup')
  await done(page).tap()
  await expect(page.getByRole('status').filter({ hasText: 'Not in yet' })).toContainText('Cinnamon syrup in 1')
  const foot = await page.getByRole('button', { name: 'Done', exact: true }).boundingBox()

  // The network goes, and the tablet falls: it goes on where it was.
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect
    .poll(() =>
      page.evaluate(async () => {
        let all = 0
        for (const name of await caches.keys()) all += (await (await caches.open(name)).keys()).length
        return all
      }),
    )
    .toBeGreaterThan(100)
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const opening = indexedDB.open('conch')
            opening.onsuccess = () => {
              const counting = opening.result.transaction('answers').objectStore('answers').count()
              counting.onsuccess = () => resolve(counting.result)
            }
          }),
      ),
    )
    .toBeGreaterThan(15)
  await context.setOffline(true)
  await expect(page.locator('[data-line=alone]')).toContainText(/on its own since \d\d:\d\d/)
  await page.reload()
  await expect(page.getByRole('status').filter({ hasText: 'Not in yet' })).toContainText('Cinnamon syrup in 1')
  await expect(hand(page)).toBeVisible()
  // Nothing jumped: the big button is where it was.
  expect((await done(page).boundingBox())?.y).toBeCloseTo(foot?.y ?? 0, 0)

  // Before the clock the forgotten line is said, and poured.
  await tickUntil(page, /not in/)
  await expect(page.getByRole('heading', { name: 'Cinnamon syrup is not in' })).toBeVisible()
  await noViolations(page)
  await page.getByRole('button', { name: 'Pour it now' }).tap()
  await done(page).tap()
  await expect(page.getByText('Not in yet')).toHaveCount(0)
  await tickUntil(page, /Start the clock/)
  await chill(page)
  // Stopped in its window it is ticked, and the next thing is in hand.
  await expect(hand(page)).toContainText('Pour off')
  await tickUntil(page, /Start the clock/)
  await expect(hand(page)).toContainText('for 2 in one go')
  await chill(page)
  await tickUntil(page, /never/).catch(() => undefined)
  await expect(page.getByRole('button', { name: 'Out it goes' })).toBeVisible()
  await page.getByRole('button', { name: 'good' }).first().tap()
  await largeEnough(page)
  await noViolations(page)
  await page.getByRole('button', { name: 'Out it goes' }).tap()
  await expect(page.getByText('Kept here, and sent when the house is heard.').first()).toBeVisible()
  await expect(drink(page, 'Tide Clerk')).toBeVisible()
  expect((await rounds(demo)).made).toEqual([])

  await context.setOffline(false)
  await expect.poll(async () => (await rounds(demo)).made.length, { timeout: 40_000 }).toBe(1)
  const [made] = (await rounds(demo)).made
  expect(made?.savedBy).toBe('Bartender Courtyard')
  expect(made?.skipped).toEqual([])
  expect(made?.round.well).toBe('courtyard')
  expect(made?.round.loads.map((l) => `${l.glasses} ${l.drink}`).sort()).toEqual(['1 brass-ferry', '2 tide-clerk'])
  expect(Object.values(made?.round.clocks ?? {}).every((c) => (c.ranS ?? 0) > 1)).toBe(true)
  // It can be made again.
  await expect(page.getByRole('region', { name: 'Made tonight' })).toContainText('3 glasses')
  await page.getByRole('region', { name: 'Made tonight' }).getByRole('button').first().tap()
  await expect(page.getByRole('button', { name: 'Make 3' })).toBeEnabled()
  await context.close()
})

test('a bowl that the mixer does not hold is made in two goes: what is too much in the first is less in the second', async ({
  demo,
  browser,
}) => {
  test.setTimeout(150_000)
  const { context, page } = await tabletOf(browser, demo.url, 'Courtyard')
  await drink(page, 'The Drowned Archive').tap()
  await page.getByRole('button', { name: 'Make it' }).tap()
  await expect(page.getByRole('main')).toContainText(/in 2 goes of \d+ ml with their ice: it works with 600/)
  await page.getByRole('button', { name: /egin$/ }).tap()
  await tickUntil(page, /1 oz\s*30 ml\s*Sootwharf Black/)
  await expect(hand(page)).toContainText('go 1 of 2')
  await page.getByRole('button', { name: 'Wrong amount' }).tap()
  await page.getByRole('button', { name: '1½ oz', exact: true }).tap()
  const left = page.getByRole('listitem').filter({ hasText: 'Leave it so' })
  await expect(left).toContainText(/Each glass in its standard: .* The last go gets so much less\./)
  await left.getByRole('button').tap()
  await tickUntil(page, /Start the clock/)
  await chill(page)
  await expect(hand(page)).toContainText('the rest comes with the next go')
  await tickUntil(page, /Sootwharf Black/)
  await expect(hand(page)).toContainText('go 2 of 2')
  await expect(page.locator('[data-amount]')).toHaveText('½ oz')
  await largeEnough(page)
  await noViolations(page)
  // The tablet falls: the second go is still the second.
  await page.reload()
  await expect(page.locator('[data-amount]')).toHaveText('½ oz')
  // Another well, whose mixer would hold it all, goes on where it was: half of it is in the bowl.
  const there = await tabletOf(browser, demo.url, 'Bartender', { well: 'Hearth' })
  await page.getByRole('button', { name: 'Put aside' }).tap()
  const aside = there.page.getByRole('region', { name: 'Put aside' })
  await aside.getByRole('button', { name: /^The Drowned Archive/ }).tap()
  await expect(there.page.getByRole('main')).toContainText(/in 2 goes of/)
  await there.page.getByRole('button', { name: /egin$/ }).tap()
  await expect(hand(there.page)).toContainText('go 2 of 2')
  await expect(there.page.locator('[data-amount]')).toHaveText('½ oz')
  await tickUntil(there.page, /Start the clock/)
  await expect(hand(there.page)).toContainText('go 2 of 2')
  await chill(there.page)
  await tickUntil(there.page, /never said/)
  await there.page.getByRole('button', { name: 'Out it goes' }).tap()
  await expect.poll(async () => (await rounds(demo)).made.length).toBe(1)
  const [made] = (await rounds(demo)).made
  expect(made?.skipped).toEqual([])
  expect(Object.keys(made?.round.clocks ?? {})).toEqual(['a', 'a2'])
  expect(Object.values(made?.round.poured ?? {})).toEqual([45])
  await context.close()
  await there.context.close()
})

test('a round is put aside and taken up on another tablet; what went wrong is put right; a guest has a wish', async ({
  demo,
  browser,
}) => {
  test.setTimeout(150_000)
  const here = await tabletOf(browser, demo.url, 'Courtyard')
  const there = await tabletOf(browser, demo.url, 'Bartender', { well: 'Hearth' })
  const { page } = here
  await drink(page, 'Tide Clerk').tap()
  await page.getByRole('button', { name: 'Make it' }).tap()
  await page.getByRole('button', { name: /egin$/ }).tap()
  await tickUntil(page, /Lemon juice/)
  // Twice the lemon: with more of the others it is two glasses.
  await page.getByRole('button', { name: 'Wrong amount' }).tap()
  await expect(page.getByRole('heading', { name: 'How much Lemon juice went in?' })).toBeVisible()
  const amount = await page.getByText(/^It should be/).innerText()
  const twice = { 'It should be ½ oz.': '1 oz', 'It should be ¾ oz.': '1½ oz', 'It should be 1 oz.': '2 oz' }[amount]
  await page.getByRole('button', { name: twice ?? '', exact: true }).tap()
  await expect(page.getByRole('listitem').filter({ hasText: 'Leave it so' })).toContainText(/too sharp/)
  await expect(page.getByRole('listitem').filter({ hasText: 'Start anew' })).toContainText(/\d+ ml are thrown away/)
  const two = page.getByRole('listitem').filter({ hasText: 'Make 2 of it' })
  await expect(two).toContainText('in its standard')
  await noViolations(page)
  // Left so, the clock says what it will be; on looking back the line says it too, and it can still be put right.
  await page.getByRole('button', { name: 'Leave it so' }).tap()
  await tickUntil(page, /Start the clock/)
  await expect(page.locator('[data-reading]')).toContainText(/with what is in it: .*too sharp/)
  await expect(async () => {
    await page.getByRole('button', { name: 'The step before' }).tap()
    await expect(hand(page)).toContainText('Lemon juice', { timeout: 200 })
  }).toPass()
  await expect(hand(page)).toContainText(/enough\s*Lemon juice\s*■ \d+(\.\d)? ml of it is in, for/)
  await page.getByRole('button', { name: 'Wrong amount' }).tap()
  await expect(page.getByText(amount)).toBeVisible()
  await page.getByRole('button', { name: twice ?? '', exact: true }).tap()
  await expect(two).toContainText('in its standard')
  await two.getByRole('button').tap()
  await expect(page.getByRole('list', { name: 'This round' })).toContainText('2 × Tide Clerk')
  await expect(hand(page)).toContainText('of it is in already')

  // Put aside here, it lies on the other tablet; one hand takes it.
  await page.getByRole('button', { name: 'Put aside' }).tap()
  await expect(page.getByRole('region', { name: 'Put aside' })).toContainText('2 × Tide Clerk')
  const other = there.page.getByRole('region', { name: 'Put aside' })
  await expect(other).toContainText('Courtyard · Bartender Courtyard')
  await other.getByRole('button', { name: /^2 × Tide Clerk/ }).tap()
  // Other bottles stand at another well: what the guest has to hear is said again, and nothing ticked is lost.
  await there.page.getByRole('button', { name: /egin$/ }).tap()
  await expect(there.page.getByRole('list', { name: 'This round' })).toContainText('2 × Tide Clerk')
  await expect(there.page.locator('[data-line]')).toContainText('Hearth')
  await expect(page.getByRole('region', { name: 'Put aside' })).toHaveCount(0)

  // What runs out while it is made is said, and nothing is lost.
  const out = { kind: 'ingredient', of: 'soda-water', well: null, level: 'out' }
  const { body: house } = await demo.send<{ versions: { document: { pours: { ingredient?: string }[] } }[] }>(
    'GET',
    '/api/drinks/tide-clerk',
  )
  const lines = house.versions[0]?.document.pours.flatMap((p) => p.ingredient ?? []) ?? []
  const last = lines.find((l) => l !== 'lemon-juice') ?? out.of
  await demo.send('POST', '/api/outs', { ...out, of: last }, 2)
  await expect(there.page.getByRole('alert').filter({ hasText: 'is out now' })).toContainText(
    'Nothing that you ticked is lost',
  )
  await noViolations(there.page)

  // A guest wants no nuts: poured once, never the spec.
  await drink(page, 'Low Water Bell').tap()
  await page.getByRole('button', { name: 'wish' }).tap()
  await page.getByRole('button', { name: 'no nuts' }).tap()
  const round = page.getByRole('region', { name: 'This round' })
  await expect(round).toContainText(/no nuts: without .*orgeat/i, { timeout: 30_000 })
  const before = (await demo.send<{ versions: unknown[] }>('GET', '/api/drinks/low-water-bell')).body.versions.length
  await page.getByRole('button', { name: 'Make it' }).tap()
  await expect(page.getByRole('main')).not.toContainText('contains tree nuts')
  await page.getByRole('button', { name: /egin$/ }).tap()
  await page.getByRole('button', { name: 'Finish' }).tap()
  await expect(page.getByRole('alert').filter({ hasText: 'not ticked' })).toBeVisible()
  await page.getByRole('button', { name: 'Out it goes all the same' }).tap()
  await expect.poll(async () => (await rounds(demo)).made.length).toBe(1)
  const [made] = (await rounds(demo)).made
  expect(made?.skipped.length).toBeGreaterThan(4)
  expect(made?.round.loads[0]?.otherwise).toMatch(/^no nuts/)
  expect((await demo.send<{ versions: unknown[] }>('GET', '/api/drinks/low-water-bell')).body.versions).toHaveLength(
    before,
  )
  await here.context.close()
  await there.context.close()
})

test('made-up orders come left to right; a clock left running overnight does not count; a phone holds it too', async ({
  demo,
  browser,
}) => {
  const { context, page } = await tabletOf(browser, demo.url, 'Courtyard', { viewport: { width: 390, height: 844 } })
  await page.getByRole('button', { name: 'Practise with made-up orders …' }).tap()
  await page.getByRole('button', { name: 'a busy half hour' }).tap()
  const orders = page.getByRole('region', { name: 'Orders, made up' })
  const first = orders.getByRole('listitem').first().getByRole('button')
  await expect(first).toContainText(/Table \d+/, { timeout: 15_000 })
  const table = (await first.innerText()).match(/Table \d+/)?.[0] ?? ''
  await first.tap()
  await expect(page.getByRole('region', { name: 'This round' })).toContainText(table)
  await largeEnough(page)
  await page.getByRole('button', { name: /^Make/ }).tap()
  await expect(page.getByRole('heading', { name: `Before you pour, for ${table}` })).toBeVisible()
  // Not now: what was asked for is there as it was, and the order is open again.
  await page.getByRole('button', { name: 'Not now' }).tap()
  await expect(page.getByRole('region', { name: 'This round' }).getByRole('listitem').first()).toBeVisible()
  await expect(orders).toContainText(table)
  while ((await page.getByRole('button', { name: /^One .* less$/ }).count()) > 0)
    await page
      .getByRole('button', { name: /^One .* less$/ })
      .first()
      .tap()

  await drink(page, 'Glasshouse Truce').tap()
  await page.getByRole('button', { name: 'Make it' }).tap()
  await page.getByRole('button', { name: /egin$/ }).tap()
  await tickUntil(page, /Start the clock/)
  await page.getByRole('button', { name: 'Start the clock' }).tap()
  // The tablet slept until the morning.
  await page.evaluate(() => {
    const round = JSON.parse(localStorage.getItem('conch:rail') ?? '{}')
    for (const clock of Object.values<{ startedAt: string }>(round.clocks))
      clock.startedAt = new Date(Date.now() - 9 * 3_600_000).toISOString()
    localStorage.setItem('conch:rail', JSON.stringify(round))
  })
  await page.reload()
  await expect(page.getByRole('alert')).toContainText('The clock has been running for 9.0 h')
  await largeEnough(page)
  await page.getByRole('button', { name: 'Stop' }).tap()
  await expect(hand(page)).toContainText('Its 9.0 h are not counted.')
  await page.getByRole('button', { name: 'Begin the clock again' }).tap()
  // Too long: what the glass is now, and whether a scoop of ice saves it.
  await page.getByRole('button', { name: 'Start the clock' }).tap()
  await page.evaluate(() => {
    const round = JSON.parse(localStorage.getItem('conch:rail') ?? '{}')
    for (const clock of Object.values<{ startedAt: string }>(round.clocks))
      clock.startedAt = new Date(Date.now() - 90_000).toISOString()
    localStorage.setItem('conch:rail', JSON.stringify(round))
  })
  await page.reload()
  await expect(page.locator('[data-standing]')).toHaveAttribute('data-standing', 'long')
  await page.getByRole('button', { name: 'Stop' }).tap()
  await expect(page.locator('[data-verdict=long]')).toContainText(
    /It is now .*(watered down|watery|long glass|over-chilled)/,
  )
  await expect(page.locator('[data-verdict=long]')).toContainText(/With one .* more, \d+ g: /)
  await noViolations(page)
  await context.close()
})
