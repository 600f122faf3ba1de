/** What a change will do, in words. Plain functions. */

import type { Foresight } from '@conch/contract'
import { MEASURES } from '@conch/core/drink'
import { comesBack, leaves } from '@conch/core/menu'
import { measureText } from '../graphics/format.ts'

type Drink = Foresight['drinks'][number]
type AtWell = Drink['at'][number]

export const isOnMenu = (d: Drink): boolean => d.isPoured || d.isPlanned

/** It hurts the menu: something of it leaves its standard, cannot be made, is to be minded anew, or gets an allergen. */
export const hurts = (d: Drink): boolean =>
  d.at.some((a) => a.moved.some(leaves) || a.said.length > 0 || a.allergensIn.length > 0)

const movedWords = (m: AtWell['moved'][number]): string => {
  const standing = leaves(m) ? `, ${m.isStanding} its standard` : comesBack(m) ? ', back in its standard' : ''
  return `${MEASURES[m.measure].label} ${measureText(m.measure, m.was)} → ${measureText(m.measure, m.is)}${standing}`
}

/** One drink at one well, part by part. @param money how an amount of money is written */
export const wordsAt = (at: AtWell, money: (amount: number) => string): string[] => [
  ...at.moved.map(movedWords),
  ...at.said,
  ...at.unsaid.map((text) => `no longer: ${text}`),
  ...(at.allergensIn.length > 0 ? [`contains ${at.allergensIn.join(', ')} then`] : []),
  ...(at.allergensOut.length > 0 ? [`no ${at.allergensOut.join(', ')} any more`] : []),
  ...(at.cost ? [costWords(at.cost, money)] : []),
]

function costWords({ by, is }: NonNullable<AtWell['cost']>, money: (amount: number) => string): string {
  const words = `${money(Math.abs(by))} ${by > 0 ? 'dearer' : 'cheaper'} a serve`
  return is === undefined ? words : `${words}, ${money(is)} then`
}

const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
const list = (names: readonly string[]) =>
  names.length > 2 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more` : names.join(' and ')

/** All of it in a few words; empty where it does nothing that anybody reads. */
export function summaryOf({ isFromNextLot, mixes, total, looked, drinks, editions }: Foresight): string[] {
  const menu = drinks.filter(isOnMenu)
  const out = menu.filter((d) => d.at.some((a) => a.moved.some(leaves)))
  const others = drinks.length - menu.length
  return [
    ...(isFromNextLot && drinks.length > 0 ? ['the lot that is poured stays as it is; from the next one on'] : []),
    ...(mixes.length > 0 ? [`it is in ${list(mixes.map((m) => m.name))}`] : []),
    ...(menu.length > 0
      ? [
          `${count(menu.length, 'drink of the menu moves', 'drinks of the menu move')}${out.length > 0 ? `, ${count(out.length, 'leaves its standard', 'leave their standard')}` : ''}`,
        ]
      : total > 0
        ? ['no drink of the menu moves by it']
        : []),
    ...(others > 0 ? [`${count(others, 'other drink moves', 'other drinks move')}`] : []),
    ...(total > looked ? [`of ${total} that stand on it the first ${looked} were computed`] : []),
    ...(editions.length > 0
      ? [`${list(editions.map((e) => e.name))} ${editions.length === 1 ? 'keeps its' : 'keep their'} figures`]
      : []),
  ]
}
