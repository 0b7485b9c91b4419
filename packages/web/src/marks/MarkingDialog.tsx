import { type Marking, markingProblem, type MarkRule, type Marks, type MarkSet, must, ruleFor } from '@nailset/core';
import { useState } from 'react';
import { useSetMarking } from '../api/course';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { DecimalField, OptionalDecimalField } from '../shared/DecimalField';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { changedAt, CheckField, RemoveButton, without } from '../shared/fields';
import { freeId } from '../shared/freeId';
import { UnreadProvider, useUnreadTexts } from '../shared/unread';

const none: readonly string[] = [];

/** How marks are made: sets with their weights and the best n, and what each exercise weighs in its set. */
export function MarkingDialog({ courseId, marks }: { courseId: string; marks: Marks }) {
  const [open, setOpen] = useState(false);
  const [marking, setMarking] = useState<Marking>(marks.marking);
  const save = useSetMarking(courseId);
  const { value: unread, clear } = useUnreadTexts('', none);
  const [left] = unread.texts.values();
  const problem = left ? `${left.label}: ${left.message}` : markingProblem(marking);
  const show = (isOpen: boolean) => {
    setOpen(isOpen);
    setMarking(marks.marking);
    save.reset();
    clear();
  };
  const rule = (id: string, change: Partial<MarkRule>) =>
    setMarking((old) => ({ ...old, exercises: { ...old.exercises, [id]: { ...ruleFor(old, id), ...change } } }));
  return (
    <DialogFrame
      title="How marks are made"
      description="Sets count by their weights, exercises in a set by theirs. “Best” counts the best n of a set; a bonus only adds."
      open={open}
      onOpenChange={show}
      width="w-[min(94vw,760px)]"
      trigger={<Button className="py-1">Weights …</Button>}
    >
      <UnreadProvider value={unread}>
        <Sets sets={marking.sets} onSets={(sets) => setMarking((old) => withSets(old, sets))} />
        <div
          className="mt-4 max-h-[40vh] overflow-y-auto border-t border-rule"
          tabIndex={0}
          role="region"
          aria-label="Exercises"
        >
          <table className="w-full">
            <thead className="text-left text-note text-slate">
              <tr>
                <th className="py-1.5 font-normal">Exercise</th>
                <th className="font-normal">Set</th>
                <th className="font-normal">Weight</th>
                <th className="font-normal">Bonus</th>
              </tr>
            </thead>
            <tbody>
              {marks.exercises.map(({ id, title, outOf }) => {
                const its = ruleFor(marking, id);
                return (
                  <tr key={id} className="border-t border-grid text-[13px]">
                    <td className="max-w-[32ch] truncate py-1 pr-3">{title}</td>
                    <td className="pr-3">
                      <select
                        aria-label={`Set of ${title}`}
                        className="input py-0.5"
                        value={its.set}
                        onChange={(event) => rule(id, { set: event.target.value })}
                      >
                        {marking.sets.map((set) => (
                          <option key={set.id} value={set.id}>
                            {set.name}
                          </option>
                        ))}
                      </select>
                    </td>
                    <td className="w-24 pr-3">
                      <DecimalField
                        label={`Weight of ${title}`}
                        min={0}
                        max={1000}
                        value={its.weight ?? outOf}
                        onChange={(weight) => rule(id, { weight: weight === outOf ? null : weight })}
                      />
                    </td>
                    <td>
                      <CheckField
                        label={<span className="sr-only">{title} is a bonus</span>}
                        checked={its.bonus}
                        onChange={(bonus) => rule(id, { bonus })}
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      </UnreadProvider>
      <FormError error={problem ? new Error(problem) : save.error} />
      <DialogFoot>
        <Button
          look="strong"
          disabled={problem !== undefined || save.isPending}
          onClick={() => save.mutate(marking, { onSuccess: () => setOpen(false) })}
        >
          Save
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}

/** Exercises of a set that goes move to the first. */
function withSets({ exercises }: Marking, sets: MarkSet[]): Marking {
  const ids = new Set(sets.map(({ id }) => id));
  const first = must(sets[0]).id;
  return {
    sets,
    exercises: Object.fromEntries(
      Object.entries(exercises).map(([id, rule]) => [id, ids.has(rule.set) ? rule : { ...rule, set: first }]),
    ),
  };
}

function Sets({ sets, onSets }: { sets: readonly MarkSet[]; onSets: (sets: MarkSet[]) => void }) {
  const add = () => {
    const id = freeId(
      'set',
      sets.map((set) => set.id),
    );
    onSets([...sets, { id, name: `Set ${sets.length + 1}`, weight: 1, best: null }]);
  };
  return (
    <table className="w-full">
      <thead className="text-left text-note text-slate">
        <tr>
          <th className="font-normal">Set</th>
          <th className="font-normal">Weight</th>
          <th className="font-normal">Best</th>
          <th>
            <span className="sr-only">Remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {sets.map((set, k) => (
          <tr key={set.id}>
            <td className="py-1 pr-3">
              <input
                aria-label={`Name of set ${k + 1}`}
                className="input py-1"
                maxLength={80}
                value={set.name}
                onChange={(event) => onSets(changedAt(sets, k, { name: event.target.value }))}
              />
            </td>
            <td className="w-28 pr-3">
              <DecimalField
                label={`Weight of ${set.name}`}
                min={0}
                max={1000}
                value={set.weight}
                onChange={(weight) => onSets(changedAt(sets, k, { weight }))}
              />
            </td>
            <td className="w-32 pr-3">
              <OptionalDecimalField
                label={`How many of ${set.name} count`}
                placeholder="all"
                whole
                min={1}
                max={200}
                value={set.best ?? undefined}
                onChange={(best) => onSets(changedAt(sets, k, { best: best ?? null }))}
              />
            </td>
            <td>
              {sets.length > 1 && (
                <RemoveButton label={`Remove ${set.name}`} onClick={() => onSets(without(sets, k))} />
              )}
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={4}>
            <Button look="quiet" className="text-[13px]" onClick={add}>
              Add a set
            </Button>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
