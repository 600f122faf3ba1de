/** A name as the title of a page, changed where it stands. As long as it is, it wraps; it is never empty. */
export function NameField({ name, onChange }: { name: string; onChange: (name: string) => void }) {
  return (
    <textarea
      aria-label="Name"
      className="inplace field-sizing-content w-full resize-none font-display text-3xl font-semibold"
      rows={1}
      maxLength={120}
      value={name}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      onChange={(e) => {
        const next = e.target.value.replace(/\n/g, ' ')
        if (next.trim()) onChange(next)
      }}
    />
  )
}
