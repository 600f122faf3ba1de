import { expect, signInHere, test, visit, worksHere } from './house.ts'

test('rooms open into their places, by words, by keys and by thumb; each page says what it is for, once', async ({
  demo,
  page,
}) => {
  await page.goto(demo.url)
  const places = page.getByRole('navigation', { name: 'Places' })
  const lead = page.getByText('What is poured tonight: each drink against its standard')
  await expect(lead).toBeVisible()
  await page.getByRole('button', { name: 'Read; do not say it again' }).click()
  await expect(lead).toBeHidden()
  await expect(places.getByRole('link')).toHaveText([
    'Menu',
    'Rail',
    'Out',
    'Pour',
    'Adrift',
    'Ice',
    'Glasses',
    'Drinks',
    'Shelf',
    'Editions',
    'House',
  ])

  await visit(page, 'Shelf', 'Lots')
  await expect(page.getByRole('heading', { name: 'Lots', level: 1 })).toBeVisible()
  await page.keyboard.press(']')
  await expect(page.getByRole('heading', { name: 'Base', level: 1 })).toBeVisible()
  await page.keyboard.press('g')
  await page.keyboard.press('x')
  await expect(page.getByRole('heading', { name: 'House mixes' })).toBeVisible()
  // A room is gone back to where it was left.
  await visit(page, 'Tonight', 'Menu')
  await expect(lead).toBeHidden()
  await places.getByRole('link', { name: 'Shelf' }).click()
  await expect(page.getByRole('heading', { name: 'House mixes' })).toBeVisible()
  // An old or a typed address leads on.
  await page.goto(`${demo.url}/shelf`)
  await expect(page.getByRole('heading', { name: 'Back bar' })).toBeVisible()

  // What was open before is one key away.
  await page.goto(`${demo.url}/drinks/tide-clerk`)
  await expect(page.getByRole('heading', { name: 'Tide Clerk' })).toBeVisible()
  await page.goto(`${demo.url}/mixes/grenadine`)
  await expect(page.getByRole('heading', { name: 'Grenadine' })).toBeVisible()
  await page.keyboard.press('g')
  await page.keyboard.press('g')
  await expect(page).toHaveURL(/\/drinks\/tide-clerk/)

  await page.setViewportSize({ width: 390, height: 844 })
  await visit(page, 'Shelf', 'Lots')
  await expect(page).toHaveURL(/\/lots$/)
  const bar = await places.boundingBox()
  expect((bar?.y ?? 0) + (bar?.height ?? 0)).toBeCloseTo(844, 0)
  for (const target of await places.locator('a, button').all())
    expect((await target.boundingBox())?.height).toBeGreaterThanOrEqual(44)
})

test('a mark says what it means: under the pointer, by keys, under a long press', async ({ demo, browser }) => {
  const context = await browser.newContext({ hasTouch: true, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await worksHere(page, 'Manager')
  await page.goto(demo.url)
  const note = page.getByRole('tooltip')
  await page.locator('main [data-mark=window]').first().hover()
  await expect(note).toContainText('the band is the standard')
  await page.mouse.move(0, 0)
  await expect(note).toBeHidden()
  await page.locator('main [data-mark=seal]').first().hover()
  await expect(note).toContainText('what is poured now')

  await page.goto(`${demo.url}/drinks/low-water-bell`)
  const window = page.locator('tr[data-measure="strengthPct"] [data-mark=window]')
  await page.keyboard.press('Tab')
  await window.focus()
  await expect(note).toContainText('strength 16.9 %')
  await page.keyboard.press('Escape')
  await expect(note).toBeHidden()

  // A line of a list that has the focus explains the mark that stands in it.
  await page.goto(`${demo.url}/drinks`)
  await page.getByRole('searchbox').first().focus()
  await page.locator('tr:has([data-mark=seal]) [data-row]').first().focus()
  await expect(note).toContainText('what is poured now')

  // A long press asks; it does not open the line.
  await page.goto(demo.url)
  const mark = page.locator('main [data-mark=window]').first()
  const box = await mark.boundingBox()
  const touch = await context.newCDPSession(page)
  const at = { x: (box?.x ?? 0) + 20, y: (box?.y ?? 0) + 7 }
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [at] })
  await expect(note).toContainText('the band is the standard')
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect(page).toHaveURL(`${demo.url}/`)
  await context.close()
})

