/** A closed bivalve: a formula that only managers open. Not the house's seal, which marks what is poured. */
export function ClosedMark({ size = 16, title = 'sealed' }: { size?: number; title?: string }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      role="img"
      data-mark="sealed"
      aria-label={title}
      className="inline-block shrink-0"
    >
      <path
        d="M2 10c2-5 5-7 8-7s6 2 8 7c-2 5-5 7-8 7s-6-2-8-7z"
        fill="var(--buff)"
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
      <path
        d="M2 10l2.3-1.2 2.3 2.400 2.3-2.400 2.3 2.400 2.3-2.400 2.3 2.400 2-1.2"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
    </svg>
  )
}
