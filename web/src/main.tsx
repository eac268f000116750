import '@fontsource-variable/source-sans-3';
import '@fontsource-variable/source-serif-4';
import '@mantine/core/styles.css';
import '@mantine/dates/styles.css';
import '@mantine/notifications/styles.css';
import '@mantine/spotlight/styles.css';
import './app/tokens.css';
import './app/app.css';
// Rooms come when they are opened, their looks at once and in this order, since they have some in common.
import './compare/compare.css';
import './library/library.css';
import './plan/plan.css';
import './plan/tasks/tasks.css';
import './projects/projects.css';
import './report/report.css';
import './update/update.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { lazy } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, matchPath, Navigate, RouterProvider } from 'react-router';
import { ErrorPage } from './app/ErrorPage';
import { rooms } from './app/rooms';
import { Shell } from './app/Shell';
import { store } from './app/store';
import { theme } from './app/theme';

const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <ErrorPage />,
    children: [
      { index: true, element: <Navigate to="/projects" replace /> },
      ...rooms.map((r) => {
        const Page = lazy(r.load);
        return { path: r.route, element: <Page /> };
      }),
      { path: '*', element: <ErrorPage /> },
    ],
  },
]);

// The room of the address is fetched while its project is.
void rooms.find((r) => matchPath(`/${r.route}`, location.pathname))?.load();

createRoot(document.getElementById('root') as HTMLElement).render(
  <Provider store={store}>
    <MantineProvider theme={theme} defaultColorScheme="light">
      <Notifications position="bottom-right" limit={4} zIndex={400} />
      <RouterProvider router={router} />
    </MantineProvider>
  </Provider>,
);
