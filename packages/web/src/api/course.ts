import type {
  ApplyCorrection,
  Correction,
  CorrectionPreview,
  CourseChange,
  CourseCopy,
  EnteredAnswers,
  EnteredPlan,
  Excuse,
  ExerciseDates,
  ExportFile,
  ExportKind,
  ExportRow,
  Links,
  LogRow,
  ManyPoints,
  Marking,
  Marks,
  MemberChange,
  NewCorrection,
  NewExtension,
  Paper,
  PartAnswers,
  RosterPlan,
  RosterUpload,
  TermOverview,
} from '@nailset/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { request } from './client';
import { useChange } from './queries';

/** A course: its people, dates, corrections, marks and paper. */

const ask = <T>(address: string) => request<T>('GET', address);

/* People */

/** What a list would change; asked with the text, so it is no query. */
export const usePlanRoster = (courseId: string) =>
  useMutation({
    mutationFn: (files: RosterUpload['files']) =>
      request<RosterPlan>('POST', `/courses/${courseId}/people/lists`, { files, apply: false }),
  });

export const useTakeRoster = (courseId: string) =>
  useChange(
    (files: RosterUpload['files']) =>
      request<RosterPlan>('POST', `/courses/${courseId}/people/lists`, { files, apply: true }),
    ['people', courseId],
    ['shelf'],
    ['class'],
    ['marks'],
  );

export const useLinks = (courseId: string) =>
  useMutation({
    mutationFn: (mail: boolean) => request<Links>('POST', `/courses/${courseId}/people/links`, { mail }),
  });

export const useChangeMember = (courseId: string) =>
  useChange(
    ({ personId, ...change }: MemberChange & { personId: string }) =>
      request('PATCH', `/courses/${courseId}/people/${personId}`, change),
    ['people', courseId],
    ['class'],
    ['marks'],
  );

export const useLeave = (courseId: string) =>
  useChange(() => request('DELETE', `/courses/${courseId}/membership`), ['session']);

/* Dates */

export const useDates = (exerciseId: string, isAsked = true) =>
  useQuery({
    queryKey: ['dates', exerciseId],
    queryFn: () => ask<ExerciseDates>(`/exercises/${exerciseId}/dates`),
    enabled: isAsked,
    staleTime: 0,
  });

export const useExtend = (exerciseId: string) =>
  useChange(
    (body: NewExtension) => request('POST', `/exercises/${exerciseId}/extensions`, body),
    ['dates', exerciseId],
    ['shelf'],
    ['class'],
    ['marks'],
  );

export const useEndExtension = (exerciseId: string) =>
  useChange(
    (id: string) => request('DELETE', `/exercises/${exerciseId}/extensions/${id}`),
    ['dates', exerciseId],
    ['shelf'],
    ['class'],
    ['marks'],
  );

/* Answers of a class */

export const usePartAnswers = (exerciseId: string, partId: string) =>
  useQuery({
    queryKey: ['class', exerciseId, 'part', partId],
    queryFn: () => ask<PartAnswers>(`/exercises/${exerciseId}/parts/${partId}/answers`),
  });

export const useManyPoints = (exerciseId: string) =>
  useChange(
    (body: ManyPoints) => request('POST', `/exercises/${exerciseId}/points`, body),
    ['class'],
    ['handed'],
    ['marks'],
    ['shelf'],
  );

export const useComment = (submissionId: string) =>
  useChange(
    (text: string) => request('POST', `/submissions/${submissionId}/comments`, { text }),
    ['handed', submissionId],
  );

export const useLooked = (submissionId: string) =>
  useChange(
    () => request('POST', `/submissions/${submissionId}/looks`),
    ['handed', submissionId],
    ['class'],
    ['shelf'],
  );

export const useEntered = (exerciseId: string) =>
  useChange(
    (body: EnteredAnswers) => request<EnteredPlan>('POST', `/exercises/${exerciseId}/entered`, body),
    ['class'],
    ['marks'],
    ['shelf'],
  );

/* Corrections */

export const useCorrections = (exerciseId: string) =>
  useQuery({
    queryKey: ['corrections', exerciseId],
    queryFn: () => ask<Correction[]>(`/exercises/${exerciseId}/corrections`),
    staleTime: 0,
    refetchInterval: ({ state }) => (state.data?.some((each) => each.state === 'checking') ? 1500 : false),
  });

