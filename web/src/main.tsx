import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/hanken-grotesk'
import '@mantine/core/styles.css'
import '@mantine/notifications/styles.css'
import './theme/tokens.css'
import { MantineProvider } from '@mantine/core'
import { Notifications } from '@mantine/notifications'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { RouterProvider } from '@tanstack/react-router'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { passes, Problem } from './api/client'
import { startRouter } from './router'
import { cssVariables, theme } from './theme/theme'

const queries = new QueryClient({
  defaultOptions: {
    // Cursus may well answer where the browser holds the machine to be offline: on the machine itself, or in a house without a line out.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      refetchOnReconnect: true,
      staleTime: 20_000,
      // What the server refuses once it refuses again; but a connection comes back, and so does the database, and a queue moves on.
      retry: (failures, error) => failures < 3 && (!(error instanceof Problem) || passes(error)),
    },
  },
})

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} cssVariablesResolver={cssVariables} defaultColorScheme="auto">
      <QueryClientProvider client={queries}>
        <RouterProvider router={startRouter(queries)} />
        <Notifications position="bottom-center" />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
)
