import { AlertDialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import { usePageOwner } from '../api/page';
import { useFresh } from '../api/queries';
import { Button } from '../shared/Button';

/** Stops a page whose browser someone else has signed in on since; what was typed stays for its owner. */
export function OtherPerson() {
  const { person, other } = usePageOwner();
  const fresh = useFresh();
  const navigate = useNavigate();
  if (!person || !other) return null;
  const goOn = async () => {
    await navigate('/');
    await fresh();
  };
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[min(92vw,420px)] -translate-x-1/2 -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5">
          <AlertDialog.Title className="font-serif text-lg">This page is {person.name}’s</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-4">
            {other.name} has signed in in this browser since, so nothing more is sent from here. What was typed is kept
            in this browser until {person.name} signs in again.
          </AlertDialog.Description>
          <div className="flex justify-end">
            <Button look="strong" onClick={() => void goOn()}>
              Go on as {other.name}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
