import './styles.css';
import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Rack } from './rack/Rack';
import { LITTLE, roomFor } from './session/storage';
import { RouteFault } from './step/FaultPage';
import { holdWhilePressed } from './step/holdWhilePressed';

const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });

notifyManager.setScheduler(holdWhilePressed(window));

/** What a job is worked on with, half as much code again as the rack's: it comes while that is looked at, or with a job. */
const jobScreen = () => import('./steps/JobScreen');
if (window.location.pathname === '/') window.addEventListener('load', () => setTimeout(jobScreen, 300));

const router = createBrowserRouter([
  { path: '/', element: <Rack />, errorElement: <RouteFault /> },
  { path: '/job/:id', element: <Navigate to="true" replace />, errorElement: <RouteFault /> },
  {
    path: '/job/:id/:step',
    lazy: async () => ({ Component: (await jobScreen()).JobScreen }),
    HydrateFallback: () => <main className="p-12 text-ink2">Opening the job …</main>,
    errorElement: <RouteFault />,
  },
  { path: '*', element: <Navigate to="/" replace />, errorElement: <RouteFault /> },
]);

const root = document.getElementById('root');
if (!root) throw new Error('index.html must have #root');
// Opening the database writes as well: on a full disk the reserve is given up for that, before anything is read.
void roomFor(LITTLE).then(() =>
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  ),
);
