import type { ReactNode } from 'react'

/** Why what is typed into a field in its place does not count: under the field, over what stands there. */
export function Refusal({ children }: { children: ReactNode }) {
  return (
    <span
      role="alert"
      className="absolute top-full left-0 z-10 mt-0.5 w-max max-w-[min(20rem,70vw)] border border-stop bg-paper px-1.5 py-0.5 text-left text-sm whitespace-normal text-stop"
    >
      {children}
    </span>
  )
}
