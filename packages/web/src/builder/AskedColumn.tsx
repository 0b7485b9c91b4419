import { type ExerciseDocument, formatMark, inPoints, must, type Part, type Scope, sumOfShares } from '@nailset/core';
import { type Finding, pointsOf } from '@nailset/core/checks';
import { DropdownMenu } from 'radix-ui';
import { type ComponentProps, type ReactNode, useRef } from 'react';
import { authorKind, type Offer, offers } from '../kinds/authors';
import { AskFirst } from '../shared/AskFirst';
import { type Changed, changed } from '../shared/changed';
import { CheckField, NumberField, SelectField } from '../shared/fields';
import { freeId } from '../shared/freeId';
import { FieldScope } from '../shared/unread';
import { ColumnTitle } from './GivenColumn';
import { newDiagram } from './newExercise';
import { PartEditor } from './PartEditor';

/** What is asked, part by part, and what is accepted. */
export function AskedColumn({
  document,
  open,
  onOpen,
  scope,
  findings,
  disabled,
  dates,
  edit,
}: {
  document: ExerciseDocument;
  open: string;
  onOpen: (part: string) => void;
  scope: Scope;
  findings: readonly Finding[];
  disabled: boolean;
  /** The fields of its dates, which are no part of the document. */
  dates: ReactNode;
  edit: (change: (document: ExerciseDocument) => ExerciseDocument) => void;
}) {
  const list = useRef<HTMLOListElement>(null);
  const { parts } = document;
  const total = sumOfShares(parts.map(pointsOf));
  const setPart = (id: string, change: Changed<Part>) =>
    edit((old) => ({
      ...old,
      parts: old.parts.map((part) => (part.id === id ? changed(part, change) : part)),
    }));
  const system = document.systems[0]?.name ?? '1/(s + 1)';
  const drawn = document.systems.flatMap(({ name, form }) => (form.kind === 'equations' ? [{ ...form, name }] : []));
  const add = ({ kind, make }: Offer) => {
    const taken = document.systems.map(({ name }) => name);
    const missing = authorKind({ kind }).aboutDiagram && drawn.length === 0;
    const diagram = drawn[0] ?? { ...newDiagram, name: freeId('D', taken) };
    const part = make(
      parts.map(({ id }) => id),
      { system, diagram, parameter: document.parameters[0]?.symbol ?? 'a' },
    );
    edit((old) => ({
      ...old,
      systems: missing ? [...old.systems, { name: diagram.name, meaning: '', form: newDiagram }] : old.systems,
      parts: [...old.parts, part],
    }));
    onOpen(part.id);
  };
  const remove = (id: string) => {
    edit((old) => ({ ...old, parts: old.parts.filter((part) => part.id !== id) }));
    onOpen(must(parts.find((part) => part.id !== id)).id);
    // The button that was pressed goes with its part.
    setTimeout(() => list.current?.querySelector<HTMLElement>('[aria-expanded=true]')?.focus());
  };
  const move = (id: string, by: 1 | -1) => {
    edit((old) => ({ ...old, parts: movedBy(old.parts, id, by) }));
    // Where the part is now: what is moved in a page loses the focus.
    setTimeout(() => list.current?.querySelector<HTMLElement>(`[data-part="${id}"]`)?.focus());
  };
  return (
    <section aria-label="Asked and accepted" className="grid content-start gap-4">
      <ColumnTitle
        title="Asked · Accepted"
        note={`${parts.length === 1 ? 'one part' : `${parts.length} parts`}, ${inPoints(total)}`}
      />
      <ol ref={list} className="grid gap-3">
        {parts.map((part, index) => (
          <PartRow
            key={part.id}
            {...{ part, index, scope, system, diagrams: drawn, disabled }}
            isOpen={part.id === open}
            series={document.series}
            findings={findings.filter(({ path }) => path.startsWith(`parts/${index}/`))}
            onOpen={() => onOpen(part.id)}
            onRemove={parts.length > 1 ? () => remove(part.id) : undefined}
            onMove={parts.length > 1 ? (by) => move(part.id, by) : undefined}
            onChange={(change) => setPart(part.id, change)}
          />
        ))}
      </ol>
      {!disabled && parts.length < 26 && <AddPart onAdd={add} />}
      <Rules document={document} disabled={disabled} dates={dates} edit={edit} />
    </section>
  );
}

