import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import { AskFirst } from '../ui/AskFirst.tsx'
import { Field } from '../ui/Field.tsx'
import { ApiError } from './api.ts'
import { type Command, CommandProvider, useCommands } from './commands.tsx'
import { NameDialog } from './NameDialog.tsx'
import { useSending } from './useSending.ts'

afterEach(cleanup)

const schema = z.object({ name: z.string().trim().min(1, 'Give it a name.'), note: z.string() })

function Form({ send }: { send: (values: z.output<typeof schema>) => Promise<unknown> }) {
  const form = useSending(schema, { name: '', note: '' }, send)
  return (
    <form onSubmit={form.submit}>
      <Field label="Name" error={form.errorOf('name')}>
        {(props) => <input {...props} {...form.register('name')} />}
      </Field>
      {form.problem && <p role="alert">{form.problem}</p>}
      <button type="submit" disabled={form.isBusy}>
        Send
      </button>
    </form>
  )
}

const refusal = (fields: { field: string; message: string }[]) =>
  new ApiError(
    { type: '', title: '', status: 422, detail: 'it cannot be', code: 'invalid', fields },
    'name: it cannot be',
  )

describe('a form', () => {
  it('says beside its field what is wrong, and sends nothing', async () => {
    const send = vi.fn(async () => {})
    render(<Form send={send} />)
    await userEvent.click(screen.getByText('Send'))
    expect(await screen.findByText('Give it a name.')).toBeTruthy()
    expect(screen.getByLabelText('Name').getAttribute('aria-invalid')).toBe('true')
    expect(send).not.toHaveBeenCalled()
  })

  it('sends what its schema reads of it', async () => {
    const send = vi.fn(async () => {})
    render(<Form send={send} />)
    await userEvent.type(screen.getByLabelText('Name'), '  Slipway ')
    await userEvent.click(screen.getByText('Send'))
    expect(send).toHaveBeenCalledWith({ name: 'Slipway', note: '' })
  })

  it('shows what the server refuses beside the field that it names', async () => {
    render(<Form send={() => Promise.reject(refusal([{ field: 'name.first', message: 'is taken' }]))} />)
    await userEvent.type(screen.getByLabelText('Name'), 'Slipway')
    await userEvent.click(screen.getByText('Send'))
    expect(await screen.findByText('is taken')).toBeTruthy()
    expect(screen.queryByRole('alert')).toBeNull()
  })

  it.each([
    ['of a field that is not on it', refusal([{ field: 'planRevision', message: 'is old' }]), 'name: it cannot be'],
    ['of no field', new Error('away'), 'away'],
  ])('shows a refusal %s for itself, until it is sent again', async (_, error, words) => {
    let isRefused = true
    render(<Form send={() => (isRefused ? Promise.reject(error) : Promise.resolve())} />)
    await userEvent.type(screen.getByLabelText('Name'), 'Slipway')
    await userEvent.click(screen.getByText('Send'))
    expect((await screen.findByRole('alert')).textContent).toBe(words)
    isRefused = false
    await userEvent.click(screen.getByText('Send'))
    await vi.waitFor(() => expect(screen.queryByRole('alert')).toBeNull())
  })

  it('is sent once at a time', async () => {
    let end = () => {}
    const send = vi.fn(() => new Promise<void>((resolve) => (end = resolve)))
    render(<Form send={send} />)
    await userEvent.type(screen.getByLabelText('Name'), 'Slipway')
    await userEvent.click(screen.getByText('Send'))
    await vi.waitFor(() => expect(screen.getByText<HTMLButtonElement>('Send').disabled).toBe(true))
    await userEvent.click(screen.getByText('Send'))
    // Not by the key either, nor where a button was left as it is.
    const form = screen.getByText('Send').closest('form')
    if (form) fireEvent.submit(form)
    end()
    await vi.waitFor(() => expect(screen.getByText<HTMLButtonElement>('Send').disabled).toBe(false))
    expect(send).toHaveBeenCalledTimes(1)
  })

  it.each([
    ['', 'Give it a name.'],
    ['  ', 'Give it a name.'],
    ['!?', 'A name needs a letter from a to z, or a digit.'],
  ])('asks for a name that makes an address: %j', async (typed, words) => {
    const onName = vi.fn(async () => {})
    render(<NameDialog title="New" onClose={() => {}} onName={onName} />)
    if (typed) await userEvent.type(screen.getByLabelText('Name'), typed)
    await userEvent.click(screen.getByText('Begin'))
    expect(await screen.findByText(words)).toBeTruthy()
    expect(onName).not.toHaveBeenCalled()
  })

  it('asks once more, and does it once', async () => {
    let end = () => {}
    const onYes = vi.fn(() => new Promise<void>((resolve) => (end = resolve)))
    render(<AskFirst title="Throw it away?" lead="" main="Yes" onClose={() => {}} onYes={onYes} />)
    await userEvent.click(screen.getByText('Yes'))
    await vi.waitFor(() => expect(screen.getByText<HTMLButtonElement>('Yes').disabled).toBe(true))
    await userEvent.click(screen.getByText('Yes'))
    end()
    await vi.waitFor(() => expect(screen.getByText<HTMLButtonElement>('Yes').disabled).toBe(false))
    expect(onYes).toHaveBeenCalledTimes(1)
  })
})

function Page({ done }: { done: (id: string) => void }) {
  const command = (id: string, keys: string): Command => ({ id, label: id, group: 'do', keys, perform: () => done(id) })
  useCommands(
    () => [
      command('c', 'c'),
      command('g c', 'g c'),
      command('help', '?'),
      command('before', '['),
      command('find', 'mod+k'),
      command('undo', 'mod+z'),
    ],
    [],
  )
  return <input aria-label="words" />
}

describe('a key', () => {
  const pressed = (presses: (Partial<KeyboardEventInit> & { key: string })[], target: 'page' | 'field') => {
    const done: string[] = []
    render(
      <CommandProvider>
        <Page done={(id) => done.push(id)} />
      </CommandProvider>,
    )
    const at = target === 'page' ? document.body : screen.getByLabelText('words')
    for (const press of presses) fireEvent.keyDown(at, { code: 'Any', bubbles: true, ...press })
    return done
  }

  it('does one thing alone and another after g', () => {
    expect(pressed([{ key: 'c' }], 'page')).toEqual(['c'])
    cleanup()
    expect(pressed([{ key: 'g' }, { key: 'c' }], 'page')).toEqual(['g c'])
  })

  it('is the character, however a keyboard makes it', () => {
    expect(pressed([{ key: '?', shiftKey: true }, { key: '?' }, { key: '[' }], 'page')).toEqual([
      'help',
      'help',
      'before',
    ])
  })

  it('is a letter in a field; there undo is the field’s, and what is pressed with Ctrl is still heard', () => {
    const presses = [
      { key: 'c' },
      { key: '?', shiftKey: true },
      { key: 'z', ctrlKey: true },
      { key: 'k', ctrlKey: true },
    ]
    expect(pressed(presses, 'field')).toEqual(['find'])
  })

  it('with Ctrl undoes on the page', () => {
    expect(pressed([{ key: 'z', ctrlKey: true }], 'page')).toEqual(['undo'])
  })
})
