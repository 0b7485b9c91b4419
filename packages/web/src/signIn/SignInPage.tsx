import type { Session } from '@nailset/core';
import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import { useSignIn } from '../api/queries';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { EmailField } from '../shared/EmailField';
import { PasswordField } from '../shared/PasswordField';
import { useTitle } from '../shared/useTitle';
import { Front } from './Front';

/** Sign-in; in demo mode with people to click. */
export function SignInPage({ session }: { session: Session }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useSignIn();
  useTitle('Sign in');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ email, password });
  };
  return (
    <Front>
      <form onSubmit={submit} className="grid gap-3">
        <h1 className="font-serif text-[22px]">Sign in</h1>
        <EmailField value={email} onChange={setEmail} />
        <PasswordField value={password} onChange={setPassword} />
        <FormError error={signIn.error} />
        <div className="flex items-center justify-between">
          <Button look="strong" type="submit" disabled={signIn.isPending}>
            {signIn.isPending ? 'Signing in …' : 'Sign in'}
          </Button>
          <Link to="/join" className="link">
            New here? Use a course code
          </Link>
        </div>
        <p className="flex justify-between text-[13px]">
          <Link to="/forgotten" className="link">
            Forgotten password
          </Link>
          <Link to="/open" className="link">
            Look at a system, without an account
          </Link>
        </p>
      </form>
      {session.demo.length > 0 && (
        <section aria-label="Demo people" className="mt-8 border-t border-rule pt-4">
          <h2 className="caption mb-2">Demo: come in as</h2>
          <ul className="grid gap-x-4 min-[460px]:grid-cols-2">
            {session.demo.map((person) => (
              <li key={person.email}>
                <button
                  type="button"
                  disabled={signIn.isPending}
                  onClick={() => signIn.mutate({ email: person.email, password: session.demoPassword ?? '' })}
                  className="group flex w-full items-baseline justify-between border-b border-grid py-1.5 text-left"
                >
                  <span className="text-petrol group-hover:underline">{person.name}</span>
                  <span className="text-note text-slate">{person.role}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </Front>
  );
}
