import './styles.css';
import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Rack } from './rack/Rack';
import { RouteFault } from './step/FaultPage';
import { holdWhilePressed } from './step/holdWhilePressed';
import { JobScreen } from './step/JobScreen';

const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });

notifyManager.setScheduler(holdWhilePressed(window));

const router = createBrowserRouter([
  { path: '/', element: <Rack />, errorElement: <RouteFault /> },
  { path: '/job/:id', element: <Navigate to="true" replace />, errorElement: <RouteFault /> },
  { path: '/job/:id/:step', element: <JobScreen />, errorElement: <RouteFault /> },
  { path: '*', element: <Navigate to="/" replace />, errorElement: <RouteFault /> },
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
