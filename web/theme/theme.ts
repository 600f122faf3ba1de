import { useSyncExternalStore } from 'react'

/** Day and night. Without a choice the system's is followed. */
export const THEMES = { chart: 'Chart (day)', lantern: 'Lantern (night)' } as const
export type Theme = keyof typeof THEMES
const KEY = 'conch:theme'
const listeners = new Set<() => void>()

const readTheme = (): Theme => (document.documentElement.dataset.theme === 'lantern' ? 'lantern' : 'chart')

function show(theme: Theme): void {
  document.documentElement.dataset.theme = theme
  for (const listener of listeners) listener()
}

export function setTheme(theme: Theme): void {
  try {
    localStorage.setItem(KEY, theme)
  } catch {
    // Forgotten at the next visit, no more.
  }
  show(theme)
}

matchMedia('(prefers-color-scheme: dark)').addEventListener('change', (event) => {
  let chosen: string | null = null
  try {
    chosen = localStorage.getItem(KEY)
  } catch {
    // As without a choice.
  }
  if (!chosen) show(event.matches ? 'lantern' : 'chart')
})

/** A page that has its own light wears it while it is there. @returns ends it: what was chosen, else the system's, comes back */
export function wearTheme(theme: Theme): () => void {
  show(theme)
  return () => {
    let chosen: string | null = null
    try {
      chosen = localStorage.getItem(KEY)
    } catch {
      // As without a choice.
    }
    const isDark = matchMedia('(prefers-color-scheme: dark)').matches
    show(chosen === 'lantern' || (chosen !== 'chart' && isDark) ? 'lantern' : 'chart')
  }
}

export function useTheme(): Theme {
  return useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, readTheme)
}
