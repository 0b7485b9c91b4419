import { type Attempt, formatMark, inPoints, listOf, must, type Verdict } from '@nailset/core';
import { memo } from 'react';
import { NailMark, nailState } from '../shared/NailMark';
import { dayAndTime } from '../shared/time';

/** What was handed in for a part, the newest first, each with its verdict in words. */
export const Tries = memo(function Tries({
  attempts,
  version,
  title = 'Handed in',
}: {
  attempts: readonly Attempt[];
  version: number;
  title?: string;
}) {
  if (attempts.length === 0) return null;
  const [newest, ...older] = [...attempts].reverse();
  return (
    <section aria-label={title} className="border-t border-rule pt-3 first:border-t-0 first:pt-0">
      <h2 className="caption mb-2">{title}</h2>
      <Try attempt={must(newest)} open version={version} />
      <Since before={older[0]} now={must(newest)} />
      {older.map((attempt) => (
        <details key={attempt.id} className="mt-2">
          <summary className="cursor-pointer text-[13px] text-slate">
            Try {attempt.attempt}
            {attempt.verdict && `: ${pointsText(attempt)}`}
          </summary>
          <Try attempt={attempt} version={version} />
        </details>
      ))}
    </section>
  );
});

/** Which nails and results changed between two tries. */
function Since({ before, now }: { before: Attempt | undefined; now: Attempt }) {
  if (!before?.verdict || !now.verdict) return null;
  const met = new Map(before.verdict.items.map((item) => [item.id, item.met]));
  const changed = now.verdict.items.filter((item) => met.has(item.id) && met.get(item.id) !== item.met);
  const labels = (holds: boolean) => changed.filter((item) => item.met === holds).map(({ label }) => label);
  const [gained, lost] = [labels(true), labels(false)];
  if (now.verdict.items.length < 2 || changed.length === 0) return null;
  return (
    <p className="mt-2 text-[13px] text-slate">
      Since try {before.attempt}: {gained.length > 0 && `${listOf(gained)} now right`}
      {gained.length > 0 && lost.length > 0 && '; '}
      {lost.length > 0 && `${listOf(lost)} no longer`}.
    </p>
  );
}

function Try({ attempt, open = false, version }: { attempt: Attempt; open?: boolean; version: number }) {
  const { verdict, override } = attempt;
  return (
    <div data-try={attempt.attempt} className={open ? '' : 'pl-3'}>
      <p className="flex items-baseline justify-between gap-2 text-[13px]">
        <span className="font-medium">
          {open && `Try ${attempt.attempt}`}
          {attempt.version !== version && <span className="text-slate"> · version {attempt.version}</span>}
          {attempt.returned && <span className="text-slate"> · given back</span>}
        </span>
        <span className="text-note text-slate">{dayAndTime(attempt.handedInAt)}</span>
      </p>
      {verdict ? (
        <>
          <p className={`text-[15px] ${verdict.met ? 'text-moss' : 'text-brick'}`}>{pointsText(attempt)}</p>
          <VerdictLines verdict={verdict} />
        </>
      ) : (
        <p className="mt-1 text-slate" role={attempt.checked ? undefined : 'status'}>
          {recordedWords(attempt)}
        </p>
      )}
      {attempt.corrected && (
        <p className="mt-2 border-l-2 border-petrol pl-3 text-[13px]">
          Checked again {dayAndTime(attempt.corrected.at)}: {attempt.corrected.reason}
        </p>
      )}
      {attempt.comments.map(({ text, by, at }) => (
        <p key={at} className="mt-2 border-l-2 border-plum pl-3 text-[13px] whitespace-pre-line">
          {by}: {text}
        </p>
      ))}
      {override && (
        <p className="mt-2 border-l-2 border-plum pl-3 text-[13px]">
          Points set to {formatMark(override.points)} by your instructor: {override.reason}
        </p>
      )}
    </div>
  );
}

/** What there is to say while there is no verdict. */
function recordedWords({ checked, outOfTime }: Attempt): string {
  if (!checked) return 'Recorded. Being checked …';
  return outOfTime
    ? 'Recorded. Its check took too long; your instructor will look at it.'
    : 'Recorded. The verdict follows later.';
}

/** A verdict, a line for each nail. */
export function VerdictLines({ verdict }: { verdict: Verdict }) {
  const isSaid = verdict.items.length === 1 && must(verdict.items[0]).words === verdict.words;
  return (
    <>
      {!isSaid && !verdict.met && verdict.items.every((item) => item.measured === null) && (
        <p className="mt-1 text-[13px]">{verdict.words}</p>
      )}
      <ul className="mt-1.5 grid gap-1.5 text-[13px]">
        {verdict.items.map((item) => (
          <li key={item.id} className="flex gap-2">
            <span className="pt-0.5">
              <NailMark state={nailState(item)} />
            </span>
            <span>{item.words}</span>
          </li>
        ))}
      </ul>
      {verdict.slip && <p className="mt-2 border-l-2 border-copper pl-3 text-[13px]">{verdict.slip.words}</p>}
    </>
  );
}

/** What a try gives: after the late rule and any decision, the same as on the home page. */
function pointsText({
  verdict,
  override,
  hintCost,
  points = override?.points ?? must(verdict).points,
}: Attempt): string {
  const before = must(verdict).points;
  const less = override ? 0 : Math.min(before, hintCost ?? 0);
  const taken = less === 0 ? '' : `, ${formatMark(less)} less for hints`;
  const isLate = !override && points < Math.max(0, before - (hintCost ?? 0)) - 1e-9;
  const late = `${taken}${isLate ? `, ${formatMark(before)} before the late rule` : ''}`;
  return `${formatMark(points)} of ${inPoints(must(verdict).outOf)}${late}`;
}
