import type { BenchSheetRow, KeptSheet, Sheet, SheetSaved } from '@nailset/core';
import { useQuery } from '@tanstack/react-query';
import { pendingSaves } from '../shared/saving';
import { request } from './client';
import { useChange } from './queries';

/** Sheets of the open bench that the server keeps. */

const key = ['sheets'];

export const useSheets = (isAsked: boolean) =>
  useQuery({
    queryKey: key,
    queryFn: async () => {
      await pendingSaves();
      return request<BenchSheetRow[]>('GET', '/sheets');
    },
    enabled: isAsked,
    staleTime: 0,
  });

export const askSheet = (id: string): Promise<KeptSheet> => request<KeptSheet>('GET', `/sheets/${id}`);

/** Not through the list: a list that is on the page shows the title when it is asked for next. */
export const saveSheet = (id: string, revision: number, sheet: Sheet): Promise<SheetSaved> =>
  request<SheetSaved>('PUT', `/sheets/${id}`, { revision, sheet });

export const useShareSheet = () =>
  useChange(
    ({ id, courseId }: { id: string; courseId: string | null }) => request('PUT', `/sheets/${id}/course`, { courseId }),
    key,
  );

export const useRemoveSheet = () => useChange((id: string) => request('DELETE', `/sheets/${id}`), key);
