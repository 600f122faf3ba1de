/** The books at noon: planning the next edition, the back bar, the house's measures and glasses, moving house. */

import { writeFileSync } from 'node:fs'
import type { House, ShelfPart } from '@conch/contract'
import { draftSaved, expect, figure, House as HouseServer, test, visit } from './house.ts'

test('the next edition is planned: order, chapters, versions, what leaves and what comes', async ({ demo, page }) => {
  await page.goto(`${demo.url}/next`)
  const plan = page.getByRole('region', { name: 'The plan' })
  const changes = page.getByRole('region', { name: 'What it changes' })
  await expect(changes.getByRole('listitem').filter({ hasText: 'Ember Customs' })).toContainText('new')

  await plan.getByRole('button', { name: 'Move Black Buoy:' }).press('ArrowUp')
  await expect(plan.getByRole('link').nth(8)).toHaveText('Black Buoy')
  await plan.getByLabel('Chapter of Black Buoy').selectOption('Slow hands')
  await expect(changes.getByText('moves from Shaken to Slow hands')).toBeVisible()

  await plan.getByRole('button', { name: 'Take Tide Clerk off' }).click()
  await expect(changes.getByText('leaves')).toBeVisible()
  await plan.getByLabel('Version of Brass Ferry').selectOption('v1')
  await expect(changes.getByText('v3 → v1')).toBeVisible()

  await plan.getByRole('button', { name: 'Add a chapter' }).click()
  const name = plan.getByLabel('Name of chapter 4')
  await name.fill('By the harbour')
  await name.blur()
  await plan.getByRole('button', { name: 'Add a drink …' }).click()
  // One letter wrong, and it is found all the same.
  await page.getByPlaceholder('a drink …').fill('tide clark')
  await page.getByRole('option', { name: /Tide Clerk/ }).click()
  await expect(changes.getByText('moves from From the mixer to By the harbour')).toBeVisible()
  await expect(changes.getByText('leaves')).toBeHidden()
  await draftSaved(page)
  await page.reload()
  await expect(plan.getByLabel('Name of chapter 4')).toHaveValue('By the harbour')
  await plan.getByLabel('Chapter of Tide Clerk').selectOption('Shaken')
  await plan.getByRole('button', { name: 'Leave it out' }).click()
  await expect(plan.getByLabel('Name of chapter 4')).toHaveCount(0)

  await page.getByRole('button', { name: 'Publish …' }).click()
  await page.getByLabel('Name', { exact: true }).fill('This winter')
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click()
  await expect(page.getByText(/This winter, since/)).toBeVisible()
  await visit(page, 'Editions', 'Next edition')
  await expect(changes.getByText('Nothing would change')).toBeVisible()
})

test('a bottle: figures that cannot be are refused, a renamed one is found by its old name', async ({ demo, page }) => {
  await page.goto(`${demo.url}/back-bar?open=new`)
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog.getByText('Give it a name.')).toBeVisible()
  await dialog.getByLabel('Name', { exact: true }).fill('Ropewalk Gold')
  await dialog.getByRole('textbox', { name: 'Strength' }).fill('80')
  await dialog.getByRole('textbox', { name: 'Sugar' }).fill('120')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog.getByRole('alert').first()).toHaveText(
    '80 % ABV with 120 g sugar and 0 g acid in 100 ml do not fit into 100 ml',
  )
  expect(
    (await demo.send<ShelfPart>('GET', '/api/shelf?of=ropewalk-gold')).body.ingredients.some(
      (i) => i.slug === 'ropewalk-gold',
    ),
  ).toBe(false)
  await dialog.getByRole('textbox', { name: 'Strength' }).fill('41,5')
  await dialog.getByRole('textbox', { name: 'Sugar' }).fill('0')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog).toBeHidden()

  await page.getByLabel('Find on the back bar').fill('ropewalk')
  await page.getByRole('button', { name: 'Ropewalk Gold' }).click()
  await dialog.getByLabel('Name', { exact: true }).fill('Ropewalk Column')
  await expect(dialog.getByText('It will still be found as Ropewalk Gold.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog).toBeHidden()
  await page.getByLabel('Find on the back bar').fill('walk gold')
  await expect(page.getByRole('button', { name: 'Ropewalk Column' })).toBeVisible()
  await page.getByLabel('Find on the back bar').fill('no such thing')
  await expect(page.getByText('nor anything near it')).toBeVisible()
})

test('the house’s ounce and glasses change what is poured', async ({ demo, page }) => {
  await page.goto(`${demo.url}/house`)
  const ounce = page.getByRole('textbox', { name: 'ounce' })
  await ounce.fill('90')
  await expect(page.getByRole('alert').filter({ hasText: '25 to 35' })).toBeVisible()
  await ounce.fill('29.5735')
  await ounce.press('Enter')
  // It moves every drink: that is asked about first.
  await page.getByRole('dialog', { name: 'This moves the menu' }).getByRole('button', { name: 'Save it' }).click()
  await expect
    .poll(async () => (await demo.send<House>('GET', '/api/house')).body.settings.kit.ounceMl)
    .toBeCloseTo(29.5735, 4)

  await page.getByRole('button', { name: 'Add a glass' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('sluice tumbler')
  await dialog.getByLabel('Inner wall').fill('0 30, 80')
  await expect(dialog.getByText('write each point as height and radius')).toBeVisible()
  await dialog.getByLabel('Inner wall').fill('0 30, 80 0')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog.getByRole('alert')).toContainText('narrows to nothing above the bottom')
  await dialog.getByLabel('Inner wall').fill('0 35, 90 40')
  await expect(dialog.getByText('398 ml to the brim')).toBeVisible()
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('button', { name: /sluice tumbler/ })).toBeVisible()
})

