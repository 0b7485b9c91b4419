import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  AnswerSave,
  AnswerSaved,
  Attempt,
  Bench,
  ClassSheet,
  CoursePeople,
  Draft,
  DraftSave,
  DraftSaved,
  ExerciseChange,
  ExerciseDocument,
  HandIn,
  Handed,
  Home,
  NewCourse,
  Override,
  Person,
  Registration,
  Role,
  Session,
  Shelf,
  SignIn,
  Version,
} from '@nailset/core';
import { rememberToken, request } from './client';

/** Every question to the server and every change, one hook each. */

export function useSession() {
  return useQuery({
    queryKey: ['session'],
    queryFn: async () => {
      const session = await request<Session>('GET', '/session');
      rememberToken(session.csrfToken);
      return session;
    },
    staleTime: 60_000,
  });
}

/** Signing in or out changes everything that was asked before. */
function useFresh() {
  const queries = useQueryClient();
  return () => queries.resetQueries();
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
  useQuery({ queryKey: ['shelf', courseId], queryFn: () => request<Shelf>('GET', `/courses/${courseId}/shelf`) });

export const useHome = (courseId: string) =>
  useQuery({ queryKey: ['home', courseId], queryFn: () => request<Home>('GET', `/courses/${courseId}/home`) });

export const useCoursePeople = (courseId: string) =>
  useQuery({
    queryKey: ['people', courseId],
    queryFn: () => request<CoursePeople>('GET', `/courses/${courseId}/people`),
  });

export function useChangeRole(courseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ personId, role }: { personId: string; role: Role }) =>
      request('PUT', `/courses/${courseId}/people/${personId}/role`, { role }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['people', courseId] }),
  });
}

export function useNewExercise(courseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (document: ExerciseDocument) =>
      request<{ id: string }>('POST', `/courses/${courseId}/exercises`, document),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['shelf', courseId], refetchType: 'none' }),
  });
}

export const useDraft = (exerciseId: string) =>
  useQuery({
    queryKey: ['draft', exerciseId],
    queryFn: () => request<Draft>('GET', `/exercises/${exerciseId}/draft`),
    // The builder works on its own copy; a reload behind its back would fight with it.
    staleTime: Infinity,
    gcTime: 0,
  });

export const useSaveDraft = (exerciseId: string) =>
  useMutation({ mutationFn: (body: DraftSave) => request<DraftSaved>('PUT', `/exercises/${exerciseId}/draft`, body) });

export const usePublish = (exerciseId: string) =>
  useMutation({
    mutationFn: (revision: number) =>
      request<{ version: number }>('POST', `/exercises/${exerciseId}/versions`, { revision }),
  });

export function useChangeExercise(exerciseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: ExerciseChange) => request('PATCH', `/exercises/${exerciseId}`, body),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['shelf'] }),
  });
}

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

export function useCopy(exerciseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => request<{ id: string }>('POST', `/exercises/${exerciseId}/copies`),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['shelf'] }),
  });
}

export const useBench = (exerciseId: string) =>
  useQuery({
    queryKey: ['bench', exerciseId],
    queryFn: () => request<Bench>('GET', `/exercises/${exerciseId}/bench`),
    staleTime: Infinity,
    gcTime: 0,
  });

export const useSaveAnswer = (exerciseId: string) =>
  useMutation({
    mutationFn: ({ partId, ...body }: AnswerSave & { partId: string }) =>
      request<AnswerSaved>('PUT', `/exercises/${exerciseId}/answers/${partId}`, body),
  });

export function useHandIn(exerciseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: HandIn) => request<Attempt>('POST', `/exercises/${exerciseId}/submissions`, body),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['bench', exerciseId] }),
  });
}

export const useClassSheet = (exerciseId: string) =>
  useQuery({
    queryKey: ['class', exerciseId],
    queryFn: () => request<ClassSheet>('GET', `/exercises/${exerciseId}/class`),
    refetchInterval: 20_000,
  });

export const useHanded = (submissionId: string | undefined) =>
  useQuery({
    queryKey: ['handed', submissionId],
    queryFn: () => request<Handed>('GET', `/submissions/${submissionId}`),
    enabled: submissionId !== undefined,
  });

export function useOverride(submissionId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Override) => request('POST', `/submissions/${submissionId}/overrides`, body),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['handed', submissionId] }),
        queries.invalidateQueries({ queryKey: ['class'] }),
      ]),
  });
}
