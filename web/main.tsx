import './parsing.ts'
import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { queryClient } from './app/queries.ts'
import { setSaidHere } from './app/saidHere.ts'
import { App } from './app.tsx'
import './theme/theme.css'

const root = document.getElementById('root')
if (!root) throw new Error('bug: no #root in the page')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
)

// Beside the first page: what makes this device able to stand alone.
import('./alone/stayReady.ts').then(
  ({ stayReady }) => stayReady(),
  () => setSaidHere(async (tonight) => tonight),
)
// Where it fails the page works as before: there is no secure address, or the browser knows no such thing.
window.addEventListener('load', () => void import('./alone/appShell.ts').then((m) => m.keepShell()).catch(() => {}))
