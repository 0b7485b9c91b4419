import {
  emptySheet,
  formatNumber,
  type LinePanes,
  linePanes,
  nameToLatex,
  numberIn,
  orProblem,
  parseFormula,
  Problem,
  type ReadLine,
  type Sheet,
  sheetLimits,
  type SheetLine,
  toLatex,
  withCoefficients,
} from '@nailset/core';
import { type KeyboardEvent, memo, useEffect, useId, useMemo, useRef } from 'react';
import { addDecimal, isDecimal } from '../../loop/settings';
import { Button } from '../../shared/Button';
import { Formula } from '../../shared/Formula';
import { useSteady } from '../../shared/useLatest';
import { NumberSlider } from '../fields/NumberSlider';
import { factsFor, strokeOf } from '../sheet/drawn';
import { freeName } from '../sheet/names';
import { hasRoom, isAboutSystem, linesOf, type Start, starts } from '../sheet/starts';
import type { SheetState } from '../sheet/useSheet';
import { PlantFields } from './PlantFields';

/** What is done on a line, by its number; the same object from line to line and from letter to letter. */
interface LineActions {
  readonly onChange: SheetState['changeLine'];
  readonly onSlide: SheetState['slideLine'];
  readonly onChoose: (line: number) => void;
  readonly onEnter: (line: number) => void;
  readonly onRemove: (line: number) => void;
}

/** The lines of a sheet: a name, what it stands for, and what was understood. */
export const LinesColumn = memo(function LinesColumn({
  lines,
  change,
  changeLine,
  slideLine,
  sheetNow,
  read,
  places,
  chosen,
  facts,
  about,
  onChoose,
}: Pick<SheetState, 'change' | 'changeLine' | 'slideLine'> & {
  lines: Sheet['lines'];
  sheetNow: () => Sheet;
  read: readonly ReadLine[];
  /** Which of the drawn lines each is. */
  places: readonly (number | undefined)[];
  /** The line that is worked on. */
  chosen: number;
  /** The line of the system that something is said about: the chosen one, or the last that is drawn. */
  facts: number | undefined;
  /** Its name. */
  about: string | undefined;
  onChoose: (line: number) => void;
}) {
  const list = useRef<HTMLOListElement>(null);
  // The field of a line that was just added.
  const fresh = useRef<number>(undefined);
  useEffect(() => {
    if (fresh.current === undefined) return;
    list.current?.querySelectorAll<HTMLTextAreaElement>('[data-text]')[fresh.current]?.focus();
    fresh.current = undefined;
  });
  const isFull = lines.length >= sheetLimits.lines;
  const onEnter = useSteady((after: number) => {
    if (isFull) return;
    fresh.current = after + 1;
    change((now) => {
      const line: SheetLine = { name: freeName(now.lines), text: '', drawn: true, panes: 'all' };
      return { lines: now.lines.toSpliced(after + 1, 0, line) };
    });
    onChoose(after + 1);
  });
  const onRemove = useSteady((at: number) => {
    fresh.current = Math.max(0, at - 1);
    change((now) => {
      const left = now.lines.toSpliced(at, 1);
      return { lines: left.length > 0 ? left : emptySheet.lines };
    });
    onChoose(Math.max(0, Math.min(at, lines.length - 2)));
  });
  const actions = useMemo(
    (): LineActions => ({ onChange: changeLine, onSlide: slideLine, onChoose, onEnter, onRemove }),
    [changeLine, slideLine, onChoose, onEnter, onRemove],
  );
  return (
    <section aria-label="Systems and numbers">
      <ol ref={list} className="grid gap-2">
        {lines.map((line, k) => (
          <LineRow
            key={k}
            {...{ line, index: k, place: places[k], isChosen: k === chosen, isShown: k === (facts ?? chosen), actions }}
            read={read[k] ?? emptyLine}
          />
        ))}
      </ol>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4 text-note text-slate">
        <Button look="quiet" disabled={isFull} onClick={() => onEnter(lines.length - 1)}>
          Add a line
        </Button>
        <StartMenu count={lines.length} {...{ about, change, sheetNow }} onAdded={onChoose} />
        <span className="basis-full">
          As in <code>closed(C*G)</code>; values <code>1; 2; 4</code>;{' '}
          <span className="whitespace-nowrap">
            equations <code>m*x'' + k*x = F</code>
          </span>
        </span>
      </p>
    </section>
  );
});