test('a float, a second thought and a dropped draft', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/green-pilot`)
  const poured = await figure(page, 'strengthPct')
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'Add a pour' }).click()
  await page.getByPlaceholder('rum, lime, syrup …').fill('brackwater')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'More for Brackwater Heavy Overproof' }).click()
  await page.getByRole('menuitem', { name: /float/i }).click()
  await expect(page.locator('[data-pour="brackwater"]').getByText('float')).toBeVisible()
  await expect.poll(() => figure(page, 'strengthPct')).toBeGreaterThan(poured + 1)
  await draftSaved(page)
  await page.getByRole('button', { name: 'Drop', exact: true }).click()
  await expect(page.locator('[data-pour="brackwater"]')).toHaveCount(0)
  await expect.poll(() => figure(page, 'strengthPct')).toBe(poured)
  // A wrong tap.
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.locator('[data-pour="brackwater"]').getByText('float')).toBeVisible()
  await draftSaved(page)
})

test('a drink begun by mistake is thrown away; one with a version is put out of the way, and comes back', async ({
  demo,
  page,
}) => {
  const begin = async (name: string) => {
    await page.goto(`${demo.url}/drinks`)
    await page.getByRole('button', { name: 'New drink' }).click()
    await page.getByLabel('Name').fill(name)
    await page.getByRole('button', { name: 'Begin' }).click()
    await expect(page.getByRole('heading', { level: 1 })).toContainText(name)
  }
  await begin('Mistaken')
  await page.getByRole('button', { name: 'Throw away …' }).click()
  await page.getByRole('button', { name: 'Throw it away' }).click()
  await expect(page.getByText('Mistaken is thrown away.')).toBeVisible()
  await expect(page.getByRole('link', { name: /^Mistaken/ })).toHaveCount(0)

  await begin('Set Aside')
  await page.getByRole('button', { name: 'Save version' }).click()
  await page.getByLabel('Why').fill('to have one')
  await page.getByLabel('Put it on the next menu').uncheck()
  await page.getByRole('dialog').getByRole('button', { name: 'Save version 1' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.getByRole('button', { name: 'Hide' }).click()
  await visit(page, 'Drinks', 'All drinks')
  await expect(page.getByRole('link', { name: /^Set Aside/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Show 1 hidden' }).click()
  await page.getByRole('link', { name: /^Set Aside/ }).click()
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('button', { name: 'Hide' })).toBeVisible()
})

test('the house says whether its history is what was written, and when its day turns', async ({ demo, page }) => {
  await page.goto(`${demo.url}/house`)
  await page.getByRole('button', { name: 'Is history still what was written?' }).click()
  await expect(page.getByText(/events? in one chain name \d+ rows of history, none changed/)).toBeVisible()
  // Between the two hours the change begins another day, whose juice is another lot: then it is asked about first.
  await page.addLocatorHandler(page.getByRole('dialog', { name: 'This moves the menu' }), (asked) =>
    asked.getByRole('button', { name: 'Save it' }).click(),
  )
  await page.getByLabel('the bar’s day turns at').selectOption('05:00')
  // It stands there once it is saved: what is on its way goes with the page.
  await expect(page.getByLabel('the bar’s day turns at')).toHaveValue('5')
  await page.reload()
  await expect(page.getByLabel('the bar’s day turns at')).toHaveValue('5')
  await visit(page, 'House', 'People')
  await page.getByRole('textbox', { name: 'Somebody new' }).fill('Ada')
  await page.getByRole('button', { name: 'Take on' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of Ada' })).toBeVisible()
})

test('a house moves to another machine as one file', async ({ demo, browser }, info) => {
  const page = await (await browser.newContext()).newPage()
  const copy = info.outputPath('house.ndjson')
  const headers = await demo.signedIn()
  writeFileSync(copy, await (await fetch(`${demo.url}/api/export`, { headers })).text())
  const broken = info.outputPath('broken.json')
  writeFileSync(broken, '{"wells": ')
  const elsewhere = new HouseServer()
  try {
    await elsewhere.open({ isDemo: false })
    await page.goto(elsewhere.url)
    await page.getByLabel('Bring in a copy of the house').setInputFiles(broken)
    await expect(page.getByRole('alert')).toContainText('Nothing came in: it is neither a copy nor a house file')
    await page.getByLabel('Bring in a copy of the house').setInputFiles(copy)
    // PINs are in no copy: whoever brought it in makes the first word, after a reload, too.
    await expect(page.getByRole('heading', { name: 'It came in, whole' })).toBeVisible()
    await page.reload()
    await page.getByLabel('Your passphrase').fill('short')
    await page.getByRole('button', { name: 'Open the house' }).click()
    await expect(page.getByText('A sentence of at least 10 letters.')).toBeVisible()
    await page.getByLabel('Your passphrase').fill('the eel is awake')
    await page.getByRole('button', { name: 'Open the house' }).click()
    await visit(page, 'House', 'House')
    await expect(page.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
    await visit(page, 'Tonight', 'Menu')
    await expect(page.getByText('2 of 12 outside their standard at the Hearth.')).toBeVisible()
  } finally {
    await elsewhere.remove()
  }
})

test('a computing script that did not come is fetched again', async ({ demo, page }) => {
  let isRefused = false
  await page.route('**/compute.worker-*', (route) => {
    if (isRefused) return route.continue()
    isRefused = true
    return route.abort()
  })
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  expect(await figure(page, 'strengthPct')).toBeGreaterThan(3)
  expect(isRefused).toBe(true)
})
