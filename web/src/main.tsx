import 'reflect-metadata';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { anticipate } from './api/anticipate.ts';
import { ApiProblem } from './api/client.ts';
import { router } from './app.tsx';
import { showTheme, themeChosen } from './parts/theme.ts';
import './theme.css';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (times, error) => !(error instanceof ApiProblem && error.status >= 400 && error.status < 500) && times < 2,
      refetchOnWindowFocus: true,
    },
  },
});

anticipate(client, window.location.pathname);
showTheme(themeChosen());
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
