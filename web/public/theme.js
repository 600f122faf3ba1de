// Before the first paint: the remembered theme, or the system's.
;(() => {
  let theme = null
  try {
    theme = localStorage.getItem('conch:theme')
  } catch {}
  const isDark = theme ? theme === 'lantern' : matchMedia('(prefers-color-scheme: dark)').matches
  document.documentElement.dataset.theme = isDark ? 'lantern' : 'chart'
})()
