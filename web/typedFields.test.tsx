import type { IcePortion } from '@conch/core/cold'
import { type Amount, DEFAULT_KIT } from '@conch/core/measure'
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { type ReactNode, useState } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import { AmountField } from './features/drink/AmountField.tsx'
import { IceAmount } from './features/drink/IceAmount.tsx'
import { readComponentAmount } from './features/mixes/readComponent.ts'
import { NumberField } from './ui/NumberField.tsx'
import { ReadField } from './ui/ReadField.tsx'

afterEach(cleanup)

/** Keeps what a field tells, as a page does; what it kept last is what it would save. */
function Kept<T>({ start, children }: { start: T; children: (value: T, keep: (next: T) => void) => ReactNode }) {
  const [value, keep] = useState(start)
  return (
    <>
      {children(value, keep)}
      <output>{JSON.stringify(value)}</output>
    </>
  )
}

const ice = (start: IcePortion) => (
  <Kept start={start}>
    {(portion, keep) => (
      <IceAmount
        portion={portion}
        label="It"
        context={{ kit: DEFAULT_KIT, scoops: [] }}
        onChange={(next) => keep({ ...portion, ...next })}
      />
    )}
  </Kept>
)
const number = (isSettling: boolean) => (
  <Kept start={40}>
    {(value, keep) => (
      <NumberField label="It" value={value} low={0} high={200} isSettling={isSettling} onChange={keep} />
    )}
  </Kept>
)

/** Each field that is typed into where it stands: what stands there, and what nobody can take for an amount of it. */
const FIELDS: Record<string, { field: ReactNode; was: unknown; refused: string; taken: [string, unknown] }> = {
  'a pour': {
    field: (
      <Kept<Amount> start={{ value: 0.75, unit: 'oz' }}>
        {(amount, keep) => (
          <AmountField
            amount={amount}
            kit={DEFAULT_KIT}
            partMl={undefined}
            label="It"
            isReadOnly={false}
            onChange={keep}
          />
        )}
      </Kept>
    ),
    was: { value: 0.75, unit: 'oz' },
    refused: '2 splashes',
    taken: ['1½ oz', { value: 1.5, unit: 'oz', asWritten: '1½ oz' }],
  },
  ice: {
    field: ice({ kind: 'crushed', massG: 180, asWritten: 'to the line', fill: 'toLine' }),
    was: { kind: 'crushed', massG: 180, asWritten: 'to the line', fill: 'toLine' },
    refused: '2 scoops',
    taken: ['1 cup', { kind: 'crushed', massG: 132, asWritten: '1 cup' }],
  },
  'an amount of a recipe': {
    field: (
      <Kept<number | undefined> start={250}>
        {(value, keep) => (
          <ReadField
            label="It"
            value={value}
            read={(text) => readComponentAmount(text, 'weight', { kit: DEFAULT_KIT, gPerMl: undefined })}
            onChange={keep}
          />
        )}
      </Kept>
    ),
    was: 250,
    refused: '1 cup',
    taken: ['1 kg', 1000],
  },
  'a number': { field: number(false), was: 40, refused: '300', taken: ['12.5', 12.5] },
  'a number told of when it is left': { field: number(true), was: 40, refused: '300', taken: ['12.5', 12.5] },
}

describe.each(Object.entries(FIELDS))('%s, typed key by key', (_, { field, was, refused, taken: [text, value] }) => {
  const kept = () => JSON.parse(screen.getByRole('status').textContent ?? '')
  const type = async (words: string) => {
    render(field)
    const input = screen.getByRole('textbox')
    await userEvent.clear(input)
    await userEvent.type(input, words)
    return input
  }

  it('is what was typed, once the field is left', async () => {
    await type(`${text}{Enter}`)
    expect(kept()).toEqual(value)
  })
  it('stays what it was where what was typed is none, though its beginning is one', async () => {
    const input = await type(refused)
    expect(input.getAttribute('aria-invalid')).toBe('true')
    expect(screen.getByRole('alert').textContent).not.toBe('')
    await userEvent.tab()
    expect(kept()).toEqual(was)
    expect(screen.queryByRole('alert')).toBeNull()
  })
  it('stays what it was after Escape', async () => {
    const input = await type(`${text}{Escape}`)
    expect(kept()).toEqual(was)
    expect((input as HTMLInputElement).value).not.toBe(text)
  })
  it('stays what it was when the field is emptied and left', async () => {
    await type('{Tab}')
    expect(kept()).toEqual(was)
  })
})

it('of ice: looked at and left, its words stay; a weight typed over them is a weight', async () => {
  render(ice({ kind: 'crushed', massG: 180, asWritten: 'to the line', fill: 'toLine' }))
  await userEvent.click(screen.getByRole('textbox'))
  await userEvent.tab()
  const kept = () => JSON.parse(screen.getByRole('status').textContent ?? '')
  expect(kept().fill).toBe('toLine')
  await userEvent.clear(screen.getByRole('textbox'))
  await userEvent.type(screen.getByRole('textbox'), '180{Enter}')
  expect(kept()).toEqual({ kind: 'crushed', massG: 180 })
})
