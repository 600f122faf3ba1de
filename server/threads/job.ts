/** Something heavy, by its name: asked for here, done in a thread. The type says what goes in and what comes out. */
export interface Job<In, Out> {
  name: string
  /** Never there: it carries the types. */
  readonly does?: (data: In) => Out
}

/** The job that a function does; named where it is asked for, done where the threads begin. */
export const jobOf = <F extends (data: never) => unknown>(
  name: string,
): Job<Parameters<F>[0], Awaited<ReturnType<F>>> => ({
  name,
})

/** A job and what does it. */
export const doing = <In, Out>(job: Job<In, Out>, run: (data: In) => Out | Promise<Out>) => [job.name, run] as const
