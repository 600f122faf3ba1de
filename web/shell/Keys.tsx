const KEY_WORDS: Record<string, string> = { mod: 'Ctrl', shift: 'Shift' }

/** Keys as one reads them: "mod+k" → Ctrl K, "g m" → g then m. */
export function Keys({ keys }: { keys: string }) {
  return (
    <span className="flex gap-1 text-sm text-soft">
      {keys.split(/[ +]/).map((key) => (
        <kbd key={key} className="border border-hair px-1.5 font-text">
          {KEY_WORDS[key] ?? key}
        </kbd>
      ))}
    </span>
  )
}