/** The list with one part a place further up or down; as it is at its ends. */
function movedBy(parts: readonly Part[], id: string, by: 1 | -1): Part[] {
  const at = parts.findIndex((part) => part.id === id);
  const to = at + by;
  const moved = parts[at];
  if (!moved || to < 0 || to >= parts.length) return [...parts];
  const others = parts.filter((part) => part.id !== id);
  return [...others.slice(0, to), moved, ...others.slice(to)];
}

/** One part of the list, with its fields where it is open. */
function PartRow({
  part,
  index,
  isOpen,
  disabled,
  findings,
  onOpen,
  onRemove,
  onMove,
  ...fields
}: Omit<ComponentProps<typeof PartEditor>, 'key'> & {
  index: number;
  isOpen: boolean;
  onOpen: () => void;
  onRemove: (() => void) | undefined;
  onMove: ((by: 1 | -1) => void) | undefined;
}) {
  return (
    <li className={`border-l-2 pl-3 ${isOpen ? 'border-petrol' : 'border-rule'}`}>
      <div className="flex items-baseline gap-2">
        <button
          type="button"
          data-part={part.id}
          aria-expanded={isOpen}
          onClick={onOpen}
          onKeyDown={(event) => {
            if (disabled || !onMove || !event.altKey || !/^Arrow(Up|Down)$/.test(event.key)) return;
            event.preventDefault();
            onMove(event.key === 'ArrowUp' ? -1 : 1);
          }}
          className="flex-1 text-left"
        >
          <b className="font-semibold">{String.fromCharCode(97 + index)}</b>{' '}
          <b className="font-semibold">{part.title || 'untitled'}</b>
          <span className="text-slate">
            {' '}
            · {summaryOf(part)} · {formatMark(pointsOf(part))}
          </span>
        </button>
        {!disabled && isOpen && onMove && (
          <>
            <button
              type="button"
              aria-label={`Move part ${part.title} up`}
              title="Alt and an arrow key do the same"
              className="min-h-6 min-w-6 text-slate hover:text-petrol"
              onClick={() => onMove(-1)}
            >
              ↑
            </button>
            <button
              type="button"
              aria-label={`Move part ${part.title} down`}
              className="min-h-6 min-w-6 text-slate hover:text-petrol"
              onClick={() => onMove(1)}
            >
              ↓
            </button>
          </>
        )}
        {!disabled && onRemove && (
          <AskFirst
            title={`Remove the part “${part.title}”?`}
            description={`All that was typed for it goes, and its ${inPoints(pointsOf(part))}.`}
            action="Remove"
            onDo={onRemove}
          >
            <button
              type="button"
              aria-label={`Remove part ${part.title}`}
              className="min-h-6 min-w-6 text-slate hover:text-brick"
            >
              ×
            </button>
          </AskFirst>
        )}
      </div>
      {findings.map(({ path, message }) => (
        <p key={path} className="text-note text-brick">
          {message}
        </p>
      ))}
      {isOpen && (
        <div className="mt-2">
          <FieldScope name={part.id}>
            <PartEditor key={part.id} {...{ part, findings, disabled, ...fields }} />
          </FieldScope>
        </div>
      )}
    </li>
  );
}

function summaryOf(part: Part): string {
  const { name, summary } = authorKind(part);
  return summary?.(part) ?? name;
}