const emptyLine: ReadLine = { kind: 'empty' };

/** Several lines at once: a system by its numbers, or something done with the chosen one. */
const StartMenu = memo(function StartMenu({
  count,
  about,
  change,
  sheetNow,
  onAdded,
}: {
  /** Of the lines that there are. */
  count: number;
  about: string | undefined;
  change: SheetState['change'];
  sheetNow: () => Sheet;
  onAdded: (line: number) => void;
}) {
  const add = (words: string) => {
    const start = starts.find((each) => each.words === words);
    if (!start) return;
    const before = sheetNow().lines.filter(({ text }) => text.trim());
    const taken = before.map(({ name }) => name);
    const lines = [...before, ...linesOf(start, taken, about ?? '')];
    change({ lines });
    onAdded(lines.length - 1);
  };
  const isOffered = (start: Start) => hasRoom(start, count) && (!isAboutSystem(start) || about !== undefined);
  return (
    <select
      aria-label="Add several lines"
      className="w-[112px] bg-transparent text-petrol"
      value=""
      onChange={(event) => add(event.target.value)}
    >
      <option value="">Add lines for …</option>
      {starts.filter(isOffered).map(({ words }) => (
        <option key={words}>{words}</option>
      ))}
    </select>
  );
});

const paneWords: Record<LinePanes, string> = { all: 'every pane', time: 'time and poles', frequency: 'frequency' };

