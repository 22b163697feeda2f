import { createBrowserRouter, type RouteObject } from 'react-router';
import { Loading } from '../parts/Loading.tsx';
import { CrashPage } from './CrashPage.tsx';
import { NotFound } from './NotFound.tsx';
import { Shell } from './shell/Shell.tsx';

const pages: RouteObject[] = [
  {
    path: 'brief',
    lazy: async () => ({ Component: (await import('../pages/brief/BriefPage.tsx')).BriefPage }),
  },
  { path: 'pick', lazy: async () => ({ Component: (await import('../pages/pick/PickPage.tsx')).PickPage }) },
  {
    path: 'hook-up',
    lazy: async () => ({ Component: (await import('../pages/hookup/HookupPage.tsx')).HookupPage }),
  },
  { path: 'link', lazy: async () => ({ Component: (await import('../pages/link/LinkPage.tsx')).LinkPage }) },
  { path: 'line', lazy: async () => ({ Component: (await import('../pages/line/LinePage.tsx')).LinePage }) },
  {
    path: 'true-up',
    lazy: async () => ({ Component: (await import('../pages/trueup/TrueUpPage.tsx')).TrueUpPage }),
  },
  {
    path: 'prove',
    lazy: async () => ({ Component: (await import('../pages/prove/ProvePage.tsx')).ProvePage }),
  },
  {
    path: 'prove/:studyId',
    lazy: async () => ({ Component: (await import('../pages/prove/studies/StudyPage.tsx')).StudyPage }),
  },
  { path: 'runs', lazy: async () => ({ Component: (await import('../pages/runs/RunsPage.tsx')).RunsPage }) },
  { path: 'face', lazy: async () => ({ Component: (await import('../pages/face/FacePage.tsx')).FacePage }) },
  {
    path: 'logbook',
    lazy: async () => ({ Component: (await import('../pages/logbook/LogbookPage.tsx')).LogbookPage }),
  },
];

const routes: RouteObject[] = [
  {
    Component: Shell,
    ErrorBoundary: CrashPage,
    HydrateFallback: () => <Loading what="Lucky Needle" />,
    children: [
      {
        index: true,
        lazy: async () => ({ Component: (await import('../pages/workshop/WorkshopPage.tsx')).WorkshopPage }),
      },
      {
        path: 'shelf',
        lazy: async () => ({ Component: (await import('../pages/shelf/ShelfPage.tsx')).ShelfPage }),
      },
      {
        path: 'shelf/references',
        lazy: async () => ({
          Component: (await import('../pages/shelf/ReferencesPage.tsx')).ReferencesPage,
        }),
      },
      {
        path: 'help',
        lazy: async () => ({ Component: (await import('../pages/help/HelpPage.tsx')).HelpPage }),
      },
      {
        path: 'wall',
        lazy: async () => ({ Component: (await import('../pages/wall/WallPage.tsx')).WallPage }),
      },
      {
        path: 'g/:gadgetId',
        lazy: async () => ({ Component: (await import('./shell/GadgetShell.tsx')).GadgetShell }),
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await import('../pages/brief/BriefPage.tsx')).BriefPage }),
          },
          ...pages,
          { path: '*', Component: NotFound },
        ],
      },
      { path: '*', Component: NotFound },
    ],
  },
];

export const router = createBrowserRouter(routes);
