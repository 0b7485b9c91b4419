import { formatMark, parametersOf, type Part, type PartAnswer } from '@nailset/core';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useBeginCorrection, useManyPoints, usePartAnswers } from '../api/course';
import { useClassSheet } from '../api/queries';
import { isFormula, studentKind } from '../kinds/students';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty, FormError } from '../page/states';
import { Button } from '../shared/Button';
import { readDecimal } from '../shared/DecimalField';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';
import { Formula } from '../shared/Formula';
import { isFoundIn } from '../shared/found';
import { LongTable } from '../shared/LongTable';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

/** Every answer to a part: who typed what, what was expected, the verdict; points for many at once. */
export function AnswersPage() {
  const { exerciseId = '', partId = '' } = useParams();
  const sheet = useClassSheet(exerciseId);
  const answers = usePartAnswers(exerciseId, partId);
  const navigate = useNavigate();
  useTitle('All answers');
  return (
    <PageOf query={sheet} what="Looking up answers">
      {({ courseId, title, parts, version }) => {
        const part = parts.find(({ id }) => id === partId);
        return (
          <div className="flex min-h-dvh flex-col md:h-dvh">
            <Header
              crumbs={[
                { text: 'Shelf', to: `/courses/${courseId}` },
                { text: title, to: `/exercises/${exerciseId}/class` },
                { text: 'All answers' },
              ]}
            >
              <select
                aria-label="Part"
                className="input w-auto py-1"
                value={partId}
                onChange={(event) => void navigate(`/exercises/${exerciseId}/answers/${event.target.value}`)}
              >
                {parts.map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.title}
                  </option>
                ))}
              </select>
            </Header>
            {part && answers.data ? (
              <Answers key={partId} {...{ exerciseId, part, version }} answers={answers.data.answers} />
            ) : (
              answers.isError && <Empty title="The answers could not be looked up.">{answers.error.message}</Empty>
            )}
          </div>
        );
      }}
    </PageOf>
  );
}

type Which = 'all' | 'counts' | 'missed' | 'review' | 'slip';
const which: Record<Which, { words: string; fits: (answer: PartAnswer) => boolean }> = {
  counts: { words: 'the try that counts', fits: ({ counts }) => counts },
  all: { words: 'every try', fits: () => true },
  missed: { words: 'missed', fits: ({ met, checked }) => checked && !met },
  slip: { words: 'with a known slip', fits: ({ slip, met }) => slip !== null && !met },
  review: { words: 'to review', fits: ({ review }) => review.length > 0 },
};

function Answers({
  exerciseId,
  part,
  version,
  answers,
}: {
  exerciseId: string;
  part: Part;
  version: number;
  answers: readonly PartAnswer[];
}) {
  const [shownOf, setShownOf] = useState<Which>('counts');
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const shown = useMemo(() => {
    return answers.filter(
      (answer) =>
        which[shownOf].fits(answer) && isFoundIn(`${answer.name} ${answer.text} ${answer.slip ?? ''}`, filter),
    );
  }, [answers, shownOf, filter]);
  const picked = shown.filter(({ submissionId }) => chosen.has(submissionId));
  const toggle = (ids: readonly string[], on: boolean) =>
    setChosen((old) => new Set(on ? [...old, ...ids] : [...old].filter((id) => !ids.includes(id))));
  const save = async () => {
    const { saveTable } = await import('../shared/saveTable');
    saveTable(
      ['Student', 'Try', 'Handed in', 'Answer', 'Expected', 'Points', 'Of', 'Verdict', 'Slip'],
      shown.map((row) => [
        row.name,
        row.attempt,
        row.handedInAt,
        row.text,
        row.expected,
        row.points,
        row.outOf,
        row.words,
        row.slip,
      ]),
      part.title,
    );
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col px-5 py-4">
      <h1 className="sr-only">All answers to {part.title}</h1>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <select
          aria-label="Show"
          className="input w-auto py-1"
          value={shownOf}
          onChange={(event) => setShownOf(event.target.value as Which)}
        >
          {Object.entries(which).map(([name, { words }]) => (
            <option key={name} value={name}>
              {words}
            </option>
          ))}
        </select>
        <input
          type="search"
          className="input w-56 py-1"
          aria-label="Find a name, an answer or a slip"
          placeholder="Find a name, an answer or a slip"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
        <span role="status" className="text-[13px] text-slate">
          {shown.length === 1 ? '1 answer' : `${shown.length} answers`}
        </span>
        <span className="ml-auto flex flex-wrap justify-end gap-2">
          {picked.length > 0 && (
            <>
              <PointsDialog key={picked.length} {...{ exerciseId, picked }} onDone={() => setChosen(new Set())} />
              <CheckThese {...{ exerciseId, picked, version }} />
            </>
          )}
          <Button className="py-1" onClick={() => void save()}>
            CSV
          </Button>
        </span>
      </div>
      {shown.length === 0 ? (
        <Empty title="No such answer." />
      ) : (
        <AnswerTable {...{ exerciseId, part, chosen }} answers={shown} onToggle={toggle} />
      )}
    </main>
  );
}

