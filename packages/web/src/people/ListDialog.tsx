import type { RosterPlan, RosterUpload } from '@nailset/core';
import { useState } from 'react';
import { usePlanRoster, useTakeRoster } from '../api/course';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';
import { LongTable } from '../shared/LongTable';
import { readText } from '../shared/readText';
import { LinkList } from './LinksDialog';

/** Takes people in from a list: paste or files, a look at what would change, and then all of it or nothing. */
export function ListDialog({ courseId }: { courseId: string }) {
  const [open, setOpen] = useState(false);
  const [files, setFiles] = useState<RosterUpload['files']>([]);
  // Stays while it is looked at, to be mended.
  const [text, setText] = useState('');
  const plan = usePlanRoster(courseId);
  const take = useTakeRoster(courseId);
  const close = (isOpen: boolean) => {
    setOpen(isOpen);
    setFiles([]);
    setText('');
    plan.reset();
    take.reset();
  };
  const look = (some: RosterUpload['files']) => {
    setFiles(some);
    plan.mutate(some);
  };
  return (
    <DialogFrame
      title="People from a list"
      description={descriptionOf(plan.data, take.data)}
      open={open}
      onOpenChange={close}
      width="w-[min(94vw,820px)]"
      trigger={<Button look="strong">Add from a list …</Button>}
    >
      {take.data ? (
        <LinkList links={take.data.links} />
      ) : plan.data ? (
        <Plan plan={plan.data} />
      ) : (
        <Source busy={plan.isPending} text={text} onText={setText} onFiles={look} />
      )}
      <FormError error={take.error ?? plan.error} />
      <DialogFoot leave={take.data ? 'Close' : 'Cancel'}>
        {plan.data && !take.data && <Button onClick={() => plan.reset()}>Another list</Button>}
        {plan.data && !take.data && (
          <Button
            look="strong"
            disabled={take.isPending || changesOf(plan.data) === 0}
            onClick={() => take.mutate(files)}
          >
            {take.isPending ? 'Taking in …' : `Take in ${changesOf(plan.data)}`}
          </Button>
        )}
      </DialogFoot>
    </DialogFrame>
  );
}

const changesOf = ({ rows }: RosterPlan): number => rows.filter(({ change }) => change !== 'known').length;

function descriptionOf(plan: RosterPlan | undefined, taken: RosterPlan | undefined): string {
  if (taken) {
    const links = taken.links.length;
    return links > 0
      ? `Taken in. ${links === 1 ? 'One person is' : `${links} people are`} new: hand each their link, with which they choose a password.`
      : 'Taken in.';
  }
  if (!plan) return 'E-mail and name, and if you like student number and group, in any order and with any headings.';
  const count = (change: string) => plan.rows.filter((row) => row.change === change).length;
  return [
    [count('new'), 'new'],
    [count('joins') + count('back'), 'with an account already'],
    [count('changed'), 'changed'],
    [count('known'), 'as they are'],
    [plan.unread.length, 'not readable'],
  ]
    .filter(([n]) => n !== 0)
    .map(([n, words]) => `${n} ${words}`)
    .join(' · ');
}

function Source({
  busy,
  text,
  onText,
  onFiles,
}: {
  busy: boolean;
  text: string;
  onText: (text: string) => void;
  onFiles: (files: RosterUpload['files']) => void;
}) {
  const read = async (chosen: readonly File[]) => {
    if (chosen.length === 0) return;
    onFiles(await Promise.all(chosen.map(async (file) => ({ name: file.name, text: await readText(file) }))));
  };
  return (
    <div
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void read([...event.dataTransfer.files]);
      }}
    >
      <Field label="Paste the list" hint="From a spreadsheet, a registry’s CSV, or lines of a mail.">
        {(ids) => (
          <textarea
            {...ids}
            rows={8}
            className="input font-mono text-[13px]"
            value={text}
            placeholder={'ilse.okafor@harbour.example; Ilse Okafor; 4411; Monday'}
            onChange={(event) => onText(event.target.value)}
          />
        )}
      </Field>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <label className="link cursor-pointer focus-within:outline-2">
          or choose files: CSV, or the CSV files of a OneRoster export
          <input
            type="file"
            multiple
            accept=".csv,.txt,.tsv,text/csv,text/plain"
            className="sr-only"
            onChange={({ target }) => {
              const chosen = [...(target.files ?? [])];
              // So that the same one can be chosen again once it is mended.
              target.value = '';
              void read(chosen);
            }}
          />
        </label>
        <Button
          look="strong"
          className="ml-auto"
          disabled={busy || text.trim() === ''}
          onClick={() => onFiles([{ name: 'the list', text }])}
        >
          {busy ? 'Reading …' : 'Look at it'}
        </Button>
      </div>
    </div>
  );
}

const tone = { new: 'text-moss', joins: 'text-moss', back: 'text-moss', changed: 'text-copper', known: 'text-slate' };

function Plan({ plan: { rows, unread } }: { plan: RosterPlan }) {
  const cell = 'py-1 pr-3 text-left text-[13px]';
  return (
    <>
      {unread.length > 0 && (
        <ul
          aria-label="Not readable"
          className="mb-3 grid max-h-32 gap-1 overflow-y-auto border-l-2 border-brick pl-3 text-[13px]"
        >
          {unread.map(({ line, text, problem }) => (
            <li key={`${line} ${text}`}>
              Line {line}: {problem} <span className="text-slate">{text}</span>
            </li>
          ))}
        </ul>
      )}
      {rows.length > 0 && (
        <LongTable
          label="What would change"
          className="max-h-[46vh] border-y border-rule"
          rows={rows}
          keyOf={({ line, email }) => `${line} ${email}`}
          height={28}
          head={
            <tr className="bg-sheet text-note text-slate">
              {['Name', 'E-mail', 'Number', 'Group', ''].map((words) => (
                <th key={words} className={`${cell} font-normal`}>
                  {words || <span className="sr-only">Change</span>}
                </th>
              ))}
            </tr>
          }
          row={({ name, email, studentNumber, group, change, words }) => (
            <>
              <td className={`${cell} max-w-[24ch] truncate`}>{name}</td>
              <td className={`${cell} max-w-[28ch] truncate text-slate`}>{email}</td>
              <td className={cell}>{studentNumber}</td>
              <td className={cell}>{group}</td>
              <td className={`${cell} ${tone[change]}`}>{words}</td>
            </>
          )}
        />
      )}
    </>
  );
}
