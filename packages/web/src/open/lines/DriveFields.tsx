import {
  decimalIn,
  type DriveKind,
  driveKinds,
  isOverTime,
  numberIn,
  orProblem,
  Problem,
  readSignal,
  type Sheet,
  type SheetDrive,
  sheetLimits,
  unitDrive,
} from '@nailset/core';
import { useState } from 'react';
import { NumberIn } from '../../shared/NumberIn';
import { driveNames, driveOfKind } from '../sheet/drives';
import type { SheetRest, SheetState } from '../sheet/useSheet';

/** What drives the systems, and from where they start. */
export function DriveFields({
  sheet,
  change,
  inputs,
  numbers,
}: {
  sheet: SheetRest;
  change: SheetState['change'];
  /** Of the chosen system, where it has several that are driven together. */
  inputs: readonly string[];
  numbers: ReadonlyMap<string, number>;
}) {
  const { drives } = sheet;
  const set = (k: number, drive: SheetDrive, typing?: string) =>
    change((now) => ({ drives: now.drives.map((old, at) => (at === k ? drive : old)) }), typing);
  return (
    <>
      {drives.map((drive, k) => (
        <span
          key={k}
          role="group"
          aria-label={`Input ${k + 1}`}
          className="flex flex-wrap items-baseline gap-x-2 gap-y-1"
        >
          {inputs[k] !== undefined && <b className="font-medium">{inputs[k]}</b>}
          <select
            aria-label={drives.length > 1 ? `Input ${k + 1}` : 'Input'}
            className="bg-transparent text-petrol"
            value={drive.kind}
            onChange={(event) => set(k, driveOfKind(event.target.value as DriveKind, drive, sheet))}
          >
            {driveKinds
              .filter((kind) => kind !== 'data' || sheet.data.some(isOverTime))
              .map((kind) => (
                <option key={kind} value={kind}>
                  {driveNames[kind]}
                </option>
              ))}
          </select>
          <OwnFields {...{ drive, sheet, numbers }} onChange={(next, typing) => set(k, next, `${k} ${typing}`)} />
          {drives.length > 1 && (
            <button
              type="button"
              aria-label={`Remove input ${k + 1}`}
              className="text-slate hover:text-brick"
              onClick={() => change((now) => ({ drives: now.drives.toSpliced(k, 1) }))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {drives.length < sheetLimits.drives && (
        <button
          type="button"
          className="link"
          title="Beside the first, or for the next input of a system with several"
          onClick={() =>
            change((now) => ({ drives: [...now.drives, now.drives[0]?.kind === 'step' ? ramp : unitDrive] }))
          }
        >
          Add an input
        </button>
      )}
      <StartField initial={sheet.initial} change={change} />
    </>
  );
}

const ramp: SheetDrive = { kind: 'ramp', size: 1, at: 0 };

const isTime = (at: number) => at >= 0 && at <= 1e9;
const isSize = (size: number) => Math.abs(size) <= 1e9;

function OwnFields({
  drive,
  sheet,
  numbers,
  onChange,
}: {
  drive: SheetDrive;
  sheet: SheetRest;
  numbers: ReadonlyMap<string, number>;
  onChange: (drive: SheetDrive, typing: string) => void;
}) {
  switch (drive.kind) {
    case 'none':
      return null;
    case 'typed':
      return <TypedField {...{ drive, numbers, onChange }} />;
    case 'data':
      return (
        <select
          aria-label="Which table"
          className="max-w-[120px] bg-transparent text-petrol"
          value={drive.name}
          onChange={(event) => onChange({ ...drive, name: event.target.value }, 'name')}
        >
          {sheet.data.filter(isOverTime).map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      );
    default:
      return (
        <>
          {drive.kind === 'step' ? (
            <>
              <NumberIn
                words="from"
                label="Level before the step"
                value={drive.from}
                isFine={isSize}
                onChange={(from) => onChange({ ...drive, from: from ?? 0 }, 'from')}
              />
              <NumberIn
                words="to"
                label="Size of the input"
                value={drive.to}
                isFine={isSize}
                onChange={(to) => onChange({ ...drive, to: to ?? 1 }, 'to')}
              />
            </>
          ) : (
            <NumberIn
              words="of"
              label="Size of the input"
              value={drive.size}
              isFine={isSize}
              onChange={(size) => onChange({ ...drive, size: size ?? 1 }, 'size')}
            />
          )}
          {drive.kind === 'sine' && (
            <NumberIn
              words=""
              label="Its frequency, in radians"
              unit={`rad/${sheet.unit}`}
              value={drive.omega}
              isFine={(omega) => omega > 0 && omega <= 1e9}
              onChange={(omega) => onChange({ ...drive, omega: omega ?? 1 }, 'omega')}
            />
          )}
          <NumberIn
            words="at"
            unit={sheet.unit}
            label="When it sets in"
            value={drive.at}
            isFine={isTime}
            onChange={(at) => onChange({ ...drive, at: at ?? 0 }, 'at')}
          />
        </>
      );
  }
}

/** A function of t; what cannot be read stays in its field and says why. */
function TypedField({
  drive,
  numbers,
  onChange,
}: {
  drive: Extract<SheetDrive, { kind: 'typed' }>;
  numbers: ReadonlyMap<string, number>;
  onChange: (drive: SheetDrive, typing: string) => void;
}) {
  const read = orProblem(() => readSignal(drive.text, numbers));
  return (
    <span>
      <input
        aria-label="Function of t"
        aria-invalid={read instanceof Problem}
        className="input inline-block w-[170px] px-1.5 py-0.5 font-mono text-[13px]"
        maxLength={sheetLimits.text}
        spellCheck={false}
        autoCapitalize="off"
        value={drive.text}
        onChange={(event) => onChange({ ...drive, text: event.target.value }, 'text')}
      />
      {read instanceof Problem && <span className="ml-1 text-brick">{read.message}</span>}
    </span>
  );
}

/** y(0), y′(0), … or the states; empty for a start from rest. */
function StartField({ initial, change }: { initial: Sheet['initial']; change: SheetState['change'] }) {
  const [typed, setTyped] = useState<string>();
  const read = (text: string): number[] | undefined => {
    const parts = text
      .split(/[;\s]+|,(?=\s)/)
      .map((each) => each.trim())
      .filter(Boolean);
    // 1,2 could be one number or two.
    if (!text.includes(';') && /\d,\d/.test(text)) return undefined;
    const isFine = parts.length <= sheetLimits.initial && parts.every((each) => decimalIn(each) !== undefined);
    return isFine ? parts.map(numberIn) : undefined;
  };
  const same = typed !== undefined && read(typed)?.join() === initial.join();
  const isBad = typed !== undefined && read(typed) === undefined;
  return (
    <label title="y, y′, … at t = 0, or the states: 0.2; 0">
      starts at{' '}
      <input
        aria-label="Initial values"
        aria-invalid={isBad}
        className="input inline-block w-[64px] px-1.5 py-0.5 text-[13px]"
        placeholder="rest"
        value={isBad || same ? typed : initial.join('; ')}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = read(event.target.value);
          if (next) change({ initial: next }, 'initial');
        }}
      />
      {isBad && <span className="ml-1 text-brick">numbers, as in 0.2; 0</span>}
    </label>
  );
}
