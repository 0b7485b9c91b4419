import type { CoursePeople, ExtensionRow } from '@nailset/core';
import { useState } from 'react';
import { useDates, useEndExtension, useExtend } from '../api/course';
import { useCoursePeople } from '../api/queries';
import { ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { DecimalField } from '../shared/DecimalField';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';
import { dayAndTime } from '../shared/time';
import { DueField } from './DueField';

/** Dates of some: extensions for a person or a group, with the reason that they see. */
export function DatesDialog({ exerciseId, courseId }: { exerciseId: string; courseId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <DialogFrame
      title="Dates of their own"
      description="For a group or a person, instead of everyone’s. They see theirs, with the reason."
      open={open}
      onOpenChange={setOpen}
      width="w-[min(94vw,620px)]"
      trigger={
        <button type="button" className="link text-[13px]">
          Dates for some …
        </button>
      }
    >
      {open && <Extensions {...{ exerciseId, courseId }} />}
      <DialogFoot leave="Close" />
    </DialogFrame>
  );
}

function Extensions({ exerciseId, courseId }: { exerciseId: string; courseId: string }) {
  const dates = useDates(exerciseId);
  const people = useCoursePeople(courseId);
  const end = useEndExtension(exerciseId);
  if (dates.isPending || people.isPending) return <Loading what="Looking up dates" />;
  if (!dates.data || !people.data) return <ErrorNote error={dates.error ?? people.error} />;
  const students = people.data.people.filter(({ role, removed }) => role === 'student' && !removed);
  const nameOf = (id: string | null) => students.find((person) => person.id === id)?.name ?? 'someone who left';
  return (
    <>
      {dates.data.extensions.length > 0 && (
        <ul aria-label="Dates of some" className="mb-4 max-h-44 overflow-y-auto border-t border-rule text-[13px]">
          {dates.data.extensions.map((extension) => {
            const who = extension.group === null ? nameOf(extension.personId) : `Group ${extension.group}`;
            return (
              <li key={extension.id} className="flex items-baseline justify-between gap-3 border-b border-grid py-1.5">
                <span>
                  <b className="font-medium">{who}</b>: {datesWords(extension)}
                  <span className="block text-slate">
                    “{extension.reason}” · {extension.by}
                  </span>
                </span>
                <button
                  type="button"
                  className="link"
                  disabled={end.isPending}
                  onClick={() => end.mutate(extension.id)}
                >
                  Take away <span className="sr-only">the dates of {who}</span>
                </button>
              </li>
            );
          })}
        </ul>
      )}
      <FormError error={end.error} />
      <NewDates exerciseId={exerciseId} students={students} />
    </>
  );
}

const datesWords = ({ visibleFrom, dueAt, late }: ExtensionRow): string =>
  [
    ...(visibleFrom ? [`visible from ${dayAndTime(visibleFrom)}`] : []),
    ...(dueAt ? [`due ${dayAndTime(dueAt)}`] : []),
    ...(late ? [`${late.hours} h late keep ${late.keepPercent} %`] : []),
  ].join(', ');

function NewDates({ exerciseId, students }: { exerciseId: string; students: CoursePeople['people'] }) {
  const extend = useExtend(exerciseId);
  const [who, setWho] = useState('');
  const [visibleFrom, setVisibleFrom] = useState<string | null>(null);
  const [dueAt, setDueAt] = useState<string | null>(null);
  const [late, setLate] = useState<{ hours: number; keepPercent: number } | null>(null);
  const [reason, setReason] = useState('');
  const [made, setMade] = useState(0);
  const groups = [...new Set(students.map(({ group }) => group))].filter(Boolean).sort();
  const send = () => {
    const [kind, ...rest] = who.split(' ');
    const name = rest.join(' ');
    extend.mutate(
      {
        personIds: kind === 'person' ? [name] : [],
        groups: kind === 'group' ? [name] : [],
        ...{ visibleFrom, dueAt, late, reason },
      },
      {
        onSuccess: () => {
          setWho('');
          setReason('');
          setVisibleFrom(null);
          setDueAt(null);
          setLate(null);
          setMade(made + 1);
        },
      },
    );
  };
  return (
    <div key={made} className="grid gap-3">
      <Field label="For">
        {(ids) => (
          <select {...ids} className="input" value={who} onChange={(event) => setWho(event.target.value)}>
            <option value="">choose …</option>
            {groups.length > 0 && (
              <optgroup label="Groups">
                {groups.map((group) => (
                  <option key={group} value={`group ${group}`}>
                    {group}
                  </option>
                ))}
              </optgroup>
            )}
            <optgroup label="Students">
              {students.map(({ id, name, studentNumber }) => (
                <option key={id} value={`person ${id}`}>
                  {name}
                  {studentNumber && ` (${studentNumber})`}
                </option>
              ))}
            </optgroup>
          </select>
        )}
      </Field>
      <div className="grid gap-3 sm:grid-cols-2">
        <DueField dueAt={dueAt} disabled={false} none="as for everyone" onDue={setDueAt} />
        <DueField which="visible" dueAt={visibleFrom} disabled={false} none="as for everyone" onDue={setVisibleFrom} />
      </div>
      <div className="grid grid-cols-[1fr_110px_110px] items-end gap-3">
        <label className="label">
          Late answers
          <select
            className="input mt-1"
            value={late ? 'own' : 'as'}
            onChange={(event) => setLate(event.target.value === 'own' ? { hours: 24, keepPercent: 50 } : null)}
          >
            <option value="as">as for everyone</option>
            <option value="own">a rule of their own</option>
          </select>
        </label>
        {late && (
          <>
            <DecimalField
              label="Hours late"
              unit="h"
              min={0.01}
              max={8760}
              value={late.hours}
              onChange={(hours) => setLate({ ...late, hours })}
            />
            <DecimalField
              label="Late answers keep"
              unit="%"
              min={0}
              max={100}
              value={late.keepPercent}
              onChange={(keepPercent) => setLate({ ...late, keepPercent })}
            />
          </>
        )}
      </div>
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
      <div className="flex items-center justify-end gap-3">
        <FormError error={extend.error} />
        <Button
          look="strong"
          disabled={extend.isPending || who === '' || reason.trim().length < 3 || (!dueAt && !visibleFrom && !late)}
          onClick={send}
        >
          Give these dates
        </Button>
      </div>
    </div>
  );
}
