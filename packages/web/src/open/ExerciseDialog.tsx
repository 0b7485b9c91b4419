import { readLines, type Sheet } from '@nailset/core';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useMemberships, useNewExercise } from '../api/queries';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { exerciseOf, partOffers } from './sheet/exercise';

/** Which parts an exercise of the sheet gets, and in which course. */
export default function ExerciseDialog({
  sheet,
  chosen,
  onClose,
}: {
  sheet: Sheet;
  /** The system that it is about. */
  chosen: string;
  onClose: () => void;
}) {
  const teaching = useMemberships().filter(({ role }) => role === 'instructor');
  const [courseId, setCourse] = useState(teaching[0]?.courseId ?? '');
  const read = useMemo(() => readLines(sheet.lines), [sheet.lines]);
  const offers = useMemo(() => partOffers(sheet, read, chosen), [sheet, read, chosen]);
  const [wanted, setWanted] = useState<readonly string[]>(() => offers.slice(0, 1).map(({ words }) => words));
  const create = useNewExercise(courseId);
  const navigate = useNavigate();
  const make = async () => {
    const parts = offers.filter(({ words }) => wanted.includes(words));
    await create.mutateAsync(exerciseOf(sheet, read, chosen, parts)).then(
      ({ id }) => navigate(`/exercises/${id}/build`),
      () => undefined,
    );
  };
  return (
    <DialogFrame
      title="An exercise of this sheet"
      open
      onOpenChange={(open) => !open && onClose()}
      width="w-[min(460px,94vw)]"
    >
      <fieldset className="mt-3 grid gap-1.5">
        <legend className="mb-1 text-slate">It asks for</legend>
        {offers.map(({ words }) => (
          <label key={words} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={wanted.includes(words)}
              onChange={(event) =>
                setWanted(event.target.checked ? [...wanted, words] : wanted.filter((each) => each !== words))
              }
            />
            {words}
          </label>
        ))}
      </fieldset>
      {teaching.length > 1 && (
        <label className="mt-3 block">
          in{' '}
          <select
            className="bg-transparent text-petrol"
            value={courseId}
            onChange={(event) => setCourse(event.target.value)}
          >
            {teaching.map((each) => (
              <option key={each.courseId} value={each.courseId}>
                {each.course}
              </option>
            ))}
          </select>
        </label>
      )}
      {sheet.unit !== 's' && (
        <p role="alert" className="mt-2 text-brick">
          Exercises count in seconds, this sheet in {sheet.unit}. Write its systems in seconds first.
        </p>
      )}
      {create.error && (
        <p role="alert" className="mt-2 text-brick">
          {create.error.message}
        </p>
      )}
      <DialogFoot leave="Close">
        <Button
          look="strong"
          disabled={wanted.length === 0 || create.isPending || sheet.unit !== 's'}
          onClick={() => void make()}
        >
          Open it in the builder
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}
