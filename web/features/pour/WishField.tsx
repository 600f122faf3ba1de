import { SearchField } from '../../ui/SearchField.tsx'

const WAIT_MS = 250
const EXAMPLES = ['no nuts, under 15 %, long', 'sour, not sweet', 'gin', 'without alcohol', 'for sharing a bowl']

/** In one's own words: spirit, taste, strength, glass, allergen. */
export function WishField({ value, onChange }: { value: string; onChange: (wish: string) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 [&_.field]:max-w-none [&_.field]:flex-1 [&_.field]:basis-72">
      <SearchField
        label="What is wished for"
        hint="no nuts, under 15 %, long"
        value={value}
        waitMs={WAIT_MS}
        onChange={onChange}
      />
      <span className="flex flex-wrap gap-x-3 text-sm">
        {EXAMPLES.map((e) => (
          <button
            key={e}
            type="button"
            className="min-h-9 text-soft underline underline-offset-2 max-lg:min-h-11"
            onClick={() => onChange(e)}
          >
            {e}
          </button>
        ))}
      </span>
    </div>
  )
}
