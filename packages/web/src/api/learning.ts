import type { Bench, HintAsked, HintsTold, Practice, PracticeAnswer, PracticeResult, Working } from '@nailset/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { request } from './client';

/** What helps a student on: hints, workings, practice. */

export function useTakeHint(exerciseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: HintAsked) => request<HintsTold>('POST', `/exercises/${exerciseId}/hints`, body),
    onSuccess: (told) =>
      queries.setQueriesData<Bench>(
        { queryKey: ['bench', exerciseId] },
        (bench) => bench && { ...bench, hints: [...bench.hints.filter(({ partId }) => partId !== told.partId), told] },
      ),
  });
}

export const useWorking = (exerciseId: string, partId: string, wanted: boolean) =>
  useQuery({
    queryKey: ['working', exerciseId, partId],
    queryFn: () => request<Working>('GET', `/exercises/${exerciseId}/parts/${encodeURIComponent(partId)}/working`),
    enabled: wanted,
    staleTime: 300_000,
  });

export const usePractice = (exerciseId: string) =>
  useMutation({
    mutationFn: (partId: string) => request<Practice>('POST', `/exercises/${exerciseId}/practice`, { partId }),
  });

export const useCheckPractice = (exerciseId: string) =>
  useMutation({
    mutationFn: (body: PracticeAnswer) =>
      request<PracticeResult>('POST', `/exercises/${exerciseId}/practice/checks`, body),
  });
