import { Suspense, lazy, useState } from 'react';
import { Navigate, Outlet, Route, RouterProvider, createBrowserRouter, createRoutesFromElements } from 'react-router';
import { useSession } from './api/queries';
import { CoursePage } from './course/CoursePage';
import { PeoplePage } from './course/PeoplePage';
import { Broken } from './shared/Broken';
import { OtherPerson } from './shared/OtherPerson';
import { Empty, ErrorNote, Loading } from './shared/states';
import { Header } from './shared/Header';
import { JoinPage } from './signIn/JoinPage';
import { SignInPage } from './signIn/SignInPage';

const BenchPage = lazy(() => import('./bench/BenchPage'));
const BuilderPage = lazy(() => import('./builder/BuilderPage'));
const LecternPage = lazy(() => import('./lectern/LecternPage'));
const AccountPage = lazy(() => import('./account/AccountPage'));
const ForgottenPage = lazy(() => import('./signIn/ForgottenPage'));
const NewPasswordPage = lazy(() => import('./signIn/NewPasswordPage'));
const ClassSheetPage = lazy(() => import('./classSheet/ClassSheetPage'));

/** Every address and its view. A view that breaks leaves the rest usable. */
const routes = createRoutesFromElements(
  <Route errorElement={<Broken />}>
    <Route path="/join" element={<JoinPage />} />
    <Route element={<Apart />}>
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

function Nowhere() {
  return (
    <>
      <Header />
      <main>
        <Empty title="There is no such page.">Follow the name at the top left to your course.</Empty>
      </main>
    </>
  );
}
