import type { Role } from '@nailset/core';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../shared/Button';

const told: Record<Role, string> = {
  instructor: 'An instructor makes exercises, changes people and dates, and sees every answer and mark.',
  assistant: 'An assistant sees every answer and mark, and sets points with a reason.',
  student: 'A student sees and hands in their own work only.',
};

/** Someone’s role; another one is asked about first. */
export function RoleSelect({
  person,
  busy,
  onRole,
}: {
  person: { name: string; role: Role };
  busy: boolean;
  onRole: (role: Role) => void;
}) {
  const [wanted, setWanted] = useState<Role>();
  return (
    <>
      <select
        aria-label={`Role of ${person.name}`}
        className="input border-transparent bg-transparent px-1 py-0.5 hover:border-rule"
        value={person.role}
        disabled={busy}
        onChange={(event) => setWanted(event.target.value as Role)}
      >
        <option value="student">student</option>
        <option value="assistant">assistant</option>
        <option value="instructor">instructor</option>
      </select>
      <AlertDialog.Root open={wanted !== undefined} onOpenChange={(open) => !open && setWanted(undefined)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 z-40 w-[min(92vw,420px)] -translate-1/2 rounded-[3px] border border-rule bg-sheet p-5">
            <AlertDialog.Title className="font-serif text-lg">
              Make {person.name} {wanted === 'student' ? 'a' : 'an'} {wanted}?
            </AlertDialog.Title>
            <AlertDialog.Description className="mt-2 mb-4">{wanted && told[wanted]}</AlertDialog.Description>
            <div className="flex justify-end gap-2">
              <AlertDialog.Cancel asChild>
                <Button>Keep {person.role}</Button>
              </AlertDialog.Cancel>
              <AlertDialog.Action asChild>
                <Button look="strong" onClick={() => wanted && onRole(wanted)}>
                  Make {wanted}
                </Button>
              </AlertDialog.Action>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </>
  );
}