function AnswerTable({
  exerciseId,
  part,
  answers,
  chosen,
  onToggle,
}: {
  exerciseId: string;
  part: Part;
  answers: readonly PartAnswer[];
  chosen: ReadonlySet<string>;
  onToggle: (ids: readonly string[], on: boolean) => void;
}) {
  const cell = 'py-1.5 pr-4 text-left align-top text-[13px]';
  const all = answers.every(({ submissionId }) => chosen.has(submissionId));
  return (
    <LongTable
      label="Answers"
      className="min-h-0 flex-1 border-t border-rule"
      tableClass="w-full min-w-[860px]"
      rows={answers}
      keyOf={({ submissionId }) => submissionId}
      height={56}
      head={
        <tr className="text-note text-slate shadow-[inset_0_-1px_var(--color-rule)]">
          <th className={cell}>
            <input
              type="checkbox"
              aria-label="Choose all"
              className="accent-petrol"
              checked={all}
              onChange={(event) =>
                onToggle(
                  answers.map(({ submissionId }) => submissionId),
                  event.target.checked,
                )
              }
            />
          </th>
          {['Student', 'Answer', 'Expected', 'Points', 'Verdict'].map((words) => (
            <th key={words} className={`${cell} font-normal`}>
              {words}
            </th>
          ))}
        </tr>
      }
      row={(row) => (
        <>
          <td className={cell}>
            <input
              type="checkbox"
              aria-label={`Choose ${row.name}, try ${row.attempt}`}
              className="accent-petrol"
              checked={chosen.has(row.submissionId)}
              onChange={(event) => onToggle([row.submissionId], event.target.checked)}
            />
          </td>
          <th scope="row" className={`${cell} max-w-[26ch] font-normal`}>
            <Link
              to={`/exercises/${exerciseId}/class?person=${row.personId}`}
              className="hover:underline"
              title={row.name}
            >
              <span className="block truncate">{row.name}</span>
            </Link>
            <span className="text-note whitespace-nowrap text-slate">
              try {row.attempt} · {dayAndTime(row.handedInAt)}
            </span>
          </th>
          <td className={`${cell} max-w-[34ch] overflow-x-auto`}>
            <Given part={part} row={row} />
          </td>
          <td className={`${cell} max-w-[30ch] overflow-x-auto`}>
            {row.expected !== null &&
              (isFormula(part) ? <Formula latex={`\\displaystyle ${row.expected}`} /> : <span>{row.expected}</span>)}
          </td>
          <td className={`${cell} whitespace-nowrap ${row.met ? 'text-moss' : 'text-brick'}`}>
            {formatMark(row.points)} <span className="text-slate">of {formatMark(row.outOf)}</span>
          </td>
          <td className={cell}>
            {row.checked ? row.words : 'Being checked …'}
            {row.slip && <span className="block text-copper">{row.slip}</span>}
            {row.review.map((words) => (
              <span key={words} className="block text-plum">
                {words}
              </span>
            ))}
          </td>
        </>
      )}
    />
  );
}

/** An answer as its kind shows it, with the letters of the student’s numbers. */
function Given({ part, row }: { part: Part; row: PartAnswer }) {
  const scope = useMemo(() => parametersOf(row.values), [row.values]);
  if (part.kind !== row.answer.kind) return <>{row.text}</>;
  const { Shown } = studentKind(row.answer);
  return <Shown {...{ part, answer: row.answer, scope }} />;
}

/** The same points and the same reason for all that are chosen. */
function PointsDialog({
  exerciseId,
  picked,
  onDone,
}: {
  exerciseId: string;
  picked: readonly PartAnswer[];
  onDone: () => void;
}) {
  const most = Math.max(...picked.map(({ outOf }) => outOf));
  const [open, setOpen] = useState(false);
  const [value, setValue] = useState(String(most));
  const [reason, setReason] = useState('');
  const set = useManyPoints(exerciseId);
  const points = readDecimal(value, { min: 0, max: most });
  const send = () => {
    if (typeof points !== 'number') return;
    const submissionIds = picked.map(({ submissionId }) => submissionId);
    set.mutate({ submissionIds, points, reason }, { onSuccess: () => (setOpen(false), onDone()) });
  };
  return (
    <DialogFrame
      title={`Points of ${picked.length} answers`}
      description="Each student sees the reason; the newest decision counts."
      open={open}
      onOpenChange={setOpen}
      trigger={<Button className="py-1">Set points of {picked.length} …</Button>}
    >
      <div className="grid grid-cols-[90px_1fr] gap-3">
        <Field label={`Points of ${formatMark(most)}`} error={typeof points === 'string' ? points : undefined}>
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
        <Field label="Reason">
          {(ids) => (
            <input
              {...ids}
              className="input"
              maxLength={500}
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </Field>
      </div>
      <FormError error={set.error} />
      <DialogFoot>
        <Button
          look="strong"
          disabled={set.isPending || typeof points !== 'number' || reason.trim().length < 3}
          onClick={send}
        >
          Set points
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}

/** Has the chosen answers checked again against the newest version; what that finds is looked at first. */
function CheckThese({
  exerciseId,
  picked,
  version,
}: {
  exerciseId: string;
  picked: readonly PartAnswer[];
  version: number;
}) {
  const begin = useBeginCorrection(exerciseId);
  const navigate = useNavigate();
  return (
    <>
      <Button
        className="py-1"
        disabled={begin.isPending}
        onClick={() =>
          begin.mutate(
            { version, partIds: [], submissionIds: picked.map(({ submissionId }) => submissionId) },
            { onSuccess: () => void navigate(`/exercises/${exerciseId}/again`) },
          )
        }
      >
        Check again
      </Button>
      {begin.error && <FormError error={begin.error} />}
    </>
  );
}
