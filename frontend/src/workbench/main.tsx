import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { ApiError } from '../api/client'
import '../parts/styles.css'
import { Workbench } from './Workbench'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 10 && error instanceof ApiError && error.retryAfterMs !== null,
      retryDelay: (_, error) => (error instanceof ApiError ? (error.retryAfterMs ?? 0) : 0),
    },
  },
})

// What was pressed is seen at once: told in a later task, a box would first jump back to what it was.
notifyManager.setScheduler(queueMicrotask)

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Workbench />
    </QueryClientProvider>
  </StrictMode>,
)