function AddPart({ onAdd }: { onAdd: (offer: Offer) => void }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="justify-self-start px-1 font-medium text-petrol hover:underline">
        Add a part
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-20 max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto rounded-[3px] border border-rule bg-sheet py-1"
        >
          {offers.map((offer) => (
            <DropdownMenu.Item
              key={offer.name}
              className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-wash"
              onSelect={() => onAdd(offer)}
            >
              {offer.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Whether nothing is drawn, so that an expected answer is that of everyone. */
const isSameForAll = ({ parameters }: ExerciseDocument): boolean =>
  parameters.every(({ draw }) => draw.kind === 'fixed' || (draw.kind === 'list' && draw.values.length === 1));

/** Tries, due date, and what students see when. */
function Rules({
  document,
  disabled,
  dates,
  edit,
}: {
  document: ExerciseDocument;
  disabled: boolean;
  /** The fields of its dates, which are no part of the document. */
  dates: ReactNode;
  edit: (change: (document: ExerciseDocument) => ExerciseDocument) => void;
}) {
  return (
    <fieldset disabled={disabled} className="grid grid-cols-2 gap-3 border-t border-rule pt-3">
      <legend className="sr-only">Rules</legend>
      <NumberField
        label="Tries for each part"
        min={1}
        max={50}
        whole
        value={document.attempts}
        onChange={(attempts) => edit((old) => ({ ...old, attempts }))}
      />
      {dates}
      <SelectField
        label="Students see verdicts"
        value={document.verdict}
        options={{
          atOnce: 'at once',
          afterDue: 'after the due date',
        }}
        onChange={(verdict) => edit((old) => ({ ...old, verdict }))}
      />
      <SelectField
        label="and expected answers"
        value={document.solution}
        options={{
          onceDone: 'once all is right or out of tries',
          afterDue: 'after the due date',
          never: 'never',
        }}
        onChange={(solution) => edit((old) => ({ ...old, solution }))}
      />
      {document.solution === 'onceDone' && isSameForAll(document) && (
        <p className="col-span-2 text-note text-copper">
          All students have the same numbers: someone with a second account can waste its tries and see the answers.
        </p>
      )}
      <SelectField
        label="Practice with other numbers"
        value={document.practice ?? 'afterwards'}
        options={{
          afterwards: 'once solved or closed',
          always: 'at any time',
          never: 'never',
        }}
        onChange={(practice) => edit((old) => ({ ...old, practice }))}
      />
      <SelectField
        label="Small parts stand"
        value={document.layout ?? 'together'}
        options={{
          together: 'together on a sheet',
          single: 'each on its own',
        }}
        onChange={(layout) => edit((old) => ({ ...old, layout }))}
      />
      <div className="col-span-2 grid gap-1.5">
        <CheckField
          label="A verdict tells measured values"
          checked={document.shows.measured}
          onChange={(measured) => edit((old) => ({ ...old, shows: { ...old.shows, measured } }))}
        />
        <CheckField
          label="and the usual slip it looks like"
          checked={document.shows.slip}
          onChange={(slip) => edit((old) => ({ ...old, shows: { ...old.shows, slip } }))}
        />
        <CheckField
          label="Late answers are taken"
          checked={document.late !== null}
          onChange={(on) => edit((old) => ({ ...old, late: on ? { hours: 24, keepPercent: 50 } : null }))}
        />
      </div>
      {document.late && (
        <>
          <NumberField
            label="Late by up to"
            unit="h"
            min={0.1}
            max={8760}
            value={document.late.hours}
            onChange={(hours) => edit((old) => ({ ...old, late: old.late && { ...old.late, hours } }))}
          />
          <NumberField
            label="and then keeping"
            unit="%"
            min={0}
            max={100}
            value={document.late.keepPercent}
            onChange={(keepPercent) => edit((old) => ({ ...old, late: old.late && { ...old.late, keepPercent } }))}
          />
        </>
      )}
    </fieldset>
  );
}
