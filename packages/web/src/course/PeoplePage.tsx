import type { Role } from '@nailset/core';
import { useState } from 'react';
import { useParams } from 'react-router';
import { useChangeRole, useCoursePeople, useMemberships, usePerson } from '../api/queries';
import { Header } from '../page/Header';
import { ErrorNote, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { useTitle } from '../shared/useTitle';
import { ResetLinkDialog } from './ResetLinkDialog';

/** Everyone in a course with their role, and how others get in. */
export function PeoplePage() {
  const { courseId = '' } = useParams();
  const people = useCoursePeople(courseId);
  const change = useChangeRole(courseId);
  const me = usePerson();
  const mayChange = useMemberships().find((entry) => entry.courseId === courseId)?.role === 'instructor';
  useTitle('People');
  return (
    <>
      <Header
        crumbs={people.data ? [{ text: people.data.course, to: `/courses/${courseId}` }, { text: 'People' }] : []}
      />
      <main className="mx-auto max-w-3xl px-5 py-8">
        {people.isPending && <Loading what="Looking up people" />}
        {people.error && <ErrorNote error={people.error} retry={() => void people.refetch()} />}
        {people.data && (
          <>
            <h1 className="font-serif text-[26px]">People</h1>
            <Invitation code={people.data.joinCode} />
            {change.error && <ErrorNote error={change.error} />}
            <table className="w-full border-t border-rule">
              <thead className="sr-only">
                <tr>
                  <th>Name</th>
                  <th>E-mail</th>
                  <th>Password</th>
                  <th>Role</th>
                </tr>
              </thead>
              <tbody>
                {people.data.people.map(({ id, name, email, role }) => (
                  <tr key={id} className="border-b border-grid">
                    <td className="py-1.5 pr-3">{name}</td>
                    <td className="px-3 text-[13px] text-slate max-[560px]:hidden">{email}</td>
                    <td className="py-1.5 text-right">
                      {id !== me.id && (role === 'student' || (mayChange && role === 'assistant')) && (
                        <ResetLinkDialog courseId={courseId} person={{ id, name }} />
                      )}
                    </td>
                    <td className="w-36 py-1 pl-3">
                      {mayChange && id !== me.id ? (
                        <select
                          aria-label={`Role of ${name}`}
                          className="input py-1"
                          value={role}
                          disabled={change.isPending}
                          onChange={(event) => change.mutate({ personId: id, role: event.target.value as Role })}
                        >
                          <option value="student">student</option>
                          <option value="assistant">assistant</option>
                          <option value="instructor">instructor</option>
                        </select>
                      ) : (
                        <span className="px-2.5">{role}</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </main>
    </>
  );
}

function Invitation({ code }: { code: string }) {
  const [copied, setCopied] = useState(false);
  const address = `${location.origin}/join?code=${code}`;
  const copy = () => void navigator.clipboard.writeText(address).then(() => setCopied(true));
  return (
    <p className="my-4 flex flex-wrap items-center gap-3 text-slate">
      Students join at <span className="font-mono text-[13px] break-all text-ink">{address}</span>
      <Button className="py-1" onClick={copy}>
        {copied ? 'Copied' : 'Copy'}
      </Button>
    </p>
  );
}
