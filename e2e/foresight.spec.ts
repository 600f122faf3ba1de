/** What a change will do, said before it is saved. */

import type { AuditPage } from '@conch/contract'
import { expect, test } from './house.ts'

test('a bottle that is typed anew says which drinks leave their standard, and the list stands with it', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/back-bar?open=orgeat-fennick`)
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('region', { name: 'Before it is saved' })).toHaveCount(0)
  await dialog.getByRole('textbox', { name: /Sugar/ }).first().fill('110')
  const before = dialog.getByRole('region', { name: 'Before it is saved' })
  await expect(before).toContainText(/drinks? of the menu moves?, \d leaves? (its|their) standard/)
  await expect(before).toContainText('Last summer')
  await expect(before.getByRole('list', { name: 'What moves' })).toContainText(
    /Low Water Bell.*Hearth: sweet [\d.]+ g\/100 ml → [\d.]+ g\/100 ml, above its standard/,
  )
  // Typed back, there is nothing to say.
  await dialog.getByRole('textbox', { name: /Sugar/ }).first().fill('48')
  await dialog.getByRole('textbox', { name: /Sugar/ }).first().fill('110')
  await expect(before).toBeVisible()
  await dialog.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(dialog).toHaveCount(0)
  const { entries } = (await demo.send<AuditPage>('GET', '/api/audit?kind=ingredient')).body
  expect(JSON.stringify(entries[0]?.detail.touches)).toContain('low-water-bell')
})

test('a number of a well that hurts the menu is asked about first', async ({ demo, page }) => {
  await page.goto(`${demo.url}/ice/hearth`)
  const room = page.getByRole('textbox', { name: 'Room', exact: true })
  const was = await room.inputValue()
  await room.fill('44')
  await room.press('Enter')
  const asked = page.getByRole('dialog', { name: 'This moves the menu' })
  await expect(asked).toContainText(/leaves? (its|their) standard/)
  await asked.getByRole('button', { name: 'Not yet' }).click()
  await expect(room).toHaveValue(was)
  // What moves nothing out of its standard is simply saved; whoever leaves before it is, is asked first.
  const leaving: string[] = []
  page.on('dialog', (dialog) => {
    leaving.push(dialog.type())
    void dialog.dismiss()
  })
  let go = () => {}
  const held = new Promise<void>((resolve) => (go = resolve))
  await page.route('**/api/wells/hearth', async (route) => {
    await held
    await route.continue()
  })
  const saved = page.waitForResponse((r) => r.request().method() === 'PUT' && r.url().endsWith('/api/wells/hearth'))
  await room.fill(String(Number(was) + 0.5))
  await room.press('Enter')
  await page.evaluate(() => location.reload())
  await expect.poll(() => leaving).toEqual(['beforeunload'])
  go()
  expect((await saved).ok()).toBe(true)
  await expect(asked).toHaveCount(0)
  await page.unrouteAll()
  await page.reload()
  await expect(room).toHaveValue(String(Number(was) + 0.5))
})
