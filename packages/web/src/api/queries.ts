import {
  type AnswerSave,
  type AnswerSaved,
  type Attempt,
  type Bench,
  type ClassSheet,
  type CoursePeople,
  type Draft,
  type DraftSave,
  type DraftSaved,
  type ExerciseChange,
  type ExerciseDocument,
  type Handed,
  type HandIn,
  type Home,
  must,
  type NewCourse,
  type Override,
  type Person,
  type Publishing,
  type Registration,
  type Role,
  type Session,
  type Shelf,
  type SignIn,
  type Version,
} from '@nailset/core';
import { queryOptions, useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { pendingSaves } from '../shared/saving';
import { askAgain, askSession, isAway, isOffline, request } from './client';
import { letGo } from './page';

/** Every question to the server and every change, one hook each. */

/** Who is signed in. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  // Where someone else is signed in by now, the page stays with whom it was opened by.
  queryFn: async ({ client }) => (await askSession()) ?? must(client.getQueryData<Session>(['session'])),
  staleTime: 60_000,
});

export const useSession = () => useQuery(sessionQuery);

/** Who is signed in, in every view that only those see who are. */
export function usePerson(): Person {
  const { data } = useSession();
  return must(data?.person);
}

/** The courses of who is signed in. */
export const useMemberships = (): Session['memberships'] => useSession().data?.memberships ?? [];

/** Signing in or out changes everything that was asked before. */
export function useFresh() {
  const queries = useQueryClient();
  return () => {
    letGo();
    return queries.resetQueries();
  };
}

export function useSignIn() {
  const fresh = useFresh();
  return useMutation({ mutationFn: (body: SignIn) => request<Person>('POST', '/session', body), onSuccess: fresh });
}

export function useSignOut() {
  const fresh = useFresh();
  return useMutation({ mutationFn: () => request('DELETE', '/session'), onSuccess: fresh });
}

export function useRegister() {
  const fresh = useFresh();
  return useMutation({
    mutationFn: (body: Registration) => request<Person>('POST', '/people', body),
    onSuccess: fresh,
  });
}

export function useJoin() {
  const fresh = useFresh();
  return useMutation({
    mutationFn: (joinCode: string) => request<{ id: string }>('POST', '/memberships', { joinCode }),
    onSuccess: fresh,
  });
}

export function useNewCourse() {
  const fresh = useFresh();
  return useMutation({
    mutationFn: (body: NewCourse) => request<{ id: string }>('POST', '/courses', body),
    onSuccess: fresh,
  });
}

export const useShelf = (courseId: string) =>
  useQuery({
    queryKey: ['shelf', courseId],
    queryFn: async () => {
      await pendingSaves();
      return request<Shelf>('GET', `/courses/${courseId}/shelf`);
    },
  });

export const useHome = (courseId: string) =>
  useQuery({ queryKey: ['home', courseId], queryFn: () => request<Home>('GET', `/courses/${courseId}/home`) });

export const useCoursePeople = (courseId: string) =>
  useQuery({
    queryKey: ['people', courseId],
    queryFn: () => request<CoursePeople>('GET', `/courses/${courseId}/people`),
  });

export const useChangeRole = (courseId: string) =>
  useChange(
    ({ personId, role }: { personId: string; role: Role }) =>
      request('PUT', `/courses/${courseId}/people/${personId}/role`, { role }),
    ['people', courseId],
  );

export const useNewExercise = (courseId: string) =>
  useChange(
    (document: ExerciseDocument) => request<{ id: string }>('POST', `/courses/${courseId}/exercises`, document),
    ['shelf', courseId],
  );

/** The visit of the view that a page opens with. */
export const firstVisit = 1;
let visits = firstVisit - 1;

/** A number for each time that a view is opened: what it works on is asked for anew, however quickly one comes back. */
function useVisit(): number {
  const [visit] = useState(() => ++visits);
  return visit;
}

const draftOf = async (exerciseId: string): Promise<Draft> => {
  // What a page that was just left still saves belongs to the draft.
  await pendingSaves();
  return request<Draft>('GET', `/exercises/${exerciseId}/draft`);
};

/** The draft to work on. The builder works on its own copy; a reload behind its back would fight with it. */
export const draftQuery = (exerciseId: string, visit: number) =>
  queryOptions({
    queryKey: ['draft', exerciseId, visit],
    queryFn: () => draftOf(exerciseId),
    ...{ staleTime: Infinity, gcTime: 0 },
  });

export const useDraft = (exerciseId: string) => useQuery(draftQuery(exerciseId, useVisit()));

/** The draft as it stands, for a page that only shows it. */
export const draftShownQuery = (exerciseId: string, visit: number) =>
  queryOptions({
    queryKey: ['draft shown', exerciseId, visit],
    queryFn: () => draftOf(exerciseId),
    ...{ staleTime: Infinity, gcTime: 0 },
  });

export const useDraftShown = (exerciseId: string) => useQuery(draftShownQuery(exerciseId, useVisit()));

export const useSaveDraft = (exerciseId: string) =>
  useChange((body: DraftSave) => request<DraftSaved>('PUT', `/exercises/${exerciseId}/draft`, body), ['shelf']);

export const usePublish = (exerciseId: string) =>
  useChange(
    (body: { revision: number; newNumbers: boolean }) =>
      request<{ version: number }>('POST', `/exercises/${exerciseId}/versions`, body),
    ['shelf'],
    ['class', exerciseId],
  );

/** What publishing the saved draft would change, asked anew each time it is looked at. */
export const usePublishing = (exerciseId: string, revision: number | undefined) =>
  useQuery({
    queryKey: ['publishing', exerciseId, revision],
    queryFn: () => request<Publishing>('GET', `/exercises/${exerciseId}/publishing`),
    enabled: revision !== undefined,
    staleTime: 0,
  });

export const useChangeExercise = (exerciseId: string) =>
  useChange((body: ExerciseChange) => request('PATCH', `/exercises/${exerciseId}`, body), ['shelf']);

export const useVersions = (exerciseId: string) =>
  useQuery({
    queryKey: ['versions', exerciseId],
    queryFn: () => request<Version[]>('GET', `/exercises/${exerciseId}/versions`),
    staleTime: 0,
  });

/** The document of a version, when it is asked for. */
export const useVersion = (exerciseId: string) =>
  useMutation({
    mutationFn: (number: number) => request<ExerciseDocument>('GET', `/exercises/${exerciseId}/versions/${number}`),
  });

export const useCopy = (exerciseId: string) =>
  useChange(() => request<{ id: string }>('POST', `/exercises/${exerciseId}/copies`), ['shelf']);

export const benchQuery = (exerciseId: string, visit: number) =>
  queryOptions({
    queryKey: ['bench', exerciseId, visit],
    queryFn: async () => {
      await pendingSaves();
      return request<Bench>('GET', `/exercises/${exerciseId}/bench`);
    },
    ...{ staleTime: Infinity, gcTime: 0 },
  });

export const useBench = (exerciseId: string) => useQuery(benchQuery(exerciseId, useVisit()));

export const useSaveAnswer = (exerciseId: string) =>
  useChange(({ partId, whose, ...body }: AnswerSave & { partId: string; whose: string }) =>
    request<AnswerSaved>('PUT', `/exercises/${exerciseId}/answers/${partId}`, body, { whose }),
  );

/** Asks what is saved by now, whichever window saved it. */
export function useSavedAnswers(exerciseId: string) {
  return useCallback(async () => (await request<Bench>('GET', `/exercises/${exerciseId}/bench`)).saved, [exerciseId]);
}

export function useHandIn(exerciseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ whose, ...body }: HandIn & { whose: string }) =>
      request<Attempt>('POST', `/exercises/${exerciseId}/submissions`, body, { whose }),
    // With the same key, so it stays one try. Without a network the page says so at once.
    retry: (failures, error) => !isOffline(error) && askAgain.retry(failures, error),
    retryDelay: askAgain.retryDelay,
    onSuccess: (attempt) => {
      // It stands on the bench at once, and its verdict is waited for there.
      queries.setQueriesData<Bench>(
        { queryKey: ['bench', exerciseId] },
        (bench) => bench && withAttempt(bench, attempt),
      );
      if (attempt.checked) void queries.invalidateQueries({ queryKey: ['bench', exerciseId] });
      void queries.invalidateQueries({ queryKey: ['home'] });
    },
  });
}

