import { useState } from 'react';
import { useExcuse } from '../api/course';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { Field } from '../shared/Field';

/** Whom to excuse from what, and the button that asked for it. */
export interface Excusing {
  readonly person: { readonly id: string; readonly name: string };
  readonly exercise: { readonly id: string; readonly title: string };
  /** The reason for which they are excused already. */
  readonly excused: string | null;
  readonly button: HTMLElement;
}

/** Lets an exercise not count for someone, with a reason that they see. */
export function ExcuseDialog({
  courseId,
  of: { person, exercise, excused, button },
  onClose,
}: {
  courseId: string;
  of: Excusing;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const excuse = useExcuse(courseId);
  const send = (isExcused: boolean) =>
    excuse.mutate(
      { exerciseId: exercise.id, personId: person.id, excused: isExcused, reason: reason.trim() || 'Counts again.' },
      { onSuccess: onClose },
    );
  return (
    <DialogFrame
      title={excused === null ? `Excuse ${person.name}?` : `${person.name} is excused`}
      description={
        excused === null
          ? `“${exercise.title}” then neither adds to the mark nor takes from it.`
          : `“${exercise.title}”: ${excused}`
      }
      open
      onOpenChange={(open) => !open && onClose()}
      returnTo={button}
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
      <DialogFoot>
        <Button
          look="strong"
          disabled={excuse.isPending || (excused === null && reason.trim().length < 3)}
          onClick={() => send(excused === null)}
        >
          {excused === null ? 'Excuse' : 'Let it count again'}
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}
