/** How drinks come to be and how they are kept true: from a book to the menu, and back to the glass. */

import type { Drink, Menu, ShelfPart, Tasting } from '@conch/contract'
import type { Page } from '@playwright/test'
import { draftSaved, expect, type House, PEOPLE, test, worksHere } from './house.ts'

/** A new bottling of a syrup, weighed the day it came. */
async function sweeter(demo: House, slug: string, sugarGPer100Ml: number): Promise<void> {
  const shelf = (await demo.send<ShelfPart>('GET', `/api/shelf?of=${slug}`)).body
  const bottle = shelf.ingredients.find((i) => i.slug === slug)
  if (!bottle) throw new Error(`${slug} is on the shelf`)
  const figures = { ...bottle.figures, sugarGPer100Ml: { value: sugarGPer100Ml, basis: 'measured' } }
  const revision = shelf.revisions[slug]
  expect(
    (await demo.send('PUT', `/api/ingredients/${slug}`, { document: { ...bottle, figures }, revision })).status,
  ).toBe(200)
}

const judge = async (page: Page, taster: string, likes: Record<string, string>) => {
  await page.getByRole('button', { name: new RegExp(`^${taster}`) }).click()
  for (let glass = 0; glass < 2; glass++) {
    const code = (await page.getByRole('heading', { name: /^Glass \d{3}$/ }).textContent()) ?? ''
    await page.getByRole('button', { name: likes[code] ?? 'all right', exact: true }).click()
    await page.getByRole('button', { name: glass === 0 ? 'The next glass' : 'That is all' }).click()
    if (glass === 0) await expect(page.getByRole('heading', { name: `Glass ${code}` })).toBeHidden()
  }
  await expect(page.getByRole('heading', { name: 'Who are you?' })).toBeVisible()
}

