import type { CoursePeople, Role } from '@nailset/core';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { useChangeMember } from '../api/course';
import { useChangeRole, useCoursePeople, useMemberships, usePerson } from '../api/queries';
import { CourseNav } from '../page/CourseNav';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { ErrorNote } from '../page/states';
import { AskFirst } from '../shared/AskFirst';
import { Button } from '../shared/Button';
import { copyText } from '../shared/copyText';
import { isFoundIn } from '../shared/found';
import { LongTable } from '../shared/LongTable';
import { useTitle } from '../shared/useTitle';
import { LinksDialog } from './LinksDialog';
import { ListDialog } from './ListDialog';
import { ResetLinkDialog } from './ResetLinkDialog';
import { RoleSelect } from './RoleSelect';

export type CoursePerson = CoursePeople['people'][number];

/** Everyone in a course: who they are, how they get in, and who is not in it any more. */
export function PeoplePage() {
  const { courseId = '' } = useParams();
  const people = useCoursePeople(courseId);
  useTitle('People');
  return (
    <PageOf query={people} what="Looking up people">
      {(data) => <Loaded courseId={courseId} data={data} />}
    </PageOf>
  );
}

function Loaded({ courseId, data }: { courseId: string; data: CoursePeople }) {
  const [words, setWords] = useState('');
  const [group, setGroup] = useState('');
  const mayChange = useMemberships().find((entry) => entry.courseId === courseId)?.role === 'instructor';
  const here = data.people.filter(({ removed }) => !removed);
  const gone = data.people.filter(({ removed }) => removed);
  const groups = useMemo(() => groupsOf(data.people), [data.people]);
  const shown = here.filter(
    (person) =>
      isFoundIn(`${person.name} ${person.email} ${person.studentNumber}`, words) &&
      (group === '' || person.group === group),
  );
  const waiting = here.filter((person) => person.waiting && person.role === 'student').length;
  const count = here.filter(({ role }) => role === 'student').length;
  return (
    <div className="flex min-h-dvh flex-col md:h-dvh">
      <Header crumbs={[{ text: data.course, to: `/courses/${courseId}` }, { text: 'People' }]}>
        <CourseNav courseId={courseId} />
      </Header>
      <main className="mx-auto flex min-h-0 w-full max-w-6xl flex-1 flex-col px-5 py-6">
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
          <h1 className="font-serif text-[26px]">People</h1>
          <span className="text-slate">
            {count === 1 ? '1 student' : `${count} students`}
            {waiting > 0 && `, ${waiting} not in yet`}
          </span>
          {mayChange && (
            <span className="ml-auto flex flex-wrap justify-end gap-2">
              {waiting > 0 && <LinksDialog courseId={courseId} waiting={waiting} mail={data.mail} />}
              <ListDialog courseId={courseId} />
            </span>
          )}
        </div>
        <Invitation code={data.joinCode} />
        <div className="mb-3 flex flex-wrap gap-3">
          <input
            type="search"
            className="input max-w-64"
            aria-label="Find by name, e-mail or number"
            placeholder="Find by name, e-mail or number"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          {groups.length > 0 && (
            <select
              aria-label="Group"
              className="input w-44"
              value={group}
              onChange={(event) => setGroup(event.target.value)}
            >
              <option value="">every group</option>
              {groups.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          )}
        </div>
        <People {...{ courseId, mayChange }} people={shown} />
        {gone.length > 0 && <Gone {...{ courseId, mayChange }} people={gone} />}
      </main>
    </div>
  );
}

export const groupsOf = (people: readonly { group: string }[]): string[] =>
  [...new Set(people.map(({ group }) => group))]
    .filter(Boolean)
    .sort((a, b) => a.localeCompare(b, undefined, { numeric: true }));

const cell = 'py-1 pr-3 text-left';

function People({
  courseId,
  people,
  mayChange,
}: {
  courseId: string;
  people: readonly CoursePerson[];
  mayChange: boolean;
}) {
  const role = useChangeRole(courseId);
  const member = useChangeMember(courseId);
  const me = usePerson();
  const error = role.error ?? member.error;
  if (people.length === 0) return <p className="py-6 text-slate">Nobody fits.</p>;
  return (
    <>
      {error && <ErrorNote error={error} />}
      <LongTable
        label="People"
        className="min-h-0 flex-1 border-t border-rule"
        rows={people}
        keyOf={({ id }) => id}
        height={37}
        tableClass="w-full min-w-[640px]"
        head={
          <tr className="border-b border-rule text-note text-slate">
            {['Name', 'E-mail', 'Number', 'Group', 'Role', ''].map((words) => (
              <th key={words} className={`${cell} font-normal`}>
                {words || <span className="sr-only">Changes</span>}
              </th>
            ))}
          </tr>
        }
        row={(person) => (
          <>
            <th scope="row" className={`${cell} max-w-[30ch] truncate font-normal`} title={person.name}>
              {person.name}
              {person.waiting && <span className="ml-2 text-note text-copper">not in yet</span>}
            </th>
            <td className={`${cell} max-w-[30ch] truncate text-[13px] text-slate`} title={person.email}>
              {person.email}
            </td>
            {(['studentNumber', 'group'] as const).map((name) => (
              <td key={name} className={`${cell} w-28 text-[13px]`}>
                {mayChange && person.role === 'student' ? (
                  <SmallText
                    label={`${name === 'group' ? 'Group' : 'Number'} of ${person.name}`}
                    value={person[name]}
                    onChange={(text) => member.mutate({ personId: person.id, [name]: text })}
                  />
                ) : (
                  person[name]
                )}
              </td>
            ))}
            <td className={`${cell} w-32`}>
              {mayChange && person.id !== me.id ? (
                <RoleSelect
                  person={person}
                  busy={role.isPending}
                  onRole={(to) => role.mutate({ personId: person.id, role: to })}
                />
              ) : (
                person.role
              )}
            </td>
            <td className="py-1 text-right whitespace-nowrap">
              {person.id !== me.id && mayReset(person.role, mayChange) && (
                <ResetLinkDialog courseId={courseId} person={person} />
              )}
              {mayChange && person.id !== me.id && (
                <AskFirst
                  title={`Take ${person.name} out?`}
                  description="What they handed in is kept and comes back with them."
                  action="Take out"
                  onDo={() => member.mutate({ personId: person.id, removed: true })}
                >
                  <button type="button" className="link ml-4 text-[13px]">
                    Take out … <span className="sr-only">{person.name}</span>
                  </button>
                </AskFirst>
              )}
            </td>
          </>
        )}
      />
    </>
  );
}

const mayReset = (role: Role, mayChange: boolean): boolean => role === 'student' || (mayChange && role === 'assistant');

/** A short text that is saved when it is left or Enter is pressed; Escape takes it back. */
function SmallText({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  return (
    <input
      key={value}
      aria-label={label}
      className="input border-transparent bg-transparent px-1 py-0.5 text-[13px] hover:border-rule"
      defaultValue={value}
      maxLength={60}
      onBlur={({ target }) => target.value.trim() !== value && onChange(target.value.trim())}
      onKeyDown={(event) => {
        if (event.key === 'Escape') event.currentTarget.value = value;
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
      }}
    />
  );
}

/** Who was taken out or left. */
function Gone({
  courseId,
  people,
  mayChange,
}: {
  courseId: string;
  people: readonly CoursePerson[];
  mayChange: boolean;
}) {
  const member = useChangeMember(courseId);
  return (
    <details className="mt-4 text-[13px]">
      <summary className="cursor-pointer text-slate">Not in the course any more, {people.length}</summary>
      <ul className="mt-2 max-h-60 overflow-y-auto">
        {people.map(({ id, name }) => (
          <li key={id} className="flex items-baseline justify-between gap-3 border-t border-grid py-1.5">
            {name}
            {mayChange && (
              <Button
                look="quiet"
                disabled={member.isPending}
                onClick={() => member.mutate({ personId: id, removed: false })}
              >
                Bring back <span className="sr-only">{name}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Invitation({ code }: { code: string }) {
  const [copied, setCopied] = useState(false);
  const address = `${location.origin}/join?code=${code}`;
  const copy = () => void copyText(address).then(setCopied);
  return (
    <p className="my-3 flex flex-wrap items-center gap-3 text-slate">
      Students join at <span className="font-mono text-[13px] break-all text-ink">{address}</span>
      <Button className="py-0.5" onClick={copy}>
        {copied ? 'Copied' : 'Copy'}
      </Button>
    </p>
  );
}
