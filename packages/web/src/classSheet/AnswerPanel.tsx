import { formatMark, formatNumber, type Handed, inPoints, nailsIn, nameToLatex, parametersOf } from '@nailset/core';
import { type FormEvent, useMemo, useState } from 'react';
import { useComment, useLooked } from '../api/course';
import { useCheckAgain, useHanded, useOverride } from '../api/queries';
import { VerdictLines } from '../bench/Tries';
import { isFormula, settingNamesOf, settingsOf, studentKind } from '../kinds/students';
import { TriedResponses } from '../kinds/TriedResponses';
import { LecternLink } from '../lectern/LecternLink';
import { ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { readDecimal } from '../shared/DecimalField';
import { Field } from '../shared/Field';
import { Formula } from '../shared/Formula';
import { dayAndTime } from '../shared/time';

/** One student's answer: what was handed in, what it met with measured values, the trail, and a person's decision. */
export function AnswerPanel({
  submissionId,
  onClose,
  onChoose,
}: {
  submissionId: string;
  onClose: () => void;
  onChoose: (submissionId: string) => void;
}) {
  const handed = useHanded(submissionId);
  if (handed.isPending) return <Loading what="Looking up the answer" />;
  if (!handed.data) return <ErrorNote error={handed.error} retry={() => void handed.refetch()} />;
  const { person, part, attempt, version, handedInAt, verdict, points, outOf, overrides, expected } = handed.data;
  const settings = settingsOf(handed.data.answer);
  return (
    <section aria-label={`Answer of ${person.name}`} className="border-t border-rule pt-4">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="font-serif text-[18px]">{person.name}</h2>
        <span className="text-[13px] text-slate">
          {part.title} · try {attempt} · version {version} · {dayAndTime(handedInAt)}
          {handed.data.returned && ' · given back'}
        </span>
        <button type="button" className="link" onClick={onClose}>
          Close
        </button>
      </div>
      <EveryTry handed={handed.data} onChoose={onChoose} />
      <Review handed={handed.data} />
      <div className="mt-2 grid gap-x-8 gap-y-3 md:grid-cols-2">
        <div>
          <AnswerShown handed={handed.data} />
          {expected && part.kind !== 'gains' && (
            <p className="mt-2 text-[13px] text-slate">
              Expected{' '}
              {isFormula(part) ? (
                <Formula latex={expected} className="text-ink" />
              ) : (
                <b className="text-ink">{expected}</b>
              )}
            </p>
          )}
          {settings && (
            <p className="mt-2 text-[13px]">
              <LecternLink shown={{ part: part.id, values: handed.data.values, settings }} />
            </p>
          )}
          <TrailShown handed={handed.data} />
        </div>
        <div>
          <p className={`text-[15px] ${points >= outOf ? 'text-moss' : 'text-brick'}`}>
            {formatMark(points)} of {inPoints(outOf)}
          </p>
          {verdict ? (
            <VerdictLines verdict={verdict} />
          ) : (
            <p className="text-copper">
              {handed.data.checked ? 'The check was stopped: it took too long.' : 'Being checked …'}
            </p>
          )}
          <TriedResponses verdict={verdict} />
          {verdict?.curveDistance !== undefined && (
            <p className="mt-1.5 text-[13px] text-slate">
              Its step response differs from the expected one by up to {formatNumber(100 * verdict.curveDistance)} %.
            </p>
          )}
          {handed.data.corrected && (
            <p className="mt-2 border-l-2 border-petrol pl-3 text-[13px]">
              Checked again against version {handed.data.corrected.version}, {dayAndTime(handed.data.corrected.at)}:{' '}
              {handed.data.corrected.reason}
            </p>
          )}
          {overrides.map(({ points: set, reason, by, at }) => (
            <p key={at} className="mt-2 border-l-2 border-plum pl-3 text-[13px]">
              {by} set {inPoints(set)}, {dayAndTime(at)}: {reason}
            </p>
          ))}
          <Comments key={`comments ${submissionId}`} handed={handed.data} />
          <CheckAgain key={`check ${submissionId}`} submissionId={submissionId} busy={!handed.data.checked} />
          <OverrideForm key={submissionId} submissionId={submissionId} points={points} most={outOf} />
        </div>
      </div>
    </section>
  );
}

/** Every try of the student for the part, and which of them counts. */
function EveryTry({ handed, onChoose }: { handed: Handed; onChoose: (submissionId: string) => void }) {
  if (handed.tries.length < 2) return null;
  return (
    <p role="group" aria-label="Tries" className="mt-1 flex flex-wrap gap-x-4 text-[13px]">
      {handed.tries.map(({ id, attempt, points, counts }) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === handed.id}
          className={`link ${id === handed.id ? 'font-medium text-ink decoration-ink' : ''}`}
          onClick={() => onChoose(id)}
        >
          Try {attempt}: {formatMark(points)}
          {counts && ' (counts)'}
        </button>
      ))}
    </p>
  );
}

