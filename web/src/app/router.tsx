import { createBrowserRouter } from 'react-router';
import { ErrorPage } from './ErrorPage.tsx';
import { FirstPage } from './FirstPage.tsx';
import { Shell } from './Shell.tsx';

/** Areas load when they are first opened. */
export const router = createBrowserRouter([
  {
    path: '/sign-in',
    lazy: async () => ({ Component: (await import('../features/session/SignInPage.tsx')).SignInPage }),
  },
  {
    path: '/',
    Component: Shell,
    ErrorBoundary: ErrorPage,
    children: [
      { index: true, Component: FirstPage },
      {
        path: 'today/week',
        lazy: async () => ({ Component: (await import('../features/today/CalendarPage.tsx')).WeekPage }),
      },
      {
        path: 'today/month',
        lazy: async () => ({ Component: (await import('../features/today/CalendarPage.tsx')).MonthPage }),
      },
      { path: 'today', lazy: async () => ({ Component: (await import('../features/today/TodayPage.tsx')).TodayPage }) },
      { path: 'deals', lazy: async () => ({ Component: (await import('../features/deals/DealsPage.tsx')).DealsPage }) },
      {
        path: 'deals/:deal',
        lazy: async () => ({ Component: (await import('../features/deals/DealPage.tsx')).DealPage }),
      },
      { path: 'bell', lazy: async () => ({ Component: (await import('../features/bell/BellPage.tsx')).BellPage }) },
      {
        path: 'processes',
        lazy: async () => ({ Component: (await import('../features/processes/ProcessesPage.tsx')).ProcessesPage }),
      },
      {
        path: 'processes/fields',
        lazy: async () => ({ Component: (await import('../features/fields/FieldsPage.tsx')).FieldsPage }),
      },
      {
        path: 'processes/calendars',
        lazy: async () => ({ Component: (await import('../features/calendars/CalendarsPage.tsx')).CalendarsPage }),
      },
      {
        path: 'processes/:process',
        lazy: async () => ({ Component: (await import('../features/processes/DesignPage.tsx')).DesignPage }),
      },
      {
        path: 'processes/:process/sheet',
        lazy: async () => ({
          Component: (await import('../features/processes/sheet/PrintedSheet.tsx')).PrintedSheetPage,
        }),
      },
      {
        path: 'processes/:process/versions',
        lazy: async () => ({
          Component: (await import('../features/processes/versions/VersionsPage.tsx')).VersionsPage,
        }),
      },
      {
        path: 'compliance',
        lazy: async () => ({ Component: (await import('../features/compliance/CompliancePage.tsx')).CompliancePage }),
      },
      {
        path: 'compliance/work',
        lazy: async () => ({ Component: (await import('../features/compliance/WorkPage.tsx')).WorkPage }),
      },
      {
        path: 'movement',
        lazy: async () => ({ Component: (await import('../features/movement/MovementPage.tsx')).MovementPage }),
      },
      {
        path: 'data',
        lazy: async () => ({ Component: (await import('../features/data/ImportsPage.tsx')).ImportsPage }),
      },
      {
        path: 'settings',
        lazy: async () => ({ Component: (await import('../features/settings/SettingsPage.tsx')).SettingsPage }),
      },
      { path: '*', Component: ErrorPage },
    ],
  },
]);
