import { describe, expect, it } from 'vitest'
import { untilSaved } from './leaving.ts'

/** Whether somebody who leaves now is asked first. */
function isAsked(): boolean {
  const event = new Event('beforeunload', { cancelable: true })
  window.dispatchEvent(event)
  return event.defaultPrevented
}

describe('leaving while something is not saved', () => {
  it('is asked about until the last of it is done or refused, and not any more', async () => {
    expect(isAsked()).toBe(false)
    let save = (_: string) => {}
    let refuse = (_: Error) => {}
    const one = untilSaved(new Promise<string>((resolve) => (save = resolve)))
    const other = untilSaved(new Promise((_, reject) => (refuse = reject)))
    expect(isAsked()).toBe(true)
    save('saved')
    expect(await one).toBe('saved')
    expect(isAsked()).toBe(true)
    refuse(new Error('refused'))
    await expect(other).rejects.toThrow('refused')
    expect(isAsked()).toBe(false)
    void untilSaved(Promise.resolve())
    expect(isAsked()).toBe(true)
  })
})
