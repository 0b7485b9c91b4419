import type { DrawValues, Settings } from '@nailset/core';
import { Link, useParams } from 'react-router';

/** A bench as it stands: the open part, its student's numbers, and what is set on it. */
export interface BenchState {
  readonly part: string;
  readonly values: DrawValues;
  readonly settings: Settings;
}

/** Takes a bench as it stands to the lectern. */
export function LecternLink({ shown }: { shown: BenchState }) {
  const { exerciseId = '' } = useParams();
  return (
    <Link to={`/exercises/${exerciseId}/lectern`} state={shown} className="link">
      On the lectern
    </Link>
  );
}

/** What a link took along, if anything. */
export function benchStateFrom(state: unknown): BenchState | undefined {
  if (typeof state !== 'object' || state === null) return undefined;
  const { part, values, settings } = state as Partial<Record<keyof BenchState, unknown>>;
  const isRecord = (of: unknown): of is Record<string, string> =>
    typeof of === 'object' && of !== null && Object.values(of).every((value) => typeof value === 'string');
  return typeof part === 'string' && isRecord(values) && isRecord(settings) ? { part, values, settings } : undefined;
}
