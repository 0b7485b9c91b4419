import type { QueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import { createBrowserRouter, createRoutesFromElements, Navigate, Outlet, Route, RouterProvider } from 'react-router';
import { askEarly } from './api/early';
import { usePageOwner } from './api/page';
import {
  benchQuery,
  classQuery,
  draftQuery,
  draftShownQuery,
  firstVisit,
  useMemberships,
  useSession,
} from './api/queries';
import { Broken } from './page/Broken';
import { ErrorNote, Loading } from './page/states';
import { later } from './shared/later';
import { SignInPage } from './signIn/SignInPage';

// Who is not signed in loads the sign-in and no more.
const CoursePage = lazy(async () => ({ default: (await import('./course/CoursePage')).CoursePage }));
const PeoplePage = lazy(async () => ({ default: (await import('./people/PeoplePage')).PeoplePage }));
const JoinPage = lazy(async () => ({ default: (await import('./signIn/JoinPage')).JoinPage }));
const Nowhere = lazy(async () => ({ default: (await import('./course/Nowhere')).Nowhere }));
const OtherPerson = lazy(async () => ({ default: (await import('./page/OtherPerson')).OtherPerson }));
const [BenchPage, benchPage] = later(() => import('./bench/BenchPage'));
const [BuilderPage, builderPage] = later(() => import('./builder/BuilderPage'));
const [ClassSheetPage, classSheetPage] = later(() => import('./classSheet/ClassSheetPage'));
const [OpenPage, openBench] = later(() => import('./open/OpenPage'));
const [LecternPage, lecternPage] = later(() => import('./lectern/LecternPage'));
const MarksPage = lazy(async () => ({ default: (await import('./marks/MarksPage')).MarksPage }));
const TermPage = lazy(async () => ({ default: (await import('./marks/TermPage')).TermPage }));
const LogPage = lazy(async () => ({ default: (await import('./course/LogPage')).LogPage }));
const AnswersPage = lazy(async () => ({ default: (await import('./classSheet/AnswersPage')).AnswersPage }));
const EnteredPage = lazy(async () => ({ default: (await import('./paper/EnteredPage')).EnteredPage }));
const PrintPage = lazy(() => import('./paper/PrintPage'));
const CheckAgainPage = lazy(async () => ({ default: (await import('./corrections/CheckAgainPage')).CheckAgainPage }));
// With the bench, of which it is made: a file of its own would take more than it is.
const PracticePage = lazy(async () => ({ default: (await import('./bench/BenchPage')).PracticePage }));
const AccountPage = lazy(() => import('./account/AccountPage'));
const ForgottenPage = lazy(() => import('./signIn/ForgottenPage'));
const NewPasswordPage = lazy(() => import('./signIn/NewPasswordPage'));

/** The large views: their script, and what they ask the server. */
const large: Readonly<
  Record<string, { load: () => Promise<unknown>; ask: (queries: QueryClient, id: string) => Promise<void> }>
> = {
  '': { load: benchPage, ask: askBench },
  build: { load: builderPage, ask: (queries, id) => askEarly(queries, draftQuery(id, firstVisit)) },
  class: { load: classSheetPage, ask: (queries, id) => askEarly(queries, classQuery(id)) },
  lectern: { load: lecternPage, ask: (queries, id) => askEarly(queries, draftShownQuery(id, firstVisit)) },
};

/** The bench, and then what its open part is drawn with. */
async function askBench(queries: QueryClient, id: string): Promise<void> {
  const question = benchQuery(id, firstVisit);
  await askEarly(queries, question);
  const parts = queries.getQueryData(question.queryKey)?.parts;
  if (!parts) return;
  const { bringBench } = await import('./bench/BenchPage');
  await bringBench(parts, new URLSearchParams(location.search).get('part'));
}

/** In ms. Where something takes longer, views say what they wait for. */
const longestWait = 5_000;

/**
 * Gets everything that the view at this address needs, side by side, before anything is shown: on a slow machine one
 * picture takes less time than three. What does not come is told by the view itself.
 */
export async function opened(queries: QueryClient): Promise<void> {
  const [, id = '', tail = ''] = /^\/exercises\/([^/]+)(?:\/(\w+))?$/.exec(location.pathname) ?? [];
  const page = id ? large[tail] : undefined;
  const load = location.pathname === '/open' ? openBench : page?.load;
  const all = Promise.allSettled([load?.(), page ? page.ask(queries, id) : askEarly(queries, undefined)]);
  await Promise.race([all, new Promise((resolve) => setTimeout(resolve, longestWait))]);
}

/** Every address and its view. A view that breaks leaves the rest usable. */
const routes = createRoutesFromElements(
  <Route errorElement={<Broken />}>
    <Route element={<Apart />}>
      <Route path="/join" element={<JoinPage />} />
      <Route path="/open" element={<OpenPage />} />
      <Route path="/forgotten" element={<ForgottenPage />} />
      <Route path="/new-password" element={<NewPasswordPage />} />
    </Route>
    <Route element={<SignedIn />}>
      <Route errorElement={<Broken />}>
        <Route index element={<Start />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/courses/:courseId" element={<CoursePage />} />
        <Route path="/courses/:courseId/people" element={<PeoplePage />} />
        <Route path="/courses/:courseId/marks" element={<MarksPage />} />
        <Route path="/courses/:courseId/term" element={<TermPage />} />
        <Route path="/courses/:courseId/log" element={<LogPage />} />
        <Route path="/courses/:courseId/print" element={<PrintPage />} />
        <Route path="/exercises/:exerciseId/answers/:partId" element={<AnswersPage />} />
        <Route path="/exercises/:exerciseId/again" element={<CheckAgainPage />} />
        <Route path="/exercises/:exerciseId/entered" element={<EnteredPage />} />
        <Route path="/exercises/:exerciseId/print" element={<PrintPage />} />
        <Route path="/exercises/:exerciseId" element={<BenchPage />} />
        <Route path="/exercises/:exerciseId/practice/:partId" element={<PracticePage />} />
        <Route path="/exercises/:exerciseId/build" element={<BuilderPage />} />
        <Route path="/exercises/:exerciseId/class" element={<ClassSheetPage />} />
        <Route path="/exercises/:exerciseId/lectern" element={<LecternPage />} />
        <Route path="*" element={<Nowhere />} />
      </Route>
    </Route>
  </Route>,
);

export function App() {
  const [router] = useState(() => createBrowserRouter(routes));
  return <RouterProvider router={router} />;
}

/** Views for who is not signed in, which most people never open. */
function Apart() {
  return (
    <Suspense fallback={<Loading what="Opening" />}>
      <Outlet />
    </Suspense>
  );
}

/** Asks for the sign-in where someone is not, and then shows the view that was asked for. */
function SignedIn() {
  const session = useSession();
  const { other } = usePageOwner();
  if (session.isPending) return <Loading what="Opening Nailset" />;
  if (!session.data) return <ErrorNote error={session.error} retry={() => void session.refetch()} />;
  if (!session.data.person) return <SignInPage session={session.data} />;
  return (
    <Suspense fallback={<Loading what="Opening" />}>
      <Outlet />
      {other && <OtherPerson />}
    </Suspense>
  );
}

/** The first course, or a way to get into one. */
function Start() {
  const [first] = useMemberships();
  return <Navigate replace to={first ? `/courses/${first.courseId}` : '/join'} />;
}