const LineRow = memo(function LineRow({
  line: { name, text, drawn, panes },
  index,
  place,
  read,
  isChosen,
  isShown,
  actions,
}: {
  line: SheetLine;
  index: number;
  place: number | undefined;
  read: ReadLine;
  isChosen: boolean;
  isShown: boolean;
  actions: LineActions;
}) {
  const id = useId();
  const { onChange, onSlide, onChoose } = actions;
  const isSystem = read.kind === 'system';
  const isBad = read.kind === 'problem';
  return (
    <li
      className={`isolate border-l-2 pl-2 ${isShown ? 'border-petrol' : 'border-transparent'}`}
      onFocus={() => onChoose(index)}
    >
      <LineFields {...{ id, index, name, text, place, drawn, isSystem, isBad, actions }} />
      <div id={id} aria-live="polite" className="pl-9 text-note empty:hidden">
        <Understood name={name} text={text} read={read} />
        {isChosen && read.kind === 'numbers' && isDecimal(text) && (
          <NumberSlider name={name} text={text} onText={(next) => onSlide(index, next)} />
        )}
        {isSystem && read.plant && (
          <PlantFields name={name} plant={read.plant} onChange={(to) => onChange(index, to)} />
        )}
        {isShown && isSystem && drawn && (
          <label className="ml-3 text-slate">
            in{' '}
            <select
              aria-label={`Panes of ${name}`}
              className="bg-transparent text-petrol"
              value={panes}
              onChange={(event) => onChange(index, { panes: event.target.value as LinePanes })}
            >
              {linePanes.map((each) => (
                <option key={each} value={each}>
                  {paneWords[each]}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </li>
  );
});

/** Whether it is drawn, its name and its text; they stay as they are while what was understood changes. */
const LineFields = memo(function LineFields({
  id,
  index,
  name,
  text,
  place,
  drawn,
  isSystem,
  isBad,
  actions: { onChange, onEnter, onRemove },
}: Pick<SheetLine, 'name' | 'text' | 'drawn'> & {
  /** Of what was understood. */
  id: string;
  index: number;
  place: number | undefined;
  isSystem: boolean;
  isBad: boolean;
  actions: LineActions;
}) {
  const keys = (event: KeyboardEvent) => {
    const nudged = nudgedBy(text, event);
    if (nudged !== undefined) onChange(index, { text: nudged });
    else if (event.key === 'Enter' && !event.shiftKey) onEnter(index);
    else return;
    event.preventDefault();
  };
  return (
    <div className="flex items-center gap-1.5">
      <button
        type="button"
        aria-pressed={isSystem && drawn}
        aria-label={`Draw ${name}`}
        disabled={!isSystem}
        className="grid h-8 w-7 shrink-0 place-items-center rounded-[3px] hover:bg-wash disabled:opacity-40"
        onClick={() => onChange(index, { drawn: !drawn })}
      >
        {isSystem && <Swatch place={drawn ? place : undefined} />}
      </button>
      <input
        aria-label={`Name of line ${index + 1}`}
        className="input w-[62px] px-1.5 font-mono text-[14px]"
        maxLength={sheetLimits.name}
        spellCheck={false}
        autoCapitalize="off"
        value={name}
        onChange={(event) => onChange(index, { name: event.target.value.trim() })}
      />
      <span className="text-slate">=</span>
      <textarea
        data-text
        rows={Math.min(8, text.split('\n').length)}
        aria-label={`${name || 'Line'} is`}
        aria-invalid={isBad}
        aria-describedby={id}
        className="input min-h-[34px] min-w-0 flex-1 resize-none [field-sizing:content] px-2 py-[5px] font-mono text-[14px]"
        maxLength={sheetLimits.text}
        spellCheck={false}
        autoComplete="off"
        autoCapitalize="off"
        placeholder={index === 0 ? '4/(s^2 + 1.2s + 4)' : ''}
        value={text}
        onKeyDown={keys}
        onChange={(event) => onChange(index, { text: event.target.value })}
      />
      <button
        type="button"
        aria-label={`Remove ${name || 'the line'}`}
        className="px-1 text-slate hover:text-brick"
        onClick={() => onRemove(index)}
      >
        ×
      </button>
    </div>
  );
});

/** The stroke of a line in every pane; a ring where it is not drawn. */
export function Swatch({ place }: { place: number | undefined }) {
  if (place === undefined) return <span className="size-3 rounded-full border border-slate" />;
  const { className, dash } = strokeOf(place, 0, false);
  return (
    <svg width="22" height="10" aria-hidden="true">
      <path d="M0 5H22" className={className} strokeWidth="3" strokeDasharray={dash} />
    </svg>
  );
}

const longestShown = 240;

/** How the line was read, or why it was not. */
export function Understood({ name, text, read }: { name: string; text: string; read: ReadLine }) {
  const latex = useMemo(() => {
    const written = orProblem(() => toLatex(parseFormula(withCoefficients(text))));
    return typeof written === 'string' ? written : '';
  }, [text]);
  switch (read.kind) {
    case 'empty':
      return null;
    case 'problem':
      return <span className="text-brick">{read.problem.message}</span>;
    case 'numbers':
      return read.values.length === 1 && !isDecimal(text) ? `= ${formatNumber(read.values[0] ?? NaN)}` : null;
    case 'system': {
      const trouble = read.members.map(factsFor).find((facts) => facts instanceof Problem);
      if (trouble instanceof Problem) return <span className="text-brick">It is not drawn. {trouble.message}</span>;
      if (!latex || latex.length > longestShown) return null;
      return (
        <Formula
          latex={`${nameToLatex(name)}=\\displaystyle ${latex}`}
          className="inline-block max-w-full overflow-x-auto overflow-y-hidden py-1 text-[14px] text-ink"
        />
      );
    }
  }
}

/** A number one step up or down, ten with Shift: a step is a tenth of its leading digit. */
export function nudgedBy(text: string, { key, shiftKey }: KeyboardEvent): string | undefined {
  const way = key === 'ArrowUp' ? 1 : key === 'ArrowDown' ? -1 : 0;
  if (way === 0 || !isDecimal(text)) return undefined;
  const value = Math.abs(numberIn(text)) || 1;
  const step = 10 ** (Math.floor(Math.log10(value)) - 1);
  return addDecimal(text, way * step * (shiftKey ? 10 : 1));
}
