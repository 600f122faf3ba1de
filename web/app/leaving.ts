/** What was said on this page and is not known to be done yet. */
const unsaved = new Set<Promise<unknown>>()

const askFirst = (event: BeforeUnloadEvent) => event.preventDefault()

/**
 * Counts something as not saved until it is done or refused: whoever reloads or leaves meanwhile is asked by the
 * browser first, because the page takes what it has not sent yet with it.
 */
export function untilSaved<T>(saving: Promise<T>): Promise<T> {
  if (unsaved.size === 0) window.addEventListener('beforeunload', askFirst)
  unsaved.add(saving)
  const end = () => {
    unsaved.delete(saving)
    // A page without that listener can be gone back to at once: it stands only as long as it has to.
    if (unsaved.size === 0) window.removeEventListener('beforeunload', askFirst)
  }
  saving.then(end, end)
  return saving
}
