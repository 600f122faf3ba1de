/** Who comes in, on which device, and who is kept out; by thumb and by keys. */

import AxeBuilder from '@axe-core/playwright'
import type { AuditPage, PersonSignIn } from '@conch/contract'
import type { Page } from '@playwright/test'
import { expect, signInHere, takeOver, test, visit, worksHere } from './house.ts'

const banner = (page: Page) => page.getByRole('banner')
const legible = async (page: Page) => {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([])
}

for (const theme of ['chart', 'lantern'])
  test(`the door by keys alone: a name, a wrong PIN, the right one; and out again (${theme})`, async ({
    demo,
    browser,
  }) => {
    const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    await page.goto(`${demo.url}/drinks/tide-clerk`)
    await expect(page.getByText('Who is it?')).toBeVisible()
    await legible(page)
    for (let i = 0; i < 3; i++) await page.keyboard.press('Tab')
    await expect(page.getByRole('button', { name: /^Bartender Hearth/ })).toBeFocused()
    await page.keyboard.press('Enter')
    const pad = page.getByRole('group', { name: 'PIN of Bartender Hearth' })
    await expect(pad).toBeFocused()
    await legible(page)
    await page.keyboard.type('12')
    await expect(pad.getByRole('status')).toHaveAttribute('aria-label', '2 of 4 digits')
    await page.keyboard.press('Backspace')
    await page.keyboard.type('234')
    await expect(page.getByRole('alert')).toContainText('do not belong together')
    await page.keyboard.type('2580')
    // Where they wanted to go.
    await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
    await banner(page).getByRole('button', { name: 'Bartender Hearth' }).press('Enter')
    await page.getByRole('menuitem', { name: 'Sign out' }).press('Enter')
    await expect(page.getByText('Who is it?')).toBeVisible()
    // Nothing of them is left for whoever comes next.
    await page.reload()
    await expect(page.getByText('Who is it?')).toBeVisible()
    expect(await page.evaluate(() => localStorage.getItem('conch:who'))).toBeNull()
  })

test('targets at the door are large enough for wet hands', async ({ demo, browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await page.goto(demo.url)
  for (const name of await page.getByRole('main').getByRole('listitem').getByRole('button').all())
    expect((await name.boundingBox())?.height).toBeGreaterThanOrEqual(56)
  await page.getByRole('button', { name: /^Lead/ }).click()
  for (const key of await page.getByRole('group', { name: 'PIN of Lead' }).getByRole('button').all())
    expect((await key.boundingBox())?.height).toBeGreaterThanOrEqual(56)
})

test('a locked screen keeps its card and takes no tap until somebody says who it is', async ({ demo, page }) => {
  await page.goto(`${demo.url}/blends/ferry-nine`)
  await expect(page.getByText('Tamber Lightly Aged').first()).toBeVisible()
  await page.keyboard.press('l')
  const bar = page.getByRole('region', { name: 'The screen is locked' })
  await expect(bar).toBeVisible()
  // What only a manager may see is gone from the screen; what the bar reads is there.
  await expect(page.getByText('Sealed: what it is made of is for managers.')).toBeVisible()
  await expect(page.getByText('Tamber Lightly Aged')).toHaveCount(0)
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toHaveCount(0)
  await legible(page)
  await bar.getByRole('button', { name: 'Who is it?' }).click()
  await page.getByLabel('Passphrase of Manager').fill('low tide at noon')
  await page.keyboard.press('Enter')
  await expect(bar).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toBeVisible()
})

test('nobody touches it for a while: the screen locks by itself, on the house’s word', async ({ demo, page }) => {
  await page.clock.install()
  await page.goto(`${demo.url}/house`)
  await page.getByLabel('the screen locks after').fill('2')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('the screen locks after')).toHaveValue('2')
  await page.clock.fastForward('01:50')
  await page.mouse.click(5, 400)
  await page.clock.fastForward('01:50')
  const bar = page.getByRole('region', { name: 'The screen is locked' })
  await expect(bar).toHaveCount(0)
  await page.clock.fastForward('00:20')
  await expect(bar).toBeVisible()
})

