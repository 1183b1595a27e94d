import './styles.css';
import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { holdWhilePressed } from './frame/holdWhilePressed';
import { JobScreen } from './frame/JobScreen';
import { Rack } from './rack/Rack';

const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });

notifyManager.setScheduler(holdWhilePressed(window));

const router = createBrowserRouter([
  { path: '/', element: <Rack /> },
  { path: '/job/:id', element: <Navigate to="true" replace /> },
  { path: '/job/:id/:step', element: <JobScreen /> },
  { path: '*', element: <Navigate to="/" replace /> },
]);

const root = document.getElementById('root');
if (!root) throw new Error('index.html must have #root');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
