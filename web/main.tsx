import './parsing.ts'
import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { queryClient } from './app/queries.ts'
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
