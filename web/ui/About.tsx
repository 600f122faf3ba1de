interface AboutProps {
  /** What is assumed, in words. */
  what: string
}

/** ≈ beside a figure: only assumed. */
export function About({ what }: AboutProps) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what a mark means is said when it has the focus, too
    <span role="img" data-mark="about" tabIndex={0} aria-label={what} className="ml-2 text-sm text-soft">
      ≈
    </span>
  )
}
