import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import { useAskForLink } from '../api/account';
import { useSession } from '../api/queries';
import { FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { EmailField } from '../shared/EmailField';
import { useTitle } from '../shared/useTitle';
import { Front } from './Front';

/** A way back for someone who forgot the password: by mail, or through the staff of the course. */
export default function ForgottenPage() {
  const session = useSession();
  useTitle('Forgotten password');
  if (session.isPending) return <Loading what="Opening Nailset" />;
  return (
    <Front>
      <h1 className="mb-3 font-serif text-[22px]">Forgotten password</h1>
      {session.data?.mail ? (
        <AskByMail />
      ) : (
        <p className="text-slate">Ask your instructor for a link to set a new one.</p>
      )}
      <p className="mt-4">
        <Link to="/" className="link">
          Back to sign in
        </Link>
      </p>
    </Front>
  );
}

function AskByMail() {
  const [email, setEmail] = useState('');
  const ask = useAskForLink();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate(email);
  };
  if (ask.isSuccess) {
    return <p role="status">If {email} has an account, a link is on its way there. It works once, for three days.</p>;
  }
  return (
    <form onSubmit={submit} className="grid gap-3">
      <EmailField value={email} onChange={setEmail} />
      <FormError error={ask.error} />
      <Button look="strong" type="submit" className="justify-self-start" disabled={ask.isPending}>
        Send me a link
      </Button>
    </form>
  );
}
