import { DropdownMenu } from 'radix-ui';
import { Fragment, type ReactNode, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMemberships, useSession, useSignOut } from '../api/queries';
import { Mark } from '../shared/Mark';
import { saveAll } from '../shared/saving';

/** The line at the top of every view: where one is, what stands there, who one is. */
export function Header({ crumbs = [], children }: { crumbs?: { text: string; to?: string }[]; children?: ReactNode }) {
  return (
    <header className="isolate flex min-h-[46px] flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-5 py-1.5">
      <a
        href="#content"
        className="link sr-only focus:not-sr-only"
        onClick={(event) => {
          event.preventDefault();
          const main = document.querySelector('main');
          if (main) main.tabIndex = -1;
          main?.focus();
        }}
      >
        Skip to the content
      </a>
      <Link to="/" className="flex items-center gap-2 font-serif text-[20px] leading-none" aria-label="Nailset, home">
        <Mark />
        Nailset
      </Link>
      <nav aria-label="Where you are" className="min-w-0 flex-1 truncate max-sm:order-last max-sm:basis-full">
        {crumbs.map(({ text, to }, k) => (
          <Fragment key={text}>
            {k > 0 && <span className="px-1.5 text-slate">/</span>}
            {to ? (
              <Link
                to={to}
                className="text-slate underline decoration-rule underline-offset-2 hover:text-ink hover:decoration-ink"
              >
                {text}
              </Link>
            ) : (
              <span className="font-medium">{text}</span>
            )}
          </Fragment>
        ))}
      </nav>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 text-[13px] text-slate max-sm:order-last max-sm:basis-full">
        {children}
      </div>
      <div className="ml-auto flex items-center gap-3">
        <AccountMenu />
      </div>
    </header>
  );
}

const itemLook =
  'block w-full cursor-pointer px-3 py-1.5 text-left outline-none data-[highlighted]:bg-wash whitespace-nowrap';

function AccountMenu() {
  const session = useSession();
  const memberships = useMemberships();
  const signOut = useSignOut();
  const navigate = useNavigate();
  const [told, setTold] = useState('');
  const leave = async () => {
    setTold('Signing out …');
    await saveAll();
    await signOut.mutateAsync().then(
      () => navigate('/'),
      (error: Error) => setTold(`You are still signed in. ${error.message}`),
    );
  };
  const person = session.data?.person;
  if (!person) return null;
  const initials = person.name
    .split(/\s+/)
    .map((word) => word[0])
    .slice(0, 2)
    .join('')
    .toUpperCase();
  return (
    <DropdownMenu.Root modal={false}>
      {told && (
        <span role="alert" className={`text-[13px] ${signOut.error ? 'text-brick' : 'text-slate'}`}>
          {told}
        </span>
      )}
      <DropdownMenu.Trigger className="grid size-7 place-items-center rounded-full bg-wash text-[11px] font-semibold text-petrol">
        <span aria-hidden="true">{initials}</span>
        <span className="sr-only">Account of {person.name}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-20 min-w-48 rounded-[3px] border border-rule bg-sheet py-1"
        >
          <p className="border-b border-rule px-3 pt-1 pb-2">
            <span className="block font-medium">{person.name}</span>
            <span className="text-note text-slate">{person.email}</span>
          </p>
          {memberships.map(({ courseId, course, role, archived }) => (
            <DropdownMenu.Item
              key={courseId}
              className={itemLook}
              onSelect={() => void navigate(`/courses/${courseId}`)}
            >
              {course}{' '}
              <span className="text-slate">
                · {role}
                {archived && ', archived'}
              </span>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item className={itemLook} onSelect={() => void navigate('/open')}>
            Open bench
          </DropdownMenu.Item>
          <DropdownMenu.Item className={itemLook} onSelect={() => void navigate('/join')}>
            Join or start a course
          </DropdownMenu.Item>
          <DropdownMenu.Item className={itemLook} onSelect={() => void navigate('/account')}>
            Your account
          </DropdownMenu.Item>
          <DropdownMenu.Item className={itemLook} onSelect={() => void leave()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
