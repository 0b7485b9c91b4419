import { type CorrectionPreview, formatMark, type Recheck } from '@nailset/core';
import { useMemo, useState } from 'react';
import { useApplyCorrection, useCancelCorrection, useCorrection } from '../api/course';
import { ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';
import { CheckField } from '../shared/fields';
import { LongTable } from '../shared/LongTable';
import { dayAndTime } from '../shared/time';
import { changeOf, type Outcome, outcomes } from './outcome';

/** What checking again found, and that it counts. */
export function CorrectionView({
  exerciseId,
  id,
  parts,
  mayChange,
}: {
  exerciseId: string;
  id: string;
  parts: readonly { id: string; title: string }[];
  mayChange: boolean;
}) {
  const correction = useCorrection(exerciseId, id);
  const cancel = useCancelCorrection(exerciseId, id);
  if (correction.isPending) return <Loading what="Looking up" />;
  if (!correction.data) return <ErrorNote error={correction.error} retry={() => void correction.refetch()} />;
  const { state, done, total, version, reason, counting, appliedAt } = correction.data;
  return (
    <section aria-label="Result" className="flex min-h-0 min-w-0 flex-col px-5 py-5">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h2 className="font-serif text-[20px]">Against version {version}</h2>
        {state === 'checking' ? (
          <span role="status" className="flex items-center gap-3 text-slate">
            {done} of {total} checked
            <progress className="h-1.5 w-40 accent-petrol" value={done} max={total} aria-label="Checked" />
          </span>
        ) : (
          <span className="text-slate">{total} answers</span>
        )}
        {state === 'applied' && appliedAt && (
          <span className="text-[13px] text-slate">
            Applied {dayAndTime(appliedAt)}, the {counting} counts: “{reason}”
          </span>
        )}
        {state === 'cancelled' && <span className="text-slate">Dropped; no mark was changed.</span>}
        {mayChange && (state === 'checking' || state === 'ready') && (
          <span className="ml-auto flex gap-2">
            <Button disabled={cancel.isPending} onClick={() => cancel.mutate(undefined)}>
              {state === 'checking' ? 'Stop' : 'Drop it'}
            </Button>
            {state === 'ready' && <ApplyDialog exerciseId={exerciseId} correction={correction.data} />}
          </span>
        )}
      </div>
      <FormError error={cancel.error} />
      <Found parts={parts} correction={correction.data} />
    </section>
  );
}

type Order = 'change' | 'name' | 'part';

const tone: Record<Outcome, string> = {
  gains: 'text-moss',
  loses: 'text-brick',
  stays: 'text-slate',
  unread: 'text-copper',
};
const words: Record<Outcome, string> = { gains: 'gain', loses: 'lose', stays: 'stay', unread: 'cannot be checked' };

function Found({
  parts,
  correction: { rows },
}: {
  parts: readonly { id: string; title: string }[];
  correction: CorrectionPreview;
}) {
  const [only, setOnly] = useState<Outcome | 'all'>('all');
  const [order, setOrder] = useState<Order>('change');
  const counts = useMemo(() => outcomes(rows), [rows]);
  const shown = useMemo(
    () => sorted(rows, order).filter((row) => only === 'all' || changeOf(row).outcome === only),
    [rows, order, only],
  );
  if (rows.length === 0) return null;
  const titleOf = (partId: string) => parts.find(({ id }) => id === partId)?.title ?? partId;
  const cell = 'py-1.5 pr-4 text-left align-top text-[13px]';
  const sort = (by: Order, text: string) => (
    <button
      type="button"
      className={order === by ? 'font-medium text-ink' : 'hover:underline'}
      onClick={() => setOrder(by)}
    >
      {text}
    </button>
  );
  return (
    <>
      <div role="group" aria-label="Show" className="mb-2 flex flex-wrap gap-x-4 gap-y-1">
        {(['all', 'gains', 'loses', 'stays', 'unread'] as const).map((name) => {
          const count = name === 'all' ? rows.length : counts[name];
          return (
            <button
              key={name}
              type="button"
              aria-pressed={only === name}
              disabled={count === 0}
              className="border-b-2 border-transparent pb-0.5 text-slate disabled:opacity-50 aria-pressed:border-petrol aria-pressed:text-ink"
              onClick={() => setOnly(name)}
            >
              <b className={`font-medium ${name === 'all' ? '' : tone[name]}`}>{count}</b>{' '}
              {name === 'all' ? 'in all' : words[name]}
            </button>
          );
        })}
      </div>
      <LongTable
        label="Answers checked again"
        className="min-h-0 flex-1 border-t border-rule"
        tableClass="w-full min-w-[720px]"
        rows={shown}
        keyOf={({ submissionId }) => submissionId}
        height={52}
        head={
          <tr className="text-note text-slate">
            <th className={`${cell} border-b border-rule font-normal`}>{sort('name', 'Student')}</th>
            <th className={`${cell} border-b border-rule font-normal`}>{sort('part', 'Part')}</th>
            <th className={`${cell} border-b border-rule font-normal`}>{sort('change', 'Points')}</th>
            <th className={`${cell} border-b border-rule font-normal`}>Verdict now</th>
            <th className={`${cell} border-b border-rule font-normal`}>Verdict then</th>
          </tr>
        }
        row={(row) => {
          const { outcome } = changeOf(row);
          return (
            <>
              <th scope="row" className={`${cell} max-w-[26ch] truncate font-normal`} title={row.name}>
                {row.name}
              </th>
              <td className={cell}>
                {titleOf(row.partId)} <span className="text-slate">try {row.attempt}</span>
              </td>
              <td className={`${cell} whitespace-nowrap ${tone[outcome]}`}>
                {pointsOf(row.before)} → {row.after ? pointsOf(row.after) : '?'}
                {row.byHand && <span className="block text-note text-plum">set by hand, stays</span>}
              </td>
              <td className={`${cell} w-[30%] text-slate`}>{row.before.words}</td>
              <td className={`${cell} w-[30%]`}>{row.after?.words ?? row.problem}</td>
            </>
          );
        }}
      />
    </>
  );
}

const pointsOf = ({ points, outOf }: { points: number; outOf: number }): string =>
  `${formatMark(points)} of ${formatMark(outOf)}`;

function sorted(rows: readonly Recheck[], order: Order): Recheck[] {
  const byName = (a: Recheck, b: Recheck) => a.name.localeCompare(b.name) || a.attempt - b.attempt;
  const orders = {
    name: byName,
    part: (a: Recheck, b: Recheck) => a.partId.localeCompare(b.partId) || byName(a, b),
    change: (a: Recheck, b: Recheck) => Math.abs(changeOf(b).by) - Math.abs(changeOf(a).by) || byName(a, b),
  };
  return [...rows].sort(orders[order]);
}

/** Lets it count: which of two verdicts, why, and whether tries come back. */
function ApplyDialog({ exerciseId, correction }: { exerciseId: string; correction: CorrectionPreview }) {
  const [open, setOpen] = useState(false);
  const [counting, setCounting] = useState<'better' | 'newer'>('better');
  const [reason, setReason] = useState('');
  const [givesBack, setGivesBack] = useState(false);
  const apply = useApplyCorrection(exerciseId, correction.id);
  const { gains, loses } = outcomes(correction.rows);
  const told =
    counting === 'better' ? `${gains} gain points, nobody loses any.` : `${gains} gain points and ${loses} lose some.`;
  return (
    <DialogFrame
      title="Let it count?"
      description={told}
      open={open}
      onOpenChange={setOpen}
      trigger={<Button look="strong">Let it count …</Button>}
    >
      <fieldset className="mb-3 grid gap-1.5">
        <legend className="label mb-1">Of two verdicts counts</legend>
        {(['better', 'newer'] as const).map((name) => (
          <label key={name} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="counting"
              className="accent-petrol"
              checked={counting === name}
              onChange={() => setCounting(name)}
            />
            the {name}
          </label>
        ))}
      </fieldset>
      <Field label="Reason, shown to every student whose verdict changes">
        {(ids) => (
          <input
            {...ids}
            className="input"
            maxLength={500}
            value={reason}
            placeholder="The key of part b wanted the wrong sign."
            onChange={(event) => setReason(event.target.value)}
          />
        )}
      </Field>
      <div className="mt-3">
        <CheckField
          label="Give back the tries that were spent on earlier versions"
          checked={givesBack}
          onChange={setGivesBack}
        />
      </div>
      <FormError error={apply.error} />
      <DialogFoot leave="Not yet">
        <Button
          look="strong"
          disabled={apply.isPending || reason.trim().length < 3}
          onClick={() => apply.mutate({ counting, reason, givesBack }, { onSuccess: () => setOpen(false) })}
        >
          {apply.isPending ? 'Applying …' : 'Let it count'}
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}
