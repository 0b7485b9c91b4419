import type { EnteredPlan } from '@nailset/core';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useEntered } from '../api/course';
import { useClassSheet } from '../api/queries';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { Field } from '../shared/Field';
import { FileButton } from '../shared/FileButton';
import { LongTable } from '../shared/LongTable';
import { readText } from '../shared/readText';
import { useTitle } from '../shared/useTitle';

/** Answers from paper, a form or another platform: read, looked at, and handed in for the students. */
export function EnteredPage() {
  const { exerciseId = '' } = useParams();
  const sheet = useClassSheet(exerciseId);
  useTitle('Answers from elsewhere');
  return (
    <PageOf query={sheet} what="Looking up the exercise">
      {({ courseId, title, parts }) => (
        <div className="flex min-h-dvh flex-col md:h-dvh">
          <Header
            crumbs={[
              { text: 'Shelf', to: `/courses/${courseId}` },
              { text: title, to: `/exercises/${exerciseId}/class` },
              { text: 'Answers from elsewhere' },
            ]}
          />
          <Entering exerciseId={exerciseId} parts={parts.map((part) => part.title)} />
        </div>
      )}
    </PageOf>
  );
}

function Entering({ exerciseId, parts }: { exerciseId: string; parts: readonly string[] }) {
  const [text, setText] = useState('');
  const look = useEntered(exerciseId);
  const enter = useEntered(exerciseId);
  const fresh = look.data?.rows.filter(({ problem, known }) => problem === null && !known).length ?? 0;
  return (
    <main className="mx-auto flex min-h-0 w-full max-w-6xl flex-1 flex-col px-5 py-6">
      <h1 className="font-serif text-[26px]">Answers from elsewhere</h1>
      <p className="mt-1 mb-4 text-slate">
        From paper, a form or another platform. They count as handed in on time, with each student’s own numbers.
      </p>
      {enter.data ? (
        <p role="status">
          {enter.data.entered} answers are handed in and being checked.{' '}
          <Link className="link" to={`/exercises/${exerciseId}/class`}>
            Class sheet
          </Link>
        </p>
      ) : look.data ? (
        <>
          <Found plan={look.data} />
          <FormError error={enter.error} />
          <div className="flex justify-end gap-2">
            <Button onClick={() => look.reset()}>Change the table</Button>
            <Button
              look="strong"
              disabled={enter.isPending || fresh === 0}
              onClick={() => enter.mutate({ text, apply: true })}
            >
              {enter.isPending ? 'Handing in …' : `Hand in ${fresh}`}
            </Button>
          </div>
        </>
      ) : (
        <>
          <Field
            label="The table"
            hint={`A column for who (e-mail, number or name), then “part” and “answer”, or a column for each part: ${parts.join(', ')}.`}
          >
            {(ids) => (
              <textarea
                {...ids}
                rows={12}
                className="input font-mono text-[13px]"
                value={text}
                placeholder={'e-mail;part;answer\nilse.okafor@harbour.example;a;4/(s^2 + 1.6*s + 4)'}
                onChange={(event) => setText(event.target.value)}
              />
            )}
          </Field>
          <FormError error={look.error} />
          <div className="mt-1 flex items-center justify-end gap-3">
            <FileButton
              words="Open a CSV file"
              accept=".csv,.tsv,.txt,text/csv"
              onFile={(file) => void readText(file).then(setText)}
            />
            <Button
              look="strong"
              disabled={look.isPending || text.trim() === ''}
              onClick={() => look.mutate({ text, apply: false })}
            >
              {look.isPending ? 'Reading …' : 'Look at it'}
            </Button>
          </div>
        </>
      )}
    </main>
  );
}

function Found({ plan: { rows } }: { plan: EnteredPlan }) {
  const cell = 'py-1.5 pr-4 text-left align-top text-[13px]';
  const unread = rows.filter(({ problem }) => problem !== null).length;
  const order = [...rows].sort((a, b) => Number(b.problem !== null) - Number(a.problem !== null) || a.line - b.line);
  return (
    <>
      <p role="status" className="mb-2 text-slate">
        {rows.length} answers{unread > 0 && <b className="font-medium text-brick">, {unread} cannot be read</b>}
      </p>
      <LongTable
        label="Answers found"
        className="min-h-0 flex-1 border-y border-rule"
        rows={order.map((row) => ({ ...row, key: `${row.line} ${row.partId} ${row.part}` }))}
        keyOf={({ key }) => key}
        height={34}
        head={
          <tr className="text-note text-slate">
            {['Line', 'Student', 'Part', 'Answer', ''].map((words) => (
              <th key={words} className={`${cell} font-normal`}>
                {words || <span className="sr-only">Problem</span>}
              </th>
            ))}
          </tr>
        }
        row={({ line, name, part, text, problem, known }) => (
          <>
            <td className={`${cell} text-slate`}>{line}</td>
            <td className={cell}>{name}</td>
            <td className={cell}>{part}</td>
            <td className={`${cell} max-w-[40ch] font-mono break-words`}>{text}</td>
            <td className={`${cell} ${problem ? 'text-brick' : 'text-slate'}`}>
              {problem ?? (known && 'entered before')}
            </td>
          </>
        )}
      />
    </>
  );
}