test('a list is searched, sorted, its columns chosen, picked from and saved; it is so again next time', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/drinks`)
  const list = page.getByRole('table', { name: 'Drinks' })
  await expect(list.locator('[data-row]').first()).toHaveText(/Black Buoy/)
  await list.getByRole('button', { name: 'versions' }).click()
  await expect(list.locator('[data-row]').first()).toHaveText(/Low Water Bell/)
  await expect(page).toHaveURL(/sort=versions&down=yes/)
  await page.getByRole('button', { name: 'Columns' }).click()
  await page.getByRole('menuitemcheckbox', { name: 'last saved' }).click()
  await page.keyboard.press('Escape')
  await expect(list.getByRole('columnheader', { name: 'last saved' })).toHaveCount(0)

  // Found with a slip of the finger, from the keyboard alone.
  await page.keyboard.press('f')
  await page.keyboard.type('lampligter')
  await expect(page.getByText('No drink is called “lampligter”. Near it:')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Lamplighter’s Toll' })).toBeVisible()

  // As it was left, without the address.
  await page.goto(`${demo.url}/drinks`)
  await expect(list.locator('[data-row]').first()).toHaveText(/Low Water Bell/)
  await expect(list.getByRole('columnheader', { name: 'last saved' })).toHaveCount(0)

  // Arrows and the space bar pick; what is picked is compared, or saved.
  await list.locator('[data-row]').first().focus()
  await page.keyboard.press(' ')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press(' ')
  await expect(page.getByText('2 picked')).toBeVisible()
  // What is picked is what is saved, whatever is looked for afterwards.
  await page.getByRole('searchbox', { name: 'Find a drink' }).fill('tide')
  await expect(list.locator('[data-row]')).toHaveCount(1)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: '2 as CSV' }).click(),
  ])
  expect(file.suggestedFilename()).toBe('drinks.csv')
  const stream = await file.createReadStream()
  let text = ''
  for await (const part of stream) text += part
  expect(text.trim().split(/\r?\n/)).toHaveLength(3)
  expect(text).toContain('Low Water Bell')
  await page.getByRole('link', { name: 'Compare them' }).click()
  await expect(page.getByText('2 in the chart')).toBeVisible()

  // Lots by their day; a name that nothing has.
  await page.goto(`${demo.url}/lots`)
  await page.getByRole('table', { name: 'Lots' }).getByRole('button', { name: 'good until' }).click()
  await expect(page).toHaveURL(/sort=useBy/)
  await page.getByRole('searchbox', { name: 'Find a lot' }).fill('grenadyne')
  await expect(page.getByText('No lot is called “grenadyne”. Near it:')).toBeVisible()
  await page.getByRole('searchbox', { name: 'Find a lot' }).fill('xqzzt')
  await expect(page.getByText('nor anything near it')).toBeVisible()
})

test('things are moved by drag and by keys: chapters, drinks, pours, what is in a mix', async ({ demo, page }) => {
  await page.goto(`${demo.url}/next`)
  const plan = page.getByRole('region', { name: 'The plan' })
  const handle = (name: string) => page.getByRole('button', { name: `Move ${name}:` })
  await handle('Slow hands').press('ArrowUp')
  await expect(plan.getByLabel('Name of chapter 2')).toHaveValue('Slow hands')
  // It stays in hand, and says where it is.
  await expect(handle('Slow hands')).toBeFocused()
  await expect(page.getByText('Slow hands: chapter 2 of 3')).toBeAttached()
  await page.keyboard.press('ArrowUp')
  await expect(plan.getByLabel('Name of chapter 1')).toHaveValue('Slow hands')

  const drag = async (name: string, onto: ReturnType<typeof page.locator>, dy: number) => {
    const from = await handle(name).boundingBox()
    const to = await onto.boundingBox()
    if (!from || !to) throw new Error('nothing to drag')
    await page.mouse.move(from.x + 8, from.y + 10)
    await page.mouse.down()
    await page.mouse.move(from.x + 8, from.y + 30, { steps: 4 })
    await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2 + dy, { steps: 12 })
    await page.mouse.up()
  }
  await drag('Tide Clerk', plan.getByRole('listitem').filter({ hasText: 'Green Pilot' }), -12)
  await expect(plan.getByRole('listitem').nth(1)).toContainText('Tide Clerk')
  await expect(page.locator('[data-draft-status="saved"]')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(plan.getByRole('listitem').nth(1)).not.toContainText('Tide Clerk')

  await page.goto(`${demo.url}/drinks/low-water-bell`)
  await page.getByRole('button', { name: 'Change' }).click()
  await handle('Lime juice').press('ArrowDown')
  await expect(page.locator('[data-pour]').nth(1)).toHaveAttribute('data-pour', 'lime-juice')
  await expect(handle('Lime juice')).toBeFocused()

  await page.goto(`${demo.url}/mixes/grenadine`)
  const first = await page.locator('[data-component]').first().getAttribute('data-component')
  const last = page.locator('[data-component]').last()
  await page.locator('[data-component] [data-handle]').first().press('ArrowDown')
  await expect(last).toHaveAttribute('data-component', first ?? '')
})

test('the demo walks a newcomer through it once: a version is saved and published without other help', async ({
  demo,
  browser,
}) => {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(demo.url)
  await signInHere(page, 'Manager', true)
  const steps = page.getByRole('region', { name: 'First steps' })
  await expect(steps).toContainText('This is tonight’s menu')
  await steps.getByRole('button', { name: 'Next' }).click()
  await expect(steps).toContainText('This is a drink')
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  const amount = page.getByRole('textbox', { name: 'Amount of Lime juice' })
  await amount.click()
  await amount.press('ArrowUp')
  await steps.getByRole('button', { name: 'Next' }).click()
  await expect(steps).toContainText('Keep it as a version')
  await page.getByRole('button', { name: 'Save version' }).click()
  await page.getByLabel('Why').fill('a touch sharper')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Save version/ })
    .click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await steps.getByRole('button', { name: 'Next' }).click()
  await expect(steps).toContainText('Plan the next edition')
  await steps.getByRole('button', { name: 'Next' }).click()
  await page.getByRole('button', { name: 'Publish …' }).click()
  await page.getByLabel('Name', { exact: true }).fill('My first')
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click()
  await expect(page.getByText(/My first, since/)).toBeVisible()
  await steps.getByRole('button', { name: 'Done' }).click()
  await expect(steps).toBeHidden()
  await page.reload()
  await expect(page.getByText(/My first, since/)).toBeVisible()
  await expect(steps).toBeHidden()
})
