import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useChangeCourse, useCopyCourse, useLog } from '../api/course';
import { useMemberships } from '../api/queries';
import { CourseNav } from '../page/CourseNav';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { FormError } from '../page/states';
import { AskFirst } from '../shared/AskFirst';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';
import { isFoundIn } from '../shared/found';
import { LongTable } from '../shared/LongTable';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

/** What staff did to marks, dates and people; and what there is to do with the course as a whole. */
export function LogPage() {
  const { courseId = '' } = useParams();
  const log = useLog(courseId);
  const membership = useMemberships().find((entry) => entry.courseId === courseId);
  const [filter, setFilter] = useState('');
  useTitle('Log');
  const cell = 'py-1.5 pr-4 text-left align-top text-[13px]';
  return (
    <PageOf query={log} what="Opening the log">
      {(rows) => {
        const shown = rows.filter((row) =>
          isFoundIn(`${row.by} ${row.person ?? ''} ${row.exercise ?? ''} ${row.words} ${row.reason}`, filter),
        );
        return (
          <div className="flex min-h-dvh flex-col md:h-dvh">
            <Header crumbs={[{ text: membership?.course ?? 'Course', to: `/courses/${courseId}` }, { text: 'Log' }]}>
              <CourseNav courseId={courseId} />
            </Header>
            <main className="mx-auto flex min-h-0 w-full max-w-6xl flex-1 flex-col px-5 py-6">
              <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
                <h1 className="font-serif text-[26px]">Log</h1>
                <span className="text-[13px] text-slate">What changed marks, dates and people; nothing leaves it.</span>
                <span className="ml-auto flex flex-wrap justify-end gap-2">
                  <input
                    type="search"
                    className="input w-48 py-1"
                    aria-label="Find in the log"
                    placeholder="Find"
                    value={filter}
                    onChange={(event) => setFilter(event.target.value)}
                  />
                  {membership?.role === 'instructor' && <CourseActions {...membership} />}
                </span>
              </div>
              {shown.length === 0 ? (
                <p className="text-slate">Nothing {filter ? 'fits' : 'yet'}.</p>
              ) : (
                <LongTable
                  label="Log"
                  className="min-h-0 flex-1 border-t border-rule"
                  rows={shown.map((row, index) => ({ ...row, key: `${index} ${row.at}` }))}
                  keyOf={({ key }) => key}
                  height={46}
                  head={
                    <tr className="text-note text-slate">
                      {['When', 'Who', 'Whom', 'What'].map((words) => (
                        <th key={words} className={`${cell} border-b border-rule font-normal`}>
                          {words}
                        </th>
                      ))}
                    </tr>
                  }
                  row={(row) => (
                    <>
                      <td className={`${cell} whitespace-nowrap text-slate`}>{dayAndTime(row.at)}</td>
                      <td className={`${cell} whitespace-nowrap`}>{row.by}</td>
                      <td className={`${cell} max-w-[24ch]`}>{row.person}</td>
                      <td className={cell}>
                        {row.exercise && <span className="text-slate">{row.exercise}: </span>}
                        {row.words}
                        {row.reason && <span className="block text-slate">“{row.reason}”</span>}
                      </td>
                    </>
                  )}
                />
              )}
            </main>
          </div>
        );
      }}
    </PageOf>
  );
}

function CourseActions({ courseId, course, archived }: { courseId: string; course: string; archived: boolean }) {
  const change = useChangeCourse(courseId);
  return (
    <>
      <RenameDialog courseId={courseId} course={course} />
      <CopyDialog courseId={courseId} course={course} />
      {archived ? (
        <Button className="py-1" disabled={change.isPending} onClick={() => change.mutate({ archived: false })}>
          Bring back
        </Button>
      ) : (
        <AskFirst
          title="Archive the course?"
          description="Everyone can still look at everything, and nothing can be changed or handed in. You can bring it back."
          action="Archive"
          onDo={() => change.mutate({ archived: true })}
        >
          <Button className="py-1">Archive …</Button>
        </AskFirst>
      )}
      {change.error && <FormError error={change.error} />}
    </>
  );
}

function RenameDialog({ courseId, course }: { courseId: string; course: string }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(course);
  const change = useChangeCourse(courseId);
  return (
    <DialogFrame
      title="Name of the course"
      description="Everyone in it sees this name."
      open={open}
      onOpenChange={(isOpen) => {
        setOpen(isOpen);
        setName(course);
      }}
      trigger={<Button className="py-1">Rename …</Button>}
    >
      <Field label="Name">
        {(ids) => (
          <input
            {...ids}
            className="input"
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Field>
      <FormError error={change.error} />
      <DialogFoot>
        <Button
          look="strong"
          disabled={change.isPending || name.trim() === ''}
          onClick={() => change.mutate({ name }, { onSuccess: () => setOpen(false) })}
        >
          Rename
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}

/** The next year’s course: exercises, sets and dates, moved by weeks, without people. */
function CopyDialog({ courseId, course }: { courseId: string; course: string }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(`${course}, next year`);
  const [weeks, setWeeks] = useState('52');
  const copy = useCopyCourse(courseId);
  const navigate = useNavigate();
  const moved = /^-?\d{1,3}$/.test(weeks.trim()) ? Number(weeks) : undefined;
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const make = () =>
    copy.mutate({ name, weeks: moved ?? 0, zone }, { onSuccess: ({ id }) => void navigate(`/courses/${id}`) });
  return (
    <DialogFrame
      title="Copy for the next year"
      description="Exercises, how marks are made, and dates; nobody else is in it."
      open={open}
      onOpenChange={setOpen}
      trigger={<Button className="py-1">Copy …</Button>}
    >
      <div className="grid grid-cols-[1fr_120px] gap-3">
        <Field label="Name">
          {(ids) => (
            <input
              {...ids}
              className="input"
              maxLength={100}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Field>
        <Field label="Dates move by weeks" error={moved === undefined ? 'A whole number is needed.' : undefined}>
          {(ids) => (
            <input {...ids} className="input" value={weeks} onChange={(event) => setWeeks(event.target.value)} />
          )}
        </Field>
      </div>
      <FormError error={copy.error} />
      <DialogFoot>
        <Button look="strong" disabled={copy.isPending || moved === undefined || name.trim() === ''} onClick={make}>
          Copy
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}
