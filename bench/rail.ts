/** The rail: from a tap to what one sees, on a slowed processor; and the plan of a round beside trying every order. */

import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { type AskedFor, planRound } from '@conch/core/service'
import type { Page } from '@playwright/test'
import { bestOrder, type Candidate } from '../core/service/plan.ts'
import { signInAt } from '../server/testing/signIn.ts'

type Say = (what: string, figure: string, aim?: string) => void

/** A tablet behind a bar is about so many times slower than the machine that this runs on. */
const SLOWED = 4
const ROUNDS = 7
const text = (ms: number | undefined) => (ms === undefined ? 'not measured' : `${ms.toFixed(ms < 10 ? 1 : 0)} ms`)
const median = (all: readonly number[]) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)]
const most = (all: readonly number[]) => Math.max(...all)

/** From a click inside the page to the frame after something it shows has changed, ms. */
function fromClick(page: Page, click: string, shown: string): Promise<number> {
  return page.evaluate(
    async ([clicked, watched]) => {
      const button = [...document.querySelectorAll('button')].find((b) => new RegExp(clicked).test(b.textContent ?? ''))
      const root = document.querySelector('main')?.parentElement
      if (!button || !root) throw new Error(`no ${clicked}`)
      const before = document.querySelector(watched)?.textContent
      const drawn = new Promise<number>((resolve) => {
        const look = () => {
          const now = document.querySelector(watched)?.textContent
          if (now === undefined || now === before) return false
          requestAnimationFrame(() => resolve(performance.now()))
          return true
        }
        const observer = new MutationObserver(() => {
          if (look()) observer.disconnect()
        })
        observer.observe(root, { subtree: true, childList: true, characterData: true })
      })
      const startedAt = performance.now()
      button.click()
      return (await drawn) - startedAt
    },
    [click, shown] as const,
  )
}

/** The peer: a page without anything but a list and a number that changes. */
function bareTick(page: Page): Promise<number[]> {
  return page.evaluate(async () => {
    const host = document.createElement('div')
    host.style.cssText = 'position:fixed;left:0;top:0;font-size:100px'
    document.body.append(host)
    const all: number[] = []
    for (let i = 0; i < 31; i++) {
      const startedAt = performance.now()
      host.innerHTML = `<b>${i} oz</b><h1>thing ${i}</h1>`
      await new Promise((resolve) => requestAnimationFrame(resolve))
      all.push(performance.now() - startedAt)
      await new Promise((resolve) => setTimeout(resolve, 30))
    }
    host.remove()
    return all
  })
}

/** @param port of a server with the demo house */
export async function benchRail(port: number, say: Say): Promise<void> {
  const { chromium } = await import('@playwright/test')
  const { default: config } = await import('../e2e/playwright.config.ts')
  const browser = await chromium.launch(config.use?.launchOptions)
  const page = await browser.newPage({ viewport: { width: 1024, height: 768 } })
  const url = `http://localhost:${port}`
  const { cookie } = await signInAt(url, 'Bartender Courtyard')
  const [name = '', value = ''] = cookie.split('=')
  await page.context().addCookies([{ name, value, url }])
  await page.goto(`${url}/rail`)
  const session = await page.context().newCDPSession(page)
  const begun: number[] = []
  const ticks: number[] = []
  for (let i = 0; i < ROUNDS; i++) {
    const poured = page.getByRole('region', { name: 'What is poured' })
    for (const drink of ['Low Water Bell', 'Low Water Bell', 'Brass Ferry'])
      await poured.getByRole('button', { name: new RegExp(`^${drink}`) }).click()
    await page.waitForTimeout(400)
    await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWED })
    begun.push(await fromClick(page, '^Make', 'main h1:not(.sr-only)'))
    await page.getByRole('button', { name: /egin$/ }).click()
    for (let n = 0; n < 12; n++) {
      // So soon a second tap is a slip of the thumb, and none.
      await page.waitForTimeout(400)
      ticks.push(await fromClick(page, '^Done$', '[aria-label="The step in hand"]'))
    }
    await session.send('Emulation.setCPUThrottlingRate', { rate: 1 })
    await page.evaluate(() => localStorage.removeItem('conch:rail'))
    await page.reload()
  }
  await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWED })
  const bare = await bareTick(page)
  await browser.close()
  const slowed = `processor slowed ${SLOWED} times`
  say(
    `rail, from “make” to the first thing to read, median of ${begun.length}, ${slowed}`,
    `${text(median(begun))}, at most ${text(most(begun))}`,
    'under 300 ms',
  )
  say(
    `rail, from a tick to the next step, median of ${ticks.length}, ${slowed}`,
    `${text(median(ticks))}, at most ${text(most(ticks))}`,
    'under 50 ms',
  )
  say(
    '  beside a bare page that changes two words',
    `${((median(ticks) ?? 0) / (median(bare) ?? 1)).toFixed(1)} times its ${text(median(bare))}`,
  )
}

function permutations(n: number): number[][] {
  if (n === 0) return [[]]
  return permutations(n - 1).flatMap((p) =>
    Array.from({ length: n }, (_, at) => [...p.slice(0, at), n - 1, ...p.slice(at)]),
  )
}

/** Eight glasses of four kinds, reckoned whole; and the order of eight loads beside trying all 40,320. */
export function benchPlan(documents: readonly DrinkDocument[], book: HouseBook, say: Say): void {
  const kinds = documents.filter((d) => d.serves === 1).slice(0, 4)
  const asked = kinds.map((document): AskedFor => ({ name: document.name, document, glasses: 2 }))
  const startedAt = performance.now()
  const planned = planRound(asked, book, 'courtyard')
  const wholeMs = performance.now() - startedAt
  if (!planned.ok) throw new Error(planned.words)
  say(
    'a round of eight glasses of four kinds, ice and seconds solved, every split and order',
    text(wholeMs),
    'under 300 ms',
  )
  const loads = Array.from({ length: 8 }, (_, i): Candidate => {
    const { of, made, takesS } = planned.plan.loads[i % planned.plan.loads.length] as Candidate
    return { of, made, takesS: takesS + i }
  })
  const times = (work: () => void) => {
    const all = Array.from({ length: 5 }, () => {
      const at = performance.now()
      work()
      return performance.now() - at
    })
    return median(all) ?? 0
  }
  const ours = times(() => bestOrder(loads))
  const all = permutations(8)
  let longestS = 0
  const tried = times(() => {
    for (const order of all) {
      let laterS = 0
      for (const i of [...order].reverse()) laterS += (loads[i] as Candidate).takesS
      longestS = Math.max(longestS, laterS)
    }
  })
  if (!(longestS > 0)) throw new Error('nothing was gone through')
  say(
    '  the order of eight loads, beside going through all 40,320 without weighing any',
    `${(tried / ours).toFixed(1)} times as fast, ${text(ours)}`,
  )
}
