import { Problem } from '@nailset/core';
import type { BlockDiagram } from '@nailset/core/diagrams';
import { type FormEvent, useEffect, useState } from 'react';
import { Button } from '../shared/Button';
import type { Gesture, GestureField } from './gestures';

/** What can be done with what is chosen, each by its key too; a gesture that asks something does so in this row. */
export function GestureBar({
  gestures,
  chosen,
  onChange,
}: {
  gestures: readonly Gesture[];
  /** What is chosen, in words. */
  chosen: string;
  /** False where it came too late. */
  onChange: (diagram: BlockDiagram) => boolean;
}) {
  const [open, setOpen] = useState<string>();
  const [problem, setProblem] = useState('');
  const active = gestures.find(({ key }) => key === open);

  const make = (gesture: Gesture, values: readonly string[]) => {
    try {
      if (!onChange(gesture.run(values)))
        return setProblem('The equations changed meanwhile. Look at the drawing, and do it again.');
      setOpen(undefined);
      setProblem('');
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setProblem(error.message);
    }
  };
  const begin = (gesture: Gesture) => {
    setProblem('');
    if (gesture.fields.length === 0) make(gesture, []);
    else setOpen(gesture.key);
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).matches('input, textarea, select') || event.ctrlKey || event.metaKey) return;
      const gesture = gestures.find(({ key }) => key.toLowerCase() === event.key.toLowerCase());
      if (!gesture) return;
      event.preventDefault();
      begin(gesture);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });

  return (
    <div className="min-h-[76px] border-t border-rule pt-2">
      <p className="text-note text-slate" role="status">
        {chosen || 'Choose a block, a sum, a line or an end; Shift adds more to group them.'}
      </p>
      {active ? (
        <GestureForm
          key={active.key}
          gesture={active}
          onMake={(values) => make(active, values)}
          onLeave={() => setOpen(undefined)}
        />
      ) : (
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          {gestures.map((gesture) => (
            <Button key={gesture.key} className="px-2 py-0.5 text-[13px]" onClick={() => begin(gesture)}>
              {gesture.words} <kbd className="pl-1 font-mono text-[11px] text-slate">{gesture.key}</kbd>
            </Button>
          ))}
        </div>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-note text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}

function GestureForm({
  gesture,
  onMake,
  onLeave,
}: {
  gesture: Gesture;
  onMake: (values: readonly string[]) => void;
  onLeave: () => void;
}) {
  const [values, setValues] = useState(() => gesture.fields.map(startOf));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onMake(values);
  };
  return (
    <form
      onSubmit={submit}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onLeave();
      }}
      className="mt-1.5 flex flex-wrap items-center gap-2"
    >
      <b className="font-medium">{gesture.words}</b>
      {gesture.fields.map((field, k) => {
        const change = (value: string) => setValues(values.map((old, j) => (j === k ? value : old)));
        return (
          <label key={field.label} className="flex items-center gap-1.5 text-note text-slate">
            {field.label}
            {field.kind === 'text' ? (
              <input
                autoFocus={k === 0}
                className="input w-44 px-1.5 py-0.5 font-mono text-[13px]"
                required={!field.optional}
                value={values[k]}
                onFocus={(event) => event.target.select()}
                onChange={(event) => change(event.target.value)}
              />
            ) : (
              <select
                autoFocus={k === 0}
                className="input w-auto px-1.5 py-0.5 text-[13px]"
                value={values[k]}
                onChange={(event) => change(event.target.value)}
              >
                {field.options.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </select>
            )}
          </label>
        );
      })}
      <Button look="strong" type="submit" className="px-2.5 py-0.5 text-[13px]">
        Do it
      </Button>
      <Button look="quiet" className="py-0.5 text-[13px]" onClick={onLeave}>
        Cancel
      </Button>
    </form>
  );
}

const startOf = (field: GestureField): string => (field.kind === 'text' ? field.start : (field.options[0]?.[0] ?? ''));
