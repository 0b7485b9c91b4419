import { Suspense, lazy, useState } from 'react';
import { Navigate, Outlet, Route, RouterProvider, createBrowserRouter, createRoutesFromElements } from 'react-router';
import { useSession } from './api/queries';
import { Broken } from './shared/Broken';
import { ErrorNote, Loading } from './shared/states';
import { SignInPage } from './signIn/SignInPage';

// Who is not signed in loads the sign-in and no more.
const CoursePage = lazy(async () => ({ default: (await import('./course/CoursePage')).CoursePage }));
const PeoplePage = lazy(async () => ({ default: (await import('./course/PeoplePage')).PeoplePage }));
const JoinPage = lazy(async () => ({ default: (await import('./signIn/JoinPage')).JoinPage }));
const Nowhere = lazy(async () => ({ default: (await import('./course/Nowhere')).Nowhere }));
const OtherPerson = lazy(async () => ({ default: (await import('./shared/OtherPerson')).OtherPerson }));
const benchPage = () => import('./bench/BenchPage');
const builderPage = () => import('./builder/BuilderPage');
const classSheetPage = () => import('./classSheet/ClassSheetPage');
const lecternPage = () => import('./lectern/LecternPage');
const BenchPage = lazy(benchPage);
const BuilderPage = lazy(builderPage);
const ClassSheetPage = lazy(classSheetPage);
const LecternPage = lazy(lecternPage);
const AccountPage = lazy(() => import('./account/AccountPage'));
const ForgottenPage = lazy(() => import('./signIn/ForgottenPage'));
const NewPasswordPage = lazy(() => import('./signIn/NewPasswordPage'));

/** The large views begin to load while it is still asked who is signed in. */
const large: Readonly<Record<string, () => Promise<unknown>>> = {
  '': benchPage,
  build: builderPage,
  class: classSheetPage,
  lectern: lecternPage,
};
const exercise = /^\/exercises\/[^/]+(?:\/(\w+))?$/.exec(location.pathname);
if (exercise) void large[exercise[1] ?? '']?.().catch(() => undefined);

/** Every address and its view. A view that breaks leaves the rest usable. */
const routes = createRoutesFromElements(
  <Route errorElement={<Broken />}>
    <Route element={<Apart />}>
      <Route path="/join" element={<JoinPage />} />
      <Route path="/forgotten" element={<ForgottenPage />} />
      <Route path="/new-password" element={<NewPasswordPage />} />
    </Route>
    <Route element={<SignedIn />}>
      <Route errorElement={<Broken />}>
        <Route index element={<Start />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/courses/:courseId" element={<CoursePage />} />
        <Route path="/courses/:courseId/people" element={<PeoplePage />} />
        <Route path="/exercises/:exerciseId" element={<BenchPage />} />
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
  if (session.isPending) return <Loading what="Opening Nailset" />;
  if (!session.data) return <ErrorNote error={session.error} retry={() => void session.refetch()} />;
  if (!session.data.person) return <SignInPage session={session.data} />;
  return (
    <Suspense fallback={<Loading what="Opening" />}>
      <Outlet />
      <OtherPerson />
    </Suspense>
  );
}

/** The first course, or a way to get into one. */
function Start() {
  const [first] = useSession().data!.memberships;
  return <Navigate replace to={first ? `/courses/${first.courseId}` : '/join'} />;
}