/** Why a person should look, and that one has. */
function Review({ handed: { id, review, looked } }: { handed: Handed }) {
  const look = useLooked(id);
  if (review.length === 0) return null;
  return (
    <div className="mt-2 flex items-baseline justify-between gap-3 border-l-2 border-copper pl-3 text-[13px]">
      <ul>
        {review.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      {looked ? (
        <span className="text-slate">looked at</span>
      ) : (
        <Button
          look="quiet"
          className="py-0 text-[13px]"
          disabled={look.isPending}
          onClick={() => look.mutate(undefined)}
        >
          Looked at
        </Button>
      )}
      {look.error && <FormError error={look.error} />}
    </div>
  );
}

/** What staff said to the student, and a line to say more. */
function Comments({ handed: { id, person, comments } }: { handed: Handed }) {
  const [text, setText] = useState('');
  const say = useComment(id);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    say.mutate(text, { onSuccess: () => setText('') });
  };
  return (
    <form onSubmit={submit} className="mt-3 text-[13px]">
      {comments.map(({ text: said, by, at }) => (
        <p key={at} className="mt-1.5 border-l-2 border-plum pl-3 whitespace-pre-line">
          {by}, {dayAndTime(at)}: {said}
        </p>
      ))}
      <span className="mt-2 flex gap-2">
        <input
          className="input py-1 text-[13px]"
          aria-label={`Comment to ${person.name}`}
          placeholder="Comment to the student"
          maxLength={2000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {text.trim() !== '' && (
          <Button className="py-1 text-[13px]" type="submit" disabled={say.isPending}>
            Send
          </Button>
        )}
      </span>
      {say.error && <FormError error={say.error} />}
    </form>
  );
}

function AnswerShown({ handed: { answer, part, values } }: { handed: Handed }) {
  const numbers = Object.entries(values);
  const scope = useMemo(() => parametersOf(values), [values]);
  const { Shown } = studentKind(answer);
  return (
    <>
      <p className="text-[13px] text-slate">
        {numbers.map(([symbol, value], k) => (
          <span key={symbol} className="whitespace-nowrap">
            {k > 0 && ', '}
            <Formula latex={nameToLatex(symbol)} /> {value}
          </span>
        ))}
      </p>
      <Shown {...{ part, answer, scope }} />
    </>
  );
}

/** What the student set, in the order of the ladder; the store keeps no order. */
function TrailShown({ handed: { trail, part } }: { handed: Handed }) {
  if (trail.length === 0) return null;
  const names = settingNamesOf(part);
  const nails = nailsIn(part).length;
  return (
    <div className="mt-3 max-h-40 overflow-y-auto" tabIndex={0} role="region" aria-label="Trail">
      <table className="w-full text-right text-note">
        <thead className="text-slate">
          <tr className="border-b border-rule">
            <th className="text-left font-normal">Trail</th>
            {names.map((name) => (
              <th key={name} className="px-2 font-normal">
                {name}
              </th>
            ))}
            {nails > 0 && <th className="font-normal">nails</th>}
          </tr>
        </thead>
        <tbody>
          {trail.map((stop, k) => (
            <tr key={k} className="border-b border-grid">
              <td className="text-left">
                {k + 1} {stop.name}
              </td>
              {names.map((name) => (
                <td key={name} className="px-2">
                  {stop.gains[name] ?? '–'}
                </td>
              ))}
              {nails > 0 && (
                <td className="whitespace-nowrap">
                  {stop.holding} of {nails}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** For an answer whose check was stopped, or after the checker has changed. */
function CheckAgain({ submissionId, busy }: { submissionId: string; busy: boolean }) {
  const again = useCheckAgain(submissionId);
  return (
    <div className="float-right mt-2 flex items-baseline gap-2">
      <FormError error={again.error} />
      <Button
        look="quiet"
        className="text-[13px]"
        disabled={busy || again.isPending}
        onClick={() => again.mutate(undefined)}
      >
        Check again
      </Button>
    </div>
  );
}

function OverrideForm({ submissionId, points, most }: { submissionId: string; points: number; most: number }) {
  const [open, setOpen] = useState(false);
  const [value, setValue] = useState(String(points));
  const [reason, setReason] = useState('');
  const override = useOverride(submissionId);
  if (!open) {
    return (
      <Button look="quiet" className="mt-2 text-[13px]" onClick={() => setOpen(true)}>
        Change points …
      </Button>
    );
  }
  const number = readDecimal(value, { min: 0, max: most });
  const problem = typeof number === 'string' ? number : undefined;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (typeof number === 'number') override.mutate({ points: number, reason }, { onSuccess: () => setOpen(false) });
  };
  return (
    <form onSubmit={submit} className="mt-3 grid grid-cols-[72px_1fr] gap-2">
      <Field label={`Points of ${formatNumber(most)}`} error={problem}>
        {(ids) => (
          <input
            {...ids}
            className="input"
            inputMode="decimal"
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
        )}
      </Field>
      <Field label="Reason, shown to the student">
        {(ids) => (
          <input
            {...ids}
            className="input"
            required
            minLength={3}
            maxLength={500}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
        )}
      </Field>
      <div className="col-span-2 flex items-center gap-2">
        <Button
          look="strong"
          type="submit"
          disabled={problem !== undefined || reason.trim().length < 3 || override.isPending}
        >
          Set points
        </Button>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
        <FormError error={override.error} />
      </div>
    </form>
  );
}
