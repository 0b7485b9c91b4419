import type { SessionRow } from '@nailset/core';
import { type FormEvent, useState } from 'react';
import { useChangePassword, useDeleteAccount, useEndSessions, useSessions } from '../api/account';
import { useLeave } from '../api/course';
import { useMemberships, usePerson } from '../api/queries';
import { Header } from '../page/Header';
import { ErrorNote, FormError, Loading } from '../page/states';
import { AskFirst } from '../shared/AskFirst';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { PasswordField } from '../shared/PasswordField';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

/** One's own account: the password, and every browser that is signed in. */
export default function AccountPage() {
  const person = usePerson();
  useTitle('Your account');
  return (
    <>
      <Header crumbs={[{ text: 'Your account' }]} />
      <main className="mx-auto max-w-4xl px-5 py-8">
        <h1 className="font-serif text-[26px]">{person.name}</h1>
        <p className="text-slate">{person.email}</p>
        <div className="mt-8 grid gap-x-16 gap-y-10 md:grid-cols-[300px_1fr]">
          <ChangePassword />
          <SignedIn />
        </div>
        <OwnData />
        <p className="mt-12 border-t border-rule pt-3 text-[13px]">
          <a className="link" href="/notices.txt">
            Licences of what Nailset is made of
          </a>
        </p>
      </main>
    </>
  );
}

/** What is kept of oneself: as a file, or deleted; and the courses that one may leave. */
function OwnData() {
  const memberships = useMemberships();
  return (
    <section className="mt-12 grid gap-3">
      <h2 className="font-serif text-[20px]">Your data</h2>
      <p>
        <a className="link" href="/api/me/data" download>
          Everything that is kept of you, as one file
        </a>
      </p>
      {memberships.map((membership) => (
        <LeaveCourse key={membership.courseId} {...membership} />
      ))}
      <DeleteAccount />
    </section>
  );
}

function LeaveCourse({ courseId, course, role }: { courseId: string; course: string; role: string }) {
  const leave = useLeave(courseId);
  return (
    <div className="flex flex-wrap items-baseline gap-x-4">
      <span>
        {course} <span className="text-slate">· {role}</span>
      </span>
      <AskFirst
        title={`Leave ${course}?`}
        description="You see it no more. What you handed in is kept, and the course code brings you back."
        action="Leave"
        onDo={() => leave.mutate(undefined)}
      >
        <button type="button" className="link text-[13px]" aria-label={`Leave ${course}`}>
          Leave …
        </button>
      </AskFirst>
      <FormError error={leave.error} />
    </div>
  );
}

function DeleteAccount() {
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState('');
  const remove = useDeleteAccount();
  return (
    <DialogFrame
      title="Delete your account?"
      description="Name, e-mail and everything unfinished go for good. What you handed in stays without your name, as marks were made of it."
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button type="button" className="link justify-self-start text-[13px]">
          Delete the account …
        </button>
      }
    >
      <PasswordField label="Password" value={password} onChange={setPassword} />
      <FormError error={remove.error} />
      <DialogFoot leave="Keep it">
        <Button look="strong" disabled={remove.isPending || password === ''} onClick={() => remove.mutate(password)}>
          Delete for good
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}

function ChangePassword() {
  const [current, setCurrent] = useState('');
  const [password, setPassword] = useState('');
  const change = useChangePassword();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const done = () => {
      setCurrent('');
      setPassword('');
    };
    change.mutate({ current, password }, { onSuccess: done });
  };
  return (
    <form onSubmit={submit} className="grid content-start gap-3">
      <h2 className="font-serif text-[20px]">Password</h2>
      <PasswordField label="Present password" value={current} onChange={setCurrent} />
      <PasswordField label="New password" fresh value={password} onChange={setPassword} />
      <FormError error={change.error} />
      <div className="flex items-center gap-4">
        <Button look="strong" type="submit" disabled={change.isPending}>
          Change it
        </Button>
        <p role="status" className="text-[13px] text-moss">
          {change.isSuccess && !current && 'Changed. Other browsers are signed out.'}
        </p>
      </div>
    </form>
  );
}

function SignedIn() {
  const sessions = useSessions();
  const end = useEndSessions();
  if (sessions.isPending) return <Loading what="Looking up where you are signed in" />;
  if (!sessions.data) return <ErrorNote error={sessions.error} retry={() => void sessions.refetch()} />;
  const others = sessions.data.filter(({ current }) => !current);
  return (
    <section aria-label="Signed in">
      <div className="mb-3 flex items-baseline justify-between">
        <h2 className="font-serif text-[20px]">Signed in</h2>
        {others.length > 1 && (
          <Button look="quiet" disabled={end.isPending} onClick={() => end.mutate(undefined)}>
            Sign out everywhere else
          </Button>
        )}
      </div>
      <ul className="border-t border-rule">
        {sessions.data.map((row) => (
          <Row key={row.id} row={row} end={() => end.mutate(row.id)} busy={end.isPending} />
        ))}
      </ul>
      <FormError error={end.error} />
    </section>
  );
}

function Row({
  row: { browser, createdAt, seenAt, current },
  end,
  busy,
}: {
  row: SessionRow;
  end: () => void;
  busy: boolean;
}) {
  return (
    <li className="flex items-center justify-between gap-4 border-b border-grid py-2">
      <div>
        <p>{browser}</p>
        <p className="text-note text-slate">
          since {dayAndTime(createdAt)}
          {!current && `, last seen ${dayAndTime(seenAt)}`}
        </p>
      </div>
      {current ? (
        <span className="text-[13px] text-moss">this browser</span>
      ) : (
        <Button aria-label={`Sign out ${browser}, since ${dayAndTime(createdAt)}`} disabled={busy} onClick={end}>
          Sign out
        </Button>
      )}
    </li>
  );
}
