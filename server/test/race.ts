/** Everybody stands ready, then all go at once. */
export async function race<T>(count: number, run: (i: number) => Promise<T>): Promise<T[]> {
  let open = () => {}
  const barrier = new Promise<void>((resolve) => {
    open = resolve
  })
  const all = Array.from({ length: count }, async (_, i) => {
    await barrier
    return run(i)
  })
  open()
  return Promise.all(all)
}