export const useBeginCorrection = (exerciseId: string) =>
  useChange(
    (body: NewCorrection) => request<{ id: string }>('POST', `/exercises/${exerciseId}/corrections`, body),
    ['corrections', exerciseId],
  );

/** What checking again has found by now; asked again until it is done. */
export const useCorrection = (exerciseId: string, id: string) =>
  useQuery({
    queryKey: ['corrections', exerciseId, id],
    queryFn: () => ask<CorrectionPreview>(`/exercises/${exerciseId}/corrections/${id}`),
    staleTime: 0,
    refetchInterval: ({ state }) => (state.data?.state === 'checking' ? 700 : false),
  });

export const useApplyCorrection = (exerciseId: string, id: string) =>
  useChange(
    (body: ApplyCorrection) =>
      request<{ changed: number }>('POST', `/exercises/${exerciseId}/corrections/${id}/application`, body),
    ['corrections', exerciseId],
    ['class'],
    ['handed'],
    ['marks'],
  );

export const useCancelCorrection = (exerciseId: string, id: string) =>
  useChange(() => request('DELETE', `/exercises/${exerciseId}/corrections/${id}`), ['corrections', exerciseId]);

/* Marks */

export const useMarks = (courseId: string) =>
  useQuery({ queryKey: ['marks', courseId], queryFn: () => ask<Marks>(`/courses/${courseId}/marks`), staleTime: 0 });

export const useMyMarks = (courseId: string) =>
  useQuery({
    queryKey: ['marks', courseId, 'mine'],
    queryFn: () => ask<Marks>(`/courses/${courseId}/marks/mine`),
    staleTime: 0,
  });

export const useSetMarking = (courseId: string) =>
  useChange((body: Marking) => request('PUT', `/courses/${courseId}/marking`, body), ['marks', courseId]);

export const useExcuse = (courseId: string) =>
  useChange(
    ({ exerciseId, personId, ...body }: Excuse & { exerciseId: string; personId: string }) =>
      request('PUT', `/exercises/${exerciseId}/excused/${personId}`, body),
    ['marks', courseId],
  );

export const useExports = (courseId: string) =>
  useQuery({
    queryKey: ['exports', courseId],
    queryFn: () => ask<ExportRow[]>(`/courses/${courseId}/exports`),
    staleTime: 0,
  });

export const useExport = (courseId: string) =>
  useChange(
    (kind: ExportKind) => request<ExportFile>('POST', `/courses/${courseId}/exports`, { kind }),
    ['exports', courseId],
    ['log', courseId],
  );

export const useExportAgain = (courseId: string) =>
  useMutation({ mutationFn: (id: string) => ask<ExportFile>(`/courses/${courseId}/exports/${id}`) });

export const useOverview = (courseId: string) =>
  useQuery({
    queryKey: ['overview', courseId],
    queryFn: () => ask<TermOverview>(`/courses/${courseId}/overview`),
    staleTime: 0,
  });

/* The course itself */

export const useLog = (courseId: string) =>
  useQuery({ queryKey: ['log', courseId], queryFn: () => ask<LogRow[]>(`/courses/${courseId}/log`), staleTime: 0 });

export const useCopyCourse = (courseId: string) =>
  useChange((body: CourseCopy) => request<{ id: string }>('POST', `/courses/${courseId}/copies`, body), ['session']);

export const useChangeCourse = (courseId: string) =>
  useChange(
    (body: CourseChange) => request('PATCH', `/courses/${courseId}`, body),
    ['session'],
    ['people', courseId],
    ['shelf'],
    ['marks', courseId],
    ['log', courseId],
  );

/* Paper */

/** Every sheet of a print, asked for in several. */
export const usePaper = (exerciseId: string, { each, working }: { each: boolean; working: boolean }) =>
  useQuery({
    queryKey: ['paper', exerciseId, each, working],
    queryFn: async () => {
      const page = (from: number) =>
        ask<Paper>(`/exercises/${exerciseId}/paper?each=${each ? 1 : 0}&working=${working ? 1 : 0}&from=${from}`);
      let paper = await page(0);
      while (each && paper.sheets.length < paper.students) {
        const next = await page(paper.sheets.length);
        if (next.sheets.length === 0) break;
        paper = { ...paper, sheets: [...paper.sheets, ...next.sheets] };
      }
      return paper;
    },
    staleTime: 0,
  });
