import { type FormEvent, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useJoin, useMemberships, useNewCourse, useRegister, useSession } from '../api/queries';
import { Header } from '../page/Header';
import { FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { EmailField } from '../shared/EmailField';
import { Field } from '../shared/Field';
import { PasswordField } from '../shared/PasswordField';
import { useTitle } from '../shared/useTitle';
import { Front } from './Front';

/** Getting in: an account for someone new, a course code or a course of one's own for someone signed in. */
export function JoinPage() {
  const session = useSession();
  useTitle('Join a course');
  if (session.isPending) return <Loading what="Opening Nailset" />;
  if (!session.data?.person) return <NewAccount />;
  return (
    <>
      <Header crumbs={[{ text: 'Join or start a course' }]} />
      <main className="mx-auto grid max-w-4xl gap-12 px-6 py-10 md:grid-cols-2">
        <JoinCourse />
        <StartCourse />
      </main>
    </>
  );
}

/** Goes on after a change that worked, even though the form is gone by then; a failure is shown by the form. */
function whenDone<T>(change: Promise<T>, goOn: (result: T) => void): void {
  change.then(goOn, () => undefined);
}

function NewAccount() {
  const [query] = useSearchParams();
  const [form, setForm] = useState({ name: '', email: '', password: '', joinCode: query.get('code') ?? '' });
  const register = useRegister();
  const navigate = useNavigate();
  const field = (name: keyof typeof form) => ({
    value: form[name],
    className: 'input',
    onChange: (event: { target: { value: string } }) => setForm({ ...form, [name]: event.target.value }),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { joinCode, ...rest } = form;
    const body = joinCode.trim() ? { ...rest, joinCode } : rest;
    whenDone(register.mutateAsync(body), () => void navigate('/'));
  };
  return (
    <Front>
      <form onSubmit={submit} className="grid gap-3">
        <h1 className="font-serif text-[22px]">New here</h1>
        <Field label="Course code" hint="From your instructor. Leave empty to start a course of your own.">
          {(ids) => <input {...ids} {...field('joinCode')} maxLength={20} autoComplete="off" />}
        </Field>
        <Field label="Name">
          {(ids) => <input {...ids} {...field('name')} required maxLength={100} autoComplete="name" />}
        </Field>
        <EmailField value={form.email} onChange={(email) => setForm((before) => ({ ...before, email }))} />
        <PasswordField
          fresh
          value={form.password}
          onChange={(password) => setForm((before) => ({ ...before, password }))}
        />
        <FormError error={register.error} />
        <div className="flex items-center justify-between">
          <Button look="strong" type="submit" disabled={register.isPending}>
            {register.isPending ? 'One moment …' : 'Make my account'}
          </Button>
          <Link to="/" className="link">
            I have one: sign in
          </Link>
        </div>
      </form>
    </Front>
  );
}

function JoinCourse() {
  const [query] = useSearchParams();
  const [code, setCode] = useState(query.get('code') ?? '');
  const join = useJoin();
  const navigate = useNavigate();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    whenDone(join.mutateAsync(code), ({ id }) => void navigate(`/courses/${id}`));
  };
  return (
    <form onSubmit={submit} className="grid content-start gap-3">
      <h1 className="font-serif text-[22px]">Join a course</h1>
      <Field label="Course code" hint="Eight letters and digits, from your instructor.">
        {(ids) => (
          <input
            {...ids}
            className="input"
            required
            maxLength={20}
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
        )}
      </Field>
      <FormError error={join.error} />
      <Button look="strong" type="submit" className="justify-self-start" disabled={join.isPending}>
        Join
      </Button>
    </form>
  );
}

function StartCourse() {
  const teaches = useMemberships().some(({ role }) => role === 'instructor');
  const [name, setName] = useState('');
  const [courseKey, setCourseKey] = useState('');
  const start = useNewCourse();
  const navigate = useNavigate();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    whenDone(start.mutateAsync(teaches ? { name } : { name, courseKey }), ({ id }) => void navigate(`/courses/${id}`));
  };
  return (
    <form onSubmit={submit} className="grid content-start gap-3">
      <h2 className="font-serif text-[22px]">Start a course</h2>
      <Field label="Name of the course">
        {(ids) => (
          <input
            {...ids}
            className="input"
            required
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Field>
      {!teaches && (
        <Field label="Course key" hint="Shown where Nailset was started.">
          {(ids) => (
            <input
              {...ids}
              className="input"
              required
              maxLength={100}
              value={courseKey}
              onChange={(event) => setCourseKey(event.target.value)}
            />
          )}
        </Field>
      )}
      <FormError error={start.error} />
      <Button look="strong" type="submit" className="justify-self-start" disabled={start.isPending}>
        Start it
      </Button>
    </form>
  );
}
