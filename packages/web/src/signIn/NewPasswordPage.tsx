import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { usePasswordByLink } from '../api/account';
import { useSession } from '../api/queries';
import { FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { PasswordField } from '../shared/PasswordField';
import { useTitle } from '../shared/useTitle';
import { Front } from './Front';

/** Where a link leads that was made for someone who forgot the password. Its token stands after the #. */
export default function NewPasswordPage() {
  const session = useSession();
  const [token] = useState(() => location.hash.slice(1));
  const [password, setPassword] = useState('');
  const set = usePasswordByLink();
  const navigate = useNavigate();
  useTitle('New password');
  // Nothing can be sent before the session has brought its token.
  if (session.isPending) return <Loading what="Opening Nailset" />;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    set.mutateAsync({ token, password }).then(
      () => void navigate('/', { replace: true }),
      () => undefined,
    );
  };
  return (
    <Front>
      <form onSubmit={submit} className="grid gap-3">
        <h1 className="font-serif text-[22px]">New password</h1>
        <PasswordField label="New password" fresh value={password} onChange={setPassword} />
        <FormError error={set.error} />
        <div className="flex items-center justify-between">
          <Button look="strong" type="submit" disabled={set.isPending}>
            Set it and sign in
          </Button>
          <Link to="/" className="link">
            I remember it
          </Link>
        </div>
      </form>
    </Front>
  );
}