/** The bench with an attempt as it is now, in the place of what was known of it. */
function withAttempt(bench: Bench, attempt: Attempt): Bench {
  const others = bench.handedIn.filter(({ id }) => id !== attempt.id);
  return others.length === bench.handedIn.length
    ? { ...bench, handedIn: [...others, attempt] }
    : { ...bench, handedIn: bench.handedIn.map((each) => (each.id === attempt.id ? attempt : each)) };
}

/** Waits for the verdicts of what is being checked; the server answers each question when there is one. */
export function useVerdicts({ exerciseId, handedIn }: Bench): void {
  const queries = useQueryClient();
  useQueries({
    queries: handedIn
      .filter(({ checked }) => !checked)
      // A browser keeps six connections, and each question holds one: the oldest and the newest leave room to save.
      .filter((_, k, waiting) => k === 0 || k === waiting.length - 1)
      .map(({ id }) => ({
        queryKey: ['attempt', id],
        queryFn: async () => {
          const attempt = await request<Attempt>('GET', `/exercises/${exerciseId}/attempts/${id}`);
          if (attempt.checked) {
            queries.setQueriesData<Bench>(
              { queryKey: ['bench', exerciseId] },
              (bench) => bench && withAttempt(bench, attempt),
            );
            // Solutions may be shown by now.
            void queries.invalidateQueries({ queryKey: ['bench', exerciseId] });
          }
          return attempt;
        },
        refetchInterval: ({ state }: { state: { data?: Attempt | undefined; error: Error | null } }) =>
          state.error || state.data?.checked ? false : 200,
        refetchIntervalInBackground: true,
        // While the server is away, for as long as that takes; a refusal is not asked about again.
        retry: (_: number, error: Error) => isAway(error),
        retryDelay: 2000,
        gcTime: 0,
      })),
  });
}

