import { useState } from 'react';
import { useExcuse } from '../api/course';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { DialogClose, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';

/** Lets an exercise not count for someone, with a reason that they see. */
export function ExcuseDialog({
  courseId,
  person,
  exercise,
  excused,
}: {
  courseId: string;
  person: { id: string; name: string };
  exercise: { id: string; title: string };
  excused: string | null;
}) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const excuse = useExcuse(courseId);
  const send = (isExcused: boolean) =>
    excuse.mutate(
      { exerciseId: exercise.id, personId: person.id, excused: isExcused, reason: reason.trim() || 'Counts again.' },
      { onSuccess: () => setOpen(false) },
    );
  return (
    <DialogFrame
      title={excused === null ? `Excuse ${person.name}?` : `${person.name} is excused`}
      description={
        excused === null
          ? `“${exercise.title}” then neither adds to the mark nor takes from it.`
          : `“${exercise.title}”: ${excused}`
      }
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          aria-label={`Excuse ${person.name} from ${exercise.title}`}
          className="px-0.5 text-slate opacity-0 group-hover:opacity-100 hover:text-ink focus-visible:opacity-100 print:hidden"
        >
          ⋮
        </button>
      }
    >
      {excused === null && (
        <Field label="Reason, shown to the student">
          {(ids) => (
            <input
              {...ids}
              className="input"
              maxLength={500}
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </Field>
      )}
      <FormError error={excuse.error} />
      <div className="flex justify-end gap-2">
        <DialogClose asChild>
          <Button>Cancel</Button>
        </DialogClose>
        <Button
          look="strong"
          disabled={excuse.isPending || (excused === null && reason.trim().length < 3)}
          onClick={() => send(excused === null)}
        >
          {excused === null ? 'Excuse' : 'Let it count again'}
        </Button>
      </div>
    </DialogFrame>
  );
}