test('a tablet is enrolled once, knows its people and its well, and keeps working when strangers are shut out', async ({
  demo,
  page,
  browser,
}) => {
  await demo.signedIn()
  await page.goto(`${demo.url}/people`)
  await page.getByRole('button', { name: 'Enrol a device' }).click()
  await page.getByLabel('What is it called?').fill('tablet at the hatch')
  await page.getByLabel('Its well').selectOption('Courtyard')
  await page.getByRole('button', { name: 'Make a code' }).click()
  const code = (await page.locator('[data-device-code]').textContent()) ?? ''
  await page.getByRole('button', { name: 'It is typed' }).click()

  const tablet = await (await browser.newContext({ viewport: { width: 1024, height: 768 } })).newPage()
  await tablet.goto(demo.url)
  await tablet.getByRole('button', { name: 'Make it a device of the house' }).click()
  await tablet.getByLabel('Code').fill('AAAA 2222')
  await tablet.getByRole('button', { name: 'Enrol it' }).click()
  await expect(tablet.getByText('is not good, or no longer')).toBeVisible()
  await tablet.getByLabel('Code').fill(code.toLowerCase())
  await tablet.getByRole('button', { name: 'Enrol it' }).click()
  await expect(tablet.getByText(/tablet at the hatch\. Who is it/)).toBeVisible()
  await signInHere(tablet, 'Bartender Courtyard')
  await expect(tablet.getByRole('button', { name: 'Courtyard', exact: true })).toHaveAttribute('aria-pressed', 'true')

  // Ten wrong words from elsewhere: strangers are shut out, the bar is not.
  for (let i = 0; i < 14; i++)
    await fetch(`${demo.url}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: demo.url },
      body: JSON.stringify({ name: 'Lead', secret: '0001' }),
    })
  await takeOver(tablet, 'Lead')
  const lead = (await demo.send<PersonSignIn[]>('GET', '/api/sign-ins')).body.find((s) => s.personId === 2)
  expect(lead?.sessions).toEqual([expect.objectContaining({ device: 'tablet at the hatch' })])

  // It is lost: whoever was signed in on it is not.
  await page.reload()
  await page.getByRole('button', { name: 'no longer ours' }).click()
  await expect(page.getByText('None yet.')).toBeVisible()
  await tablet.reload()
  await expect(tablet.getByText('Who is it?')).toBeVisible()
  await expect(tablet.getByText('tablet at the hatch')).toHaveCount(0)
})

test('somebody new comes with a first PIN, chooses an own one, and what they do stands under their name', async ({
  demo,
  page,
  browser,
}) => {
  await page.goto(`${demo.url}/people`)
  await page.getByRole('textbox', { name: 'Somebody new' }).fill('Ada')
  await page.getByRole('combobox', { name: 'What they are' }).selectOption('Lead')
  await page.getByRole('textbox', { name: 'Their first PIN' }).fill('1234')
  await page.getByRole('button', { name: 'Take on' }).click()
  await expect(page.getByText('choose digits that do not run')).toBeVisible()
  await page.getByRole('textbox', { name: 'Their first PIN' }).fill('7306')
  await page.getByRole('button', { name: 'Take on' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of Ada' })).toBeVisible()

  const theirs = await (await browser.newContext()).newPage()
  await theirs.addInitScript(() => localStorage.setItem('conch:told', '["first steps"]'))
  await theirs.goto(demo.url)
  await theirs.getByRole('button', { name: /^Ada/ }).click()
  await theirs.keyboard.type('7306')
  await expect(theirs.getByRole('heading', { name: 'One thing first, Ada' })).toBeVisible()
  await legible(theirs)
  await theirs.getByLabel('The PIN you have now').fill('7306')
  await theirs.getByLabel('A new PIN').fill('9421')
  await theirs.getByLabel('The new one again').fill('9412')
  await theirs.keyboard.press('Enter')
  await expect(theirs.getByText('The two new ones are not the same')).toBeVisible()
  await theirs.getByLabel('The new one again').fill('9421')
  await theirs.keyboard.press('Enter')
  await expect(theirs.getByRole('navigation', { name: 'Places' })).toBeVisible()
  await visit(theirs, 'Drinks', 'All drinks')
  await theirs.getByRole('button', { name: 'New drink' }).click()
  await theirs.getByLabel('Name').fill('Ada’s Own')
  await theirs.getByRole('button', { name: 'Begin' }).click()
  await expect(theirs.getByRole('textbox', { name: 'Name' }).first()).toBeVisible()
  await theirs.goto(`${demo.url}/house/you`)
  await expect(theirs.getByRole('region', { name: 'What you did' })).toContainText('made a drink')

  // Who did what: found by a word, with what was before.
  await page.goto(`${demo.url}/audit`)
  await page.getByRole('combobox', { name: 'Who' }).selectOption('Ada')
  await expect(page.getByText('made a drink, Ada’s Own')).toBeVisible()
  await page.getByRole('button', { name: 'All again' }).click()
  await page.getByRole('searchbox', { name: 'Words in it' }).fill('own PIN')
  await expect(page.getByText('secret: an own PIN')).toBeVisible()
  const { entries } = (await demo.send<AuditPage>('GET', '/api/audit?words=ada')).body
  expect(entries.map((e) => e.verb)).toContain('made')
  const table = await page.request.get(`${demo.url}/api/audit.csv?words=own+PIN`)
  expect(await table.text()).toMatch(
    /^number,when,instant,who,what,changes\r?\n\d+,.*Ada,changed Ada,secret: an own PIN/,
  )
})

test('a guest’s tablet shows the menu without pours, and nothing else', async ({ demo, browser }) => {
  const context = await browser.newContext({ viewport: { width: 1024, height: 768 } })
  await worksHere(context, 'Guest')
  const page = await context.newPage()
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('heading', { level: 1, name: 'The Sunken Parlour' })).toBeVisible()
  await expect(page.getByText('Tide Clerk')).toBeVisible()
  await expect(page.getByText('contains tree nuts').first()).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Places' })).toHaveCount(0)
  await legible(page)
  for (const path of ['house', 'shelf?shown=all', 'drinks', 'menu/poured?well=hearth'])
    expect((await page.request.get(`${demo.url}/api/${path}`)).status()).toBe(403)
  await page.getByRole('button', { name: 'for the bar' }).click()
  await signInHere(page, 'Bartender Hearth')
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible()
})

test('two pages of one browser are one person: signed out in one, the other does nothing in another’s name', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('heading', { level: 1, name: 'Tide Clerk' })).toBeVisible()
  const other = await page.context().newPage()
  await other.goto(demo.url)
  await takeOver(other, 'Bartender')
  await expect(banner(page).getByRole('button', { name: 'Bartender Hearth', exact: true })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toHaveCount(0)
})
