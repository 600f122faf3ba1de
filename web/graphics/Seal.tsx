/** The house's seal: a shell's turn in a ring. It marks what is poured today. */
export function Seal({ size = 16, title }: { size?: number; title: string }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      role="img"
      data-mark="seal"
      aria-label={title}
      className="inline-block shrink-0"
    >
      <circle cx="10" cy="10" r="9" fill="var(--buff)" stroke="var(--ink)" strokeWidth="1.2" />
      <path
        d="M10 10.500c0-1.200 1.900-1.200 1.900.4s-2.600 2.600-4.100 1-.4-5.100 2.700-5.700 5.500 2.500 4.800 5.500-3.800 4.600-6.700 3.900"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.300"
        strokeLinecap="round"
      />
    </svg>
  )
}