test('a sweeter orgeat arrives: what drifts and why, tuned, tasted blind, decided, on the next edition', async ({
  demo,
  page,
  browser,
}) => {
  await sweeter(demo, 'orgeat-fennick', 96)
  await page.goto(`${demo.url}/adrift`)
  const line = page.getByRole('listitem', { name: 'Low Water Bell at the Hearth' })
  await expect(line).toBeVisible()
  await expect(page.getByRole('listitem', { name: 'The Drowned Archive at the Hearth' })).toBeVisible()
  await line.getByRole('button', { name: 'What moved it' }).click()
  await expect(line.getByText('Fennick orgeat, its figures')).toBeVisible()
  // One that two things moved says both.
  const buoy = page.getByRole('listitem', { name: 'Black Buoy at the Hearth' })
  await buoy.getByRole('button', { name: 'What moved it' }).click()
  await expect(buoy.getByText(/Grenadine, lot \d+/)).toBeVisible()
  await expect(buoy.getByText('Falernum with alcohol, its figures')).toBeVisible()

  await line.getByRole('link', { name: 'Make it meet its standard' }).click()
  const answers = page.getByRole('region', { name: 'Answers' })
  await expect(answers.getByRole('heading', { name: 'What does it' })).toBeVisible()
  await expect(answers.getByText(/Fennick orgeat 15 ml → /).first()).toBeVisible()
  await answers.getByRole('button', { name: 'Take this as a draft' }).first().click()
  await expect(page).toHaveURL(/\/drinks\/low-water-bell/)
  await draftSaved(page)
  await page.getByRole('button', { name: 'Save version' }).click()
  await page.getByLabel('Why').fill('the new orgeat is sweeter still')
  await page.getByLabel('Label, if it has one').fill('less orgeat')
  await page.getByLabel('Put it on the next menu').uncheck()
  await page.getByRole('button', { name: 'Save version 6' }).click()
  await expect(page).toHaveURL(/v=6/)

  await page.goto(`${demo.url}/compare/sheet?of=low-water-bell@4,low-water-bell@6`)
  await expect(page.getByText(/less Fennick orgeat/)).toBeVisible()
  await page.getByRole('link', { name: 'Taste them blind' }).click()
  await page.getByLabel('What it is to decide').fill('Is the one with less orgeat the Bell?')
  await page.getByLabel('Who tastes').fill('Ann, Ben, Cy')
  await page.getByLabel(/Who makes the drinks/).selectOption({ label: 'Lead' })
  await page.getByRole('button', { name: 'Draw it' }).click()
  await expect(page.getByRole('heading', { name: 'Who are you?' })).toBeVisible()
  const id = Number(/\/tastings\/(\d+)/.exec(page.url())?.[1])

  const maker = await browser.newContext()
  await worksHere(maker, 'Lead')
  const kitchen = await maker.newPage()
  await kitchen.goto(`${demo.url}/tastings/${id}`)
  await expect(kitchen.getByText('Keep this to yourself.')).toBeVisible()
  const rows = kitchen.getByRole('region', { name: 'Which glass is which' }).getByRole('listitem')
  const better = /\d{3}/.exec((await rows.filter({ hasText: 'Low Water Bell, v6' }).textContent()) ?? '')?.[0] ?? ''
  for (const taster of ['Ann', 'Ben', 'Cy']) await judge(page, taster, { [better]: 'again, please' })
  // Nobody who tastes has been told.
  expect((await demo.send('GET', `/api/tastings/${id}/key`, undefined, PEOPLE.Manager.id)).status).toBe(403)
  expect((await demo.send<Tasting>('GET', `/api/tastings/${id}`)).body.end).toBeNull()
  await kitchen.getByRole('button', { name: 'Close it: everybody sees' }).click()
  await expect(kitchen.getByRole('heading', { name: 'Which is poured?' })).toBeVisible()

  await expect(page.getByText(/3 of 3 liked Low Water Bell, v6 better/)).toBeVisible({ timeout: 15_000 })
  await expect(page.getByText(/with 3 tasters this proves little/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Low Water Bell, v6 …' }).click()
  await expect(page.getByText('in place of version 4, for every well')).toBeVisible()
  await page.getByRole('textbox', { name: 'Why' }).fill('three of three, and it is the old glass again')
  await page.getByRole('button', { name: 'Decide it' }).click()
  await expect(page.getByText('Version 6 of Low Water Bell is planned for the next edition.')).toBeVisible()

  const menu = (await demo.send<Menu>('GET', '/api/menu')).body
  expect(JSON.stringify(menu.plan)).toContain('{"drink":"low-water-bell","version":6}')
  await page.goto(`${demo.url}/drinks/low-water-bell/lineage`)
  const story = page.getByRole('region', { name: 'Its story' })
  await expect(story.getByText('three of three, and it is the old glass again')).toBeVisible()
  await story.getByRole('link', { name: 'tasted blind' }).click()
  await expect(page.getByRole('heading', { name: 'Is the one with less orgeat the Bell?' })).toBeVisible()
  await maker.close()
})

test('everything that drifts is tuned at once, taken or left, with one reason', async ({ demo, page }) => {
  await page.goto(`${demo.url}/adrift`)
  await page.getByRole('button', { name: 'All of them at once' }).click()
  const all = page.getByRole('region', { name: 'All of them at once' })
  await expect(all.getByText(/Grenadine 15 ml → /)).toBeVisible({ timeout: 20_000 })
  await expect(all.getByText(/Falernum with alcohol 22.5 ml → /)).toBeVisible({ timeout: 20_000 })
  await all.getByRole('checkbox', { name: 'Black Buoy' }).uncheck()
  await all.getByRole('button', { name: 'Save 1 version' }).click()
  await expect(all.getByText('Say in a few words why')).toBeVisible()
  await all.getByLabel('Why').fill('the new falernum')
  await all.getByRole('button', { name: 'Save 1 version' }).click()
  await expect(page.getByText('1 version is saved and planned.')).toBeVisible()
  await expect(page.getByRole('link', { name: 'version 4 is planned for the next edition' }).first()).toBeVisible()
  const pilot = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body
  const saved = pilot.versions.at(-1)
  expect(saved).toMatchObject({
    number: 4,
    reason: 'the new falernum',
    parents: [{ drink: 'green-pilot', version: 1 }],
  })
  expect(pilot.planned).toBe(4)
  expect((await demo.send<Drink>('GET', '/api/drinks/black-buoy')).body.versions).toHaveLength(1)
})

test('what was saved before one of them failed is not saved again', async ({ demo, page }) => {
  await page.goto(`${demo.url}/adrift`)
  await page.getByRole('button', { name: 'All of them at once' }).click()
  const all = page.getByRole('region', { name: 'All of them at once' })
  const save = all.getByRole('button', { name: /^Save [2-9] versions$/ })
  await expect(save).toBeEnabled({ timeout: 30_000 })
  await all.getByLabel('Why').fill('the new falernum')
  let asked = 0
  const posted: string[] = []
  await page.route('**/api/drinks/*/found', (route) => {
    posted.push(route.request().url())
    if (++asked !== 2) return route.continue()
    const problem = { type: 'about:blank', title: 'No', status: 409, detail: 'somebody was there', code: 'conflict' }
    return route.fulfill({ status: 409, contentType: 'application/problem+json', json: problem })
  })
  await save.click()
  await expect(all.getByText('somebody was there')).toBeVisible()
  await save.click()
  await expect(page.getByText(/versions are saved and planned\.$/)).toBeVisible()
  // Each once, and the one that failed once more.
  expect(posted.filter((url) => url === posted[1])).toHaveLength(2)
  for (const url of new Set(posted)) {
    const slug = /drinks\/([^/]+)\/found/.exec(url)?.[1]
    const { versions } = (await demo.send<Drink>('GET', `/api/drinks/${slug}`)).body
    expect(versions.filter((v) => v.reason === 'the new falernum')).toHaveLength(1)
    const decided = (await demo.send<{ decisions: unknown[] }>('GET', `/api/drinks/${slug}/lineage`)).body.decisions
    expect(
      decided.filter((d) => (d as { document: { reason: string } }).document.reason === 'the new falernum'),
    ).toHaveLength(1)
  }
})

test('a version from a book: pasted, its source said, on the tree and not on the menu', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/tide-clerk/lineage`)
  await page.getByRole('button', { name: 'Enter a version from a source' }).click()
  const dialog = page.getByRole('dialog')
  await dialog
    .getByLabel('The spec as text')
    .fill(
      'Tide Clerk\n2 oz Halyard brandy\n3/4 oz lemon juice\n1/2 oz sugar syrup 1:1 by weight\n4 oz ginger beer\nstirred with ice',
    )
  await dialog.getByRole('button', { name: 'Keep it as historical' }).click()
  await expect(dialog.getByText('A source needs a title')).toBeVisible()
  await dialog.getByLabel('Title').fill('Notes of a river pilot')
  await dialog.getByLabel('Its year').fill('1924')
  await dialog.getByRole('button', { name: 'Put in a claim' }).click()
  await dialog.getByLabel('It says').fill('a pilot of the Marrow')
  await dialog.getByLabel('When it was poured').fill('mid 1920s')
  await expect(dialog.getByText('Stands among the others as 1923 to 1926.')).toBeVisible()
  await dialog.getByLabel('Still to research').fill('Which pilot?')
  await dialog.getByRole('button', { name: 'Keep it as historical' }).click()
  await expect(dialog).toBeHidden()

  const details = page.getByRole('region', { name: 'This version' })
  await expect(details.getByText('Notes of a river pilot')).toBeVisible()
  await details.getByText('as it is written there').click()
  await expect(details.getByText('2 oz Halyard brandy', { exact: false }).first()).toBeVisible()
  // Two sources name two makers: they stand side by side.
  const said = page.getByRole('region', { name: 'What the sources say' })
  await expect(said.getByText('they disagree').first()).toBeVisible()
  await expect(said.getByText('a pilot of the Marrow')).toBeVisible()
  await expect(said.getByText('the clerk of the tide office')).toBeVisible()
  const after = (await demo.send<Drink>('GET', '/api/drinks/tide-clerk')).body
  expect([after.name, after.planned, after.versions.at(-1)?.origin]).toEqual(['Tide Clerk', 1, { kind: 'historical' }])

  // By keys: to the left in time, and back.
  await page.getByRole('button', { name: /^version 4, historical, mid 1920s/ }).focus()
  await page.keyboard.press('ArrowLeft')
  await expect(details.getByRole('heading', { name: /Version 2/ })).toBeVisible()
  await page.keyboard.press('End')
  await expect(page).toHaveURL(/v=tide-clerk%40/)

  // What is to be found out stands in one list until it is.
  await page.goto(`${demo.url}/research`)
  const clerk = page.getByRole('region', { name: 'Tide Clerk' })
  await clerk.getByRole('button', { name: 'Answer …' }).click()
  await page.getByRole('dialog').getByLabel('The answer').fill('the one who drowned in 1931')
  await page.getByRole('button', { name: 'Write it down' }).click()
  await expect(clerk).toBeHidden()
})

test('a riff is a drink of its own that keeps its parent; an old version comes back as a new one', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/drinks/brass-ferry/lineage`)
  await page.getByRole('button', { name: /^version 2, house/ }).click()
  await page.getByRole('button', { name: 'Riff on it …' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Tin Ferry')
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page).toHaveURL(/\/drinks\/tin-ferry/)
  await page.getByRole('button', { name: 'Save version' }).click()
  await expect(page.getByLabel('What it is')).toHaveValue('riff')
  await page.getByLabel('Why').fill('for the garden')
  await page.getByRole('button', { name: 'Save version 1' }).click()
  await expect(page.getByText('Version 1 is saved and planned for the next edition.')).toBeVisible()
  const riff = (await demo.send<Drink>('GET', '/api/drinks/tin-ferry')).body
  expect(riff.versions[0]?.parents).toEqual([{ drink: 'brass-ferry', version: 2 }])
  await page.goto(`${demo.url}/drinks/brass-ferry/lineage`)
  await expect(page.getByRole('button', { name: /^Tin Ferry, version 1, riff/ })).toBeVisible()

  await page.getByRole('button', { name: /^version 4, dinner card/ }).click()
  await page.getByRole('button', { name: 'Restore as a new version' }).click()
  await expect(page.getByText('The draft is version 4 again')).toBeVisible()
  await page.getByRole('button', { name: 'Save version' }).click()
  await expect(page.getByRole('dialog').getByText('Made from version 4.')).toBeVisible()
  await page.getByLabel('Why').fill('for the museum’s evening')
  await page.getByRole('button', { name: 'Save version 5' }).click()
  await expect(page).toHaveURL(/v=5/)
  const ferry = (await demo.send<Drink>('GET', '/api/drinks/brass-ferry')).body
  expect(ferry.name).toBe('Brass Ferry')
  expect(ferry.versions.at(-1)?.document.pours).toEqual(ferry.versions[3]?.document.pours)
})

test('what several say of a drink becomes a target, and a person takes it', async ({ demo, page }) => {
  for (const person of [2, 3, 4])
    await demo.send(
      'POST',
      '/api/drinks/green-pilot/versions/1/notes',
      { says: 'tooSweet', words: '', well: 'hearth' },
      person,
    )
  await page.goto(`${demo.url}/drinks/green-pilot?v=1`)
  const notes = page.getByRole('region', { name: 'What was said of it' })
  await expect(notes.getByText('three of three say too sweet')).toBeVisible()
  await notes.getByRole('button', { name: 'too sweet', exact: true }).click()
  await notes.getByLabel('A word more').fill('like jam')
  await notes.getByRole('button', { name: 'Write it down' }).click()
  await expect(notes.getByText('four of four say too sweet')).toBeVisible()
  await notes.getByRole('button', { name: 'Take it …' }).click()
  await page.getByRole('dialog').getByLabel('Why').fill('they are right')
  await page.getByRole('dialog').getByRole('button', { name: 'Take it', exact: true }).click()
  await expect(page).toHaveURL(/\/tune\?v=1&to=lessSweet/)
  await expect(
    page
      .getByRole('region', { name: 'Answers' })
      .getByText(/Falernum with alcohol/)
      .first(),
  ).toBeVisible()
})

test('a sheet of comparison prints on one sheet of paper, and its address can be sent', async ({ demo, page }) => {
  const five = 'drowned-archive@2,drowned-archive@3,drowned-archive@1,brass-ferry@3,sluice-gate-roster@1'
  await page.goto(`${demo.url}/compare/sheet?of=${five}`)
  await expect(page.getByRole('columnheader')).toHaveCount(5)
  await expect(page.getByText('…', { exact: true })).toHaveCount(0)
  const pages = async () =>
    (await page.pdf({ preferCSSPageSize: true })).toString('latin1').match(/\/Type\s*\/Page\b(?!s)/g)?.length
  expect(await pages()).toBe(1)
  await page.getByLabel('to the volume of the first').click()
  await expect(page.getByLabel('to the volume of the first')).toBeChecked()
  await expect(page).toHaveURL(/steps=.*commonVolume/)
  const sent = await page.context().newPage()
  await sent.goto(page.url())
  await expect(sent.getByLabel('to the volume of the first')).toBeChecked()
  await expect(sent.getByText(/The Drowned Archive v3: all × \d\.\d\d/)).toBeVisible()
  await page.getByRole('button', { name: 'Leave Brass Ferry v3 out' }).click()
  await expect(page.getByRole('columnheader')).toHaveCount(4)
})

test('a stand-in for a bottle that is out is tuned with the rest, and another glass can be taken as it is', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/stand-in?bottle=orgeat-fennick&drink=low-water-bell&v=4&line=2`)
  await page.getByRole('button', { name: '… and tune the rest' }).click()
  await expect(page).toHaveURL(/\/drinks\/low-water-bell\/tune\?v=4/)
  await expect(
    page.getByText('with Marsh & Daughter orgeat and Wildflower honey for Fennick orgeat · tuned'),
  ).toBeVisible()
  const answers = page.getByRole('region', { name: 'Answers' })
  await expect(answers.getByText(/Marsh & Daughter orgeat 7.5 ml → 4.2 ml/)).toBeVisible()
  // The stand-in stays where the page is loaded again.
  await page.reload()
  await answers.getByRole('button', { name: 'Take this as a draft' }).first().click()
  await draftSaved(page)
  const bell = (await demo.send<Drink>('GET', '/api/drinks/low-water-bell')).body
  const poured = bell.draft?.document.pours.map((p) => p.ingredient ?? p.slot) ?? []
  expect(poured.slice(2, 4)).toEqual(['orgeat-marsh', 'honey'])
  expect(poured).not.toContain('orgeat-fennick')
  expect(bell.draft?.document.pours[2]?.amount ?? bell.draft?.document.pours[2]).toMatchObject({
    value: 4.2,
    unit: 'ml',
  })

  await page.goto(`${demo.url}/drinks/tide-clerk/tune`)
  await page.getByLabel('What it has to meet').selectOption({ label: 'the same taste in the quay tumbler' })
  await expect(answers.getByRole('heading', { name: 'It is there already' })).toBeVisible()
  await answers.getByRole('button', { name: 'Take this as a draft' }).click()
  await draftSaved(page)
  const clerk = (await demo.send<Drink>('GET', '/api/drinks/tide-clerk')).body
  expect(clerk.draft?.document.glassByWell).toMatchObject({ hearth: 'quay-tumbler' })
})
