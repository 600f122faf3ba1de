/** Cards behind the bar, and learning: a card by swipe, keys and the bottle in hand; ten minutes; a hand on the scale. */

import AxeBuilder from '@axe-core/playwright'
import type { PracticePeople } from '@conch/contract'
import type { Page } from '@playwright/test'
import { expect, test, worksHere } from './house.ts'

const TABLET = { width: 1024, height: 768 }

async function noViolations(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
  expect(
    violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => [v.id, v.nodes[0]?.html]),
  ).toEqual([])
}

test('cards: next and back by swipe and keys, by first letters, by the bottle in hand; dark when it runs out; made from there', async ({
  demo,
  browser,
}) => {
  const context = await browser.newContext({ viewport: TABLET, hasTouch: true })
  await worksHere(context, 'Bartender')
  const page = await context.newPage()
  await page.goto(`${demo.url}/cards`)
  const title = page.getByRole('heading', { level: 1 })
  await expect(title).toHaveText('Low Water Bell')
  // The caution stands above the lines, whole, and the amounts are read from two metres.
  await expect(page.getByText('contains tree nuts')).toBeInViewport()
  expect(
    await page
      .locator('[data-amount]')
      .first()
      .evaluate((e) => Number.parseFloat(getComputedStyle(e).fontSize)),
  ).toBeGreaterThanOrEqual(48)
  await page.keyboard.press('ArrowRight')
  await expect(title).toHaveText('Tide Clerk')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByText(/^12 of 12 · /)).toBeVisible()
  await page.mouse.move(200, 300)
  await page.mouse.down()
  await page.mouse.move(700, 310, { steps: 5 })
  await page.mouse.up()
  await expect(page.getByText(/^11 of 12 · /)).toBeVisible()
  await noViolations(page)

  await page.getByRole('button', { name: 'Find …' }).click()
  const letters = page.getByRole('searchbox', { name: 'First letters of a drink, a bottle or a glass' })
  await letters.fill('ti')
  await page.getByRole('button', { name: 'Tide Clerk' }).click()
  await expect(title).toHaveText('Tide Clerk')
  await page.getByRole('button', { name: 'Find …' }).click()
  await letters.fill('lemon')
  await noViolations(page)
  await page.getByRole('button', { name: /Lemon juice in \d/ }).click()
  await expect(page.getByText(/^1 of \d · with Lemon juice$/)).toBeVisible()
  await page.getByRole('button', { name: 'Find …' }).click()
  // Any other drink of the book has its card, too.
  await letters.fill('emb')
  await page.getByRole('button', { name: 'Ember Customs' }).click()
  await expect(title).toHaveText('Ember Customs')
  await expect(page.getByText('not on the menu')).toBeVisible()
  await page.getByRole('button', { name: 'Find …' }).click()
  await letters.fill('zzz')
  await expect(page.getByText('Nothing begins with that.')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()

  // What runs out is dark on its card at once; what does not is made from there.
  await page.goto(`${demo.url}/cards?drink=tide-clerk`)
  await demo.send('POST', '/api/outs', { kind: 'ingredient', of: 'lemon-juice', well: null, level: 'out' }, 2)
  await expect(page.getByText('dark tonight')).toBeVisible()
  await expect(page.getByRole('article')).toContainText('no Lemon juice')
  await page.goto(`${demo.url}/cards?drink=green-pilot`)
  await page.getByRole('link', { name: 'Make it' }).click()
  await expect(page.getByRole('region', { name: 'This round' })).toContainText('Green Pilot')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${demo.url}/cards?drink=low-water-bell`)
  await expect(title).toHaveText('Low Water Bell')
  // Nothing runs out of a phone at its side.
  const article = page.getByRole('article')
  expect(await article.evaluate((e) => e.scrollWidth - e.clientWidth)).toBeLessThanOrEqual(0)
  await noViolations(page)
  await context.close()
})

test('ten minutes of the edition, answered on the jigger; sent, seen by a lead, and not asked twice', async ({
  demo,
  browser,
}) => {
  test.setTimeout(120_000)
  const context = await browser.newContext({ viewport: TABLET, hasTouch: true })
  await worksHere(context, 'Bartender')
  const page = await context.newPage()
  await page.goto(`${demo.url}/learn`)
  await expect(page.getByText(/^0 of \d+ known, 0 shaky, \d+ never asked · \d+ changed$/)).toBeVisible()
  // Nobody sees how the others are.
  await expect(page.getByRole('region', { name: 'Everybody' })).toHaveCount(0)
  await noViolations(page)
  await page.getByRole('button', { name: 'Ten minutes' }).click()
  const question = page.getByRole('region', { name: 'The question' })
  await expect(question).toContainText('changed')
  await expect(question).toContainText('How much')
  await question.getByRole('button', { name: '2 oz tall jigger' }).click()
  await question.getByRole('button', { name: 'back' }).click()
  await question.getByRole('button', { name: 'a dash' }).click()
  await question.getByRole('button', { name: 'a dash' }).click()
  await page.getByRole('button', { name: 'That is it' }).click()
  const said = page.locator('[data-answer]')
  await expect(said).toBeVisible()
  await noViolations(page)
  await page.waitForTimeout(400)
  const asked: string[] = [await page.getByRole('heading', { level: 1 }).innerText()]
  await page.getByRole('button', { name: 'Next' }).click()
  for (let i = 0; i < 7; i++) {
    await expect(question).toBeVisible()
    asked.push(await page.getByRole('heading', { level: 1 }).innerText())
    const buttons = question.getByRole('button')
    await buttons.first().click()
    const thatIsIt = page.getByRole('button', { name: 'That is it' })
    if (await thatIsIt.count()) {
      for (let k = 1; (await thatIsIt.isDisabled()) && k < 14; k++) await buttons.nth(k).click()
      await thatIsIt.click()
    }
    await expect(said).toContainText(/^(Right|No): ./)
    // It is looked at for a moment: a double tap on the answer does not pass it over.
    await page.waitForTimeout(400)
    await page.getByRole('button', { name: 'Next' }).click()
  }
  // Not twelve amounts in a row.
  expect(new Set(asked.map((a) => a.split(' ').slice(0, 2).join(' '))).size).toBeGreaterThan(4)

  // The tablet falls in the middle: what was answered is not answered twice.
  await page.reload()
  await expect(page.getByText(/\b8 shaky\b/)).toBeVisible()
  const lead = await demo.send<PracticePeople>('GET', '/api/practice/people', undefined, 2)
  expect(lead.body.find((p) => p.name === 'Bartender Hearth')?.remembered).toHaveLength(8)
  expect((await demo.send('GET', '/api/practice/people', undefined, 4)).status).toBe(403)
  await page.getByRole('button', { name: 'Ten minutes' }).click()
  await expect(question).toBeVisible()
  expect(asked).not.toContain(await page.getByRole('heading', { level: 1 }).innerText())
  await page.getByRole('button', { name: 'Enough' }).click()
  await expect(page.getByRole('heading', { name: 'Nothing asked' })).toBeVisible()
  await page.getByRole('button', { name: 'Done for today' }).click()
  await expect(page.getByRole('heading', { name: 'Learn the edition' })).toBeVisible()
  await context.close()
})

test('a hand on the scale: measured, with how sure that is, and it stands in “how often it lands”', async ({
  demo,
  page,
}) => {
  test.setTimeout(120_000)
  await page.setViewportSize(TABLET)
  await worksHere(page, 'Lead')
  await page.goto(`${demo.url}/learn`)
  await expect(page.getByRole('region', { name: 'Everybody' }).getByRole('listitem')).toHaveCount(4)
  await page.getByRole('button', { name: 'Test it on the scale' }).click()
  for (let i = 0; i < 12; i++) {
    await expect(page.getByText(`${i + 1} of 12`)).toBeVisible()
    const hold = page.getByRole('button', { name: 'Hold to pour' })
    if (await hold.count()) {
      await hold.focus()
      // By keys it comes in sips of two grams.
      const sips = [8, 12, 24][i % 3] as number
      for (let k = 0; k < sips; k++) await page.keyboard.press('Enter')
    } else await page.getByRole('button', { name: 'One dash' }).click()
    if (i === 1) await noViolations(page)
    await page.getByRole('button', { name: 'That was it' }).click()
  }
  // 16 g of 15 ml, 24 of 22.5, 48 of 45: about seven in a hundred too much, and hardly a scatter.
  await expect(page.locator('[data-hand]')).toContainText(/It pours [67]\.\d % too much/)
  await expect(page.locator('[data-hand]')).toContainText('9 pours')
  await noViolations(page)
  await page.getByRole('button', { name: 'Write it down' }).click()
  await expect(page.getByRole('region', { name: 'Your hand' })).toContainText('too much')
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${demo.url}/drinks/low-water-bell/bench`)
  const lands = page.getByRole('region', { name: 'How often it lands' })
  await expect(lands.getByRole('combobox', { name: 'Whose hand' })).toHaveValue('own')
  await expect(lands).toContainText(/Your own hand, by 9 test pours: \+[67]\.\d % on average/)
  await lands.getByRole('button', { name: /Make it/ }).click()
  await expect(lands.getByText(/^\d+ of 100$/)).toBeVisible({ timeout: 60_000 })
})
