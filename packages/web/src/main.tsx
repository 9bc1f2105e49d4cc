import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { Problem } from './live/api.ts';
import { NoticesProvider } from './live/notices.tsx';
import { router } from './router.tsx';
import { readTheme, setTheme } from './shell/theme.ts';
import './styles.css';

setTheme(readTheme());

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // a server or database that is away is asked again until it is back; a refusal is an answer
      retry: (failures, error) =>
        error instanceof Problem && ['SERVER_AWAY', 'DATABASE_AWAY'].includes(error.code) && failures < 3,
      retryDelay: 700,
      refetchOnWindowFocus: false,
    },
  },
});

const root = document.getElementById('root');
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <NoticesProvider>
          <RouterProvider router={router} />
        </NoticesProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
