import type { PasswordByLink, PasswordChange, Person, ResetLink, SessionRow } from '@nailset/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { request } from './client';
import { useChange, useFresh } from './queries';

/** Passwords, and where one is signed in. */

const key = ['sessions'];

export const useSessions = () =>
  useQuery({ queryKey: key, queryFn: () => request<SessionRow[]>('GET', '/me/sessions'), staleTime: 0 });

/** Signs one browser out, or with no id every other one. */
export const useEndSessions = () =>
  useChange((id: string | undefined) => request('DELETE', id ? `/me/sessions/${id}` : '/me/sessions'), key);

export const useChangePassword = () => useChange((body: PasswordChange) => request('PUT', '/me/password', body), key);

export const useAskForLink = () =>
  useMutation({ mutationFn: (email: string) => request('POST', '/reset-links', { email }) });

export function usePasswordByLink() {
  const fresh = useFresh();
  return useMutation({
    mutationFn: (body: PasswordByLink) => request<Person>('PUT', '/password', body),
    onSuccess: fresh,
  });
}

export const useResetLink = (courseId: string) =>
  useMutation({
    mutationFn: (personId: string) => request<ResetLink>('POST', `/courses/${courseId}/people/${personId}/reset-link`),
  });

export function useDeleteAccount() {
  const fresh = useFresh();
  return useMutation({
    mutationFn: (password: string) => request('DELETE', '/me', { password }),
    onSuccess: fresh,
  });
}
