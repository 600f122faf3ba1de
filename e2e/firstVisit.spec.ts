/** A house without demo data, from the first visit to the first menu; keys, states and wrong input. */

import AxeBuilder from '@axe-core/playwright'
import { draftSaved, expect, figure, test, visit } from './house.ts'

test('the first visit sets up a house, a drink is written and put on the first menu', async ({ house, browser }) => {
  const page = await (await browser.newContext()).newPage()
  await house.open({ isDemo: false })
  await page.goto(house.url)
  await page.getByRole('button', { name: 'Open the house' }).click()
  await expect(page.getByText('Give the house a name.')).toBeVisible()
  await page.getByLabel('What is the house called?').fill('The Dry Dock')
  await expect(page.getByText('A sentence of at least 10 letters.')).toBeVisible()
  await page.getByLabel('Your passphrase').fill('the eel is awake')
  await page.getByLabel('Its wells').fill('Window, Window')
  await page.getByRole('button', { name: 'Open the house' }).click()
  await expect(page.getByText('“Window” is there twice; each well needs its own name').first()).toBeVisible()
  await page.getByLabel('Its wells').fill('Window, Cellar')
  await page.getByRole('button', { name: 'Open the house' }).click()

  await expect(page.getByText('No menu has been published yet')).toBeVisible()
  await visit(page, 'Drinks', 'All drinks')
  await page.getByRole('button', { name: 'New drink' }).click()
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByText('Give it a name; it can be changed later.')).toBeVisible()
  await page.getByLabel('Name').fill('Slipway')
  await page.getByRole('button', { name: 'Begin' }).click()

  await page.getByRole('button', { name: 'Add a pour' }).click()
  await page.getByPlaceholder('rum, lime, syrup …').fill('lime')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Amount of Lime juice' }).fill('22,5 ml')
  await expect.poll(() => figure(page, 'sourGPer100Ml')).toBeGreaterThan(0.3)
  await page.getByRole('button', { name: 'Hold this glass as the standard' }).click()
  await expect(page.locator('tr[data-measure="strengthPct"] svg')).toHaveAttribute('data-standing', /inside|edge/)
  await draftSaved(page)
  await page.getByRole('button', { name: 'Save version' }).click()
  await page.getByLabel('Why').fill('the first one')
  await page.getByRole('dialog').getByRole('button', { name: 'Save version 1' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await visit(page, 'Editions', 'Next edition')
  await page.getByRole('button', { name: 'Publish …' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Opening')
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click()
  await expect(page.getByText('Every drink holds its standard at the Window.')).toBeVisible()
})

test('wrong amounts are refused in place, with what is allowed', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/brass-ferry`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  const amount = page.getByRole('textbox', { name: 'Amount of Lime juice' })
  const before = await figure(page, 'sourGPer100Ml')
  for (const [text, message] of [
    [
      '2 hogsheads',
      '“hogsheads” is not a unit we know; use ml, cl, oz, dash, drop, spray, bar spoon, tsp, tbsp, cup, count, part',
    ],
    ['-1 oz', '“-1 oz” is not an amount; write it like 1½ oz, 45 ml or 2 dashes'],
    ['0 oz', 'more than 0'],
    ['60 oz', '1800 ml; at most 1000 ml'],
    ['2 parts', 'say how large a part is'],
  ] as const) {
    await amount.fill(text)
    await expect(page.getByRole('alert').getByText(message)).toBeVisible()
  }
  const seconds = page.getByRole('textbox', { name: 'Seconds' })
  await seconds.fill('500')
  await expect(page.getByRole('alert').filter({ hasText: '0 to 120' })).toBeVisible()
  await seconds.press('Enter')
  await expect(seconds).toHaveValue('6')
  expect(await figure(page, 'sourGPer100Ml')).toBe(before)
})

test('the palette finds a bottle by its earlier name; keys go places', async ({ demo, page }) => {
  await page.goto(demo.url)
  await expect(page.getByRole('heading', { name: 'The Sunken Parlour' })).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.getByPlaceholder(/A drink, a bottle/).fill('gold seal')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog', { name: 'Tamber Lightly Aged' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('g')
  await page.keyboard.press('e')
  await expect(page.getByRole('heading', { name: 'Editions' })).toBeVisible()
  await page.keyboard.press('t')
  await expect(page.locator('html')).toHaveAttribute('data-theme', /lantern|chart/)
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
})

test('a bottle measured sweeter moves the drinks, and not what was published', async ({ demo, page }) => {
  await page.goto(`${demo.url}/editions/2/low-water-bell`)
  const published = await figure(page, 'sweetGPer100Ml')
  await page.goto(`${demo.url}/back-bar?open=orgeat-fennick`)
  await page.getByRole('textbox', { name: 'Sugar' }).fill('90')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  await expect.poll(() => figure(page, 'sweetGPer100Ml')).toBeGreaterThan(published + 0.5)
  await page.goto(`${demo.url}/editions/2/low-water-bell`)
  expect(await figure(page, 'sweetGPer100Ml')).toBe(published)
  await page.goto(`${demo.url}/next`)
  await expect(page.getByText('same version, other figures').first()).toBeVisible()
})

test('an address that leads nowhere says so', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/nobody`)
  await expect(page.getByText('there is no drink “nobody”')).toBeVisible()
  await page.goto(`${demo.url}/editions/99`)
  await expect(page.getByText('there is no edition 99')).toBeVisible()
  await page.goto(`${demo.url}/nowhere`)
  await expect(page.getByText('There is no such place')).toBeVisible()
})

for (const theme of ['chart', 'lantern']) {
  test(`pages are readable without sight or with little of it (${theme})`, async ({ demo, page }) => {
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    // Something is out, and something low: what is dark is to be read, too.
    for (const [of, level] of [
      ['brackwater', 'out'],
      ['falernum', 'low'],
    ])
      await demo.send('POST', '/api/outs', { kind: 'ingredient', of, well: null, level }, 2)
    const rawDays: string[] = []
    for (const path of [
      '/',
      '/drinks',
      '/drinks/black-buoy',
      '/next',
      '/editions',
      '/editions/1',
      '/editions/1/brass-ferry',
      '/back-bar',
      '/base',
      '/blends/third-bell',
      '/slots/green-cane',
      '/slots/new',
      '/flight?with=orlop-white,pilots-blank',
      '/stand-in?bottle=millrace-cane',
      '/compare',
      '/compare/sheet?of=low-water-bell@1,low-water-bell@4',
      '/drinks/brass-ferry/lineage',
      '/drinks/black-buoy/tune?v=1',
      '/adrift',
      '/out',
      '/pour?of=book&dark=with&wish=no+nuts',
      '/research',
      '/tastings',
      '/tastings/1',
      '/mixes',
      '/mixes/butter-mix',
      '/mixes/butter-mix/make',
      '/mixes/lime-juice/make',
      '/lots',
      '/lots/8',
      '/ice',
      '/ice/courtyard',
      '/ice/courtyard/mixer',
      '/ice/trial',
      '/ice/glasses',
      '/drinks/tide-clerk/bench',
      '/house',
      '/people',
      '/audit',
      '/house/you',
    ]) {
      await page.goto(demo.url + path)
      await expect(page.locator('h1').first()).toBeVisible()
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
      expect(violations.map((v) => `${path} ${v.id}: ${v.nodes[0]?.html}`)).toEqual([])
      // Days are written one way, as people write them.
      const rawDay = /\d{4}-\d\d-\d\d/.exec(await page.locator('body').innerText())
      if (rawDay) rawDays.push(`${path} says ${rawDay[0]}`)
    }
    expect(rawDays).toEqual([])
  })
}