export const classQuery = (exerciseId: string) =>
  queryOptions({
    queryKey: ['class', exerciseId],
    queryFn: () => request<ClassSheet>('GET', `/exercises/${exerciseId}/class`),
  });

export const useClassSheet = (exerciseId: string) => useQuery({ ...classQuery(exerciseId), refetchInterval: 20_000 });

export const useHanded = (submissionId: string | undefined) =>
  useQuery({
    queryKey: ['handed', submissionId],
    queryFn: () => request<Handed>('GET', `/submissions/${submissionId}`),
    enabled: submissionId !== undefined,
    // Until it is checked.
    refetchInterval: ({ state }) => (state.data && !state.data.checked ? 1000 : false),
  });

/** Has an answer checked again, and looks again until that is done. */
export const useCheckAgain = (submissionId: string) =>
  useChange(() => request('POST', `/submissions/${submissionId}/checks`), ['handed', submissionId], ['class']);

export const useOverride = (submissionId: string) =>
  useChange(
    (body: Override) => request('POST', `/submissions/${submissionId}/overrides`, body),
    ['handed', submissionId],
    ['class'],
  );

/**
 * A change on the server. What it touches is asked for anew, at once where it is on the page, also if the view that
 * made the change was left meanwhile; and a view that comes later never shows what stood before.
 */
export function useChange<Out, In = void>(change: (body: In) => Promise<Out>, ...touched: (readonly string[])[]) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => touched.forEach((queryKey) => void queries.invalidateQueries({ queryKey })),
  });
}
