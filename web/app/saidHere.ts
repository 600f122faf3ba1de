/** What was said on this device and not heard by the house yet: it counts here already. */

import type { Tonight } from '@conch/contract'

type After = (tonight: Tonight) => Promise<Tonight>
let set: (after: After) => void
const after = new Promise<After>((resolve) => {
  set = resolve
})

/** Says how what was said here is counted in: once, when the page begins. */
export const setSaidHere = (how: After): void => set(how)
/** What is out, with what was said here. */
export const withSaidHere = async (tonight: Tonight): Promise<Tonight> => (await after)(tonight)
