/**
 * Lets everybody else be answered: the embedded database answers within one turn of the loop, so whoever asks it many
 * large things in a row keeps all others waiting.
 */
export const othersTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve))

/** Asks something large once the others had their turn. */
export async function inTurn<T>(ask: () => Promise<T>): Promise<T> {
  await othersTurn()
  return ask()
}
