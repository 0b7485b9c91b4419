import {
  type Around,
  betweenLevels,
  type Curve,
  formatNumber,
  isOverTime,
  Problem,
  type SheetDrive,
  type TimeUnit,
} from '@nailset/core';
import { useMemo, useState } from 'react';
import { useProbing } from '../../loop/useProbing';
import { AxesMenu } from '../../plot/AxesMenu';
import type { PlotCurve } from '../../plot/curves';
import { type Frame, frameAxes, frameFor, frameWith } from '../../plot/frame';
import type { Limit } from '../../plot/limits';
import { measureMarks } from '../../plot/measureMarks';
import { ResponsePlot } from '../../plot/ResponsePlot';
import { useTimeUnit } from '../../plot/timeUnit';
import { Toggle } from '../../shared/Toggle';
import type { Drawn } from '../sheet/drawn';
import { driveWord, driveWords } from '../sheet/drives';
import { lineOf, responseOf, togetherOf } from '../sheet/responses';
import type { PaneProps } from './paneProps';
import { useHeld } from './useHeld';

interface ResponseProps extends PaneProps {
  readonly drives: readonly SheetDrive[];
  readonly around: Around;
  readonly until: number;
  readonly limits: readonly Limit[];
}

const stackHeights: Readonly<Record<number, string>> = { 2: 'h-[138px]', 3: 'h-[112px]' };
const largeHeights: Readonly<Record<number, string>> = { 2: 'h-[calc(50vh-110px)]', 3: 'h-[calc(33vh-85px)]' };

/** Responses of every system, with what drives them; one above the other where that is asked for. */
export function ResponsePane(props: ResponseProps) {
  const { drawn, chosen, kept, fits, className, isLarge, drives, around, until, limits, tools } = props;
  const unit = useTimeUnit();
  const probing = useProbing();
  const [stacked, setStacked] = useState(false);
  const [marked, setMarked] = useState(false);
  const curves = useMemo(
    () => [...ghostsOf(kept, drives, around, until), ...curvesOf(drawn, chosen, drives, around, until)],
    [kept, drawn, chosen, drives, around, until],
  );
  const lines = useMemo(() => drives.map((drive) => lineOf(drive, around, until)), [drives, around, until]);
  const levels = lines.flatMap(({ values }, k) =>
    drives[k]?.kind === 'ramp' || drives[k]?.kind === 'parabola' ? [] : [...values],
  );
  const make = (): Frame =>
    frameFor(
      until,
      curves.map(({ curve }) => curve),
      [0, ...levels],
    );
  const held = useHeld(curves.length > 0, `${fits} ${until} ${drives.map(({ kind }) => kind).join()}`, make);
  const frame = held.axes;
  const named = curves.filter(({ label }) => label);
  const ends = named.map(({ label, curve }) => `${label} ${formatNumber(curve.values.at(-1) ?? NaN)}`);
  const words = drives.map(driveWords).join(' and ');
  const troubles = troublesOf(drawn, drives, around, until);
  const dots = around.data.filter(isOverTime).map((data) => ({ ...data, className: 'fill-ink/70' }));
  const [first, ...others] = drives.map((drive, k) => ({ word: driveWord(drive), curve: lines[k] ?? none }));
  const shown = {
    reference: first?.curve ?? none,
    referenceName: others.length > 0 ? (first?.word ?? '') : 'input',
  };
  const otherLines = others.map(({ word, curve }, k): PlotCurve => ({
    id: `input ${k + 2}`,
    curve,
    look: 'first',
    name: word,
  }));
  const step = onlyStep(drives);
  const { marks, band } = marked && step ? marksOf(chosen, curves, step, frame.tMax, unit) : noMarks;
  const common = { frame, probing, limits, dots, onView: held.set, onBack: held.back, wheel: 'always' as const };
  const strips = [...new Set(drawn.map(({ line }) => line))].slice(0, 3);
  const switches = (
    <>
      {troubles.length > 0 && (
        <span title={troubles.join('\n')}>
          {troubles.length === 1 ? 'one has' : `${troubles.length} have`} no such response
        </span>
      )}
      {step && <Toggle on={marked} onChange={setMarked} words="Marks" />}
      {drawn.length > 1 && <Toggle on={stacked} onChange={setStacked} words="Stack" />}
      <AxesMenu
        axes={frameAxes(frame, unit)}
        wheel="always"
        reads
        onChange={(axis, ends) => held.set(frameWith(frame, axis, ends))}
      />
      {tools}
    </>
  );
  if (stacked && drawn.length > 1) {
    const groups =
      strips.length > 1
        ? strips.map((line) => drawn.filter((each) => each.line === line))
        : drawn.slice(0, 3).map((each) => [each]);
    return (
      <div className="grid gap-1">
        {groups.map((group, k) => {
          const ofGroup = curves.filter(({ id }) =>
            group.some((each) => id === each.id || id.startsWith(`${each.id} `)),
          );
          return (
            <ResponsePlot
              key={group[0]?.id}
              {...common}
              frame={{
                ...frameFor(
                  frame.tMax,
                  ofGroup.map(({ curve }) => curve),
                ),
                tMin: frame.tMin ?? 0,
              }}
              title={`${[...new Set(group.map(({ label }) => label))].join(', ')}: response to ${words}`}
              curves={ofGroup}
              tools={k === 0 && switches}
              summary={`${group.map(({ label }) => label).join(', ')}, response to ${words}.`}
              className={(isLarge ? largeHeights : stackHeights)[groups.length] ?? 'h-[138px]'}
            />
          );
        })}
      </div>
    );
  }
  return (
    <ResponsePlot
      {...common}
      {...{ ...shown, marks, band }}
      title={`Response to ${words}`}
      short="Response"
      curves={[...otherLines, ...curves]}
      onFit={held.fit}
      tools={switches}
      summary={`Responses to ${words} after ${formatNumber(until)} ${unit}: ${ends.join(', ') || 'none'}.`}
      className={className}
    />
  );
}

const none: Curve = { times: new Float64Array(), values: new Float64Array() };

const noMarks = { marks: [], band: undefined };

/** The one step that drives everything, which measures are read on; undefined for other inputs. */
const onlyStep = ([drive, ...others]: readonly SheetDrive[]) =>
  drive?.kind === 'step' && others.length === 0 && drive.from !== drive.to ? drive : undefined;

/** Where the measures of the chosen system are read. */
function marksOf(
  chosen: Drawn | undefined,
  curves: readonly PlotCurve[],
  step: NonNullable<ReturnType<typeof onlyStep>>,
  tMax: number,
  unit: TimeUnit,
) {
  const measures = chosen?.facts.measures;
  const curve = curves.find(({ id }) => id === chosen?.id)?.curve;
  return measures && curve ? measureMarks(betweenLevels(measures, step), curve, tMax, unit) : noMarks;
}

/** Of each system to each drive; of one with several inputs driven together the sum, and dashed what each gives. */
function curvesOf(
  drawn: readonly Drawn[],
  chosen: Drawn | undefined,
  drives: readonly SheetDrive[],
  around: Around,
  until: number,
): PlotCurve[] {
  return drawn.flatMap((each): PlotCurve[] => {
    const { id, label, stroke } = each;
    const look = id === chosen?.id ? 'now' : 'held';
    const strokeHere = id === chosen?.id ? bold(stroke) : stroke;
    if (each.parts) {
      const { sum, alone } = togetherOf(each, drives, around, until);
      const parts = alone.map(({ input, curve }): PlotCurve => {
        const name = `${label} from ${input}`;
        return { id: `${id} from ${input}`, curve, look: 'held', stroke: dashed(stroke), label: `from ${input}`, name };
      });
      return sum instanceof Problem ? parts : [...parts, { id, curve: sum, look, stroke: strokeHere, label }];
    }
    return drives.flatMap((drive, k): PlotCurve[] => {
      const curve = responseOf(each, drive, around, until);
      if (curve instanceof Problem) return [];
      const words = drives.length > 1 ? `${label}, ${driveWord(drive)}` : label;
      return [
        {
          id: k === 0 ? id : `${id} ${k}`,
          curve,
          look: k === 0 ? look : 'held',
          stroke: k === 0 ? strokeHere : dashed(stroke),
          label: words,
        },
      ];
    });
  });
}

function ghostsOf(kept: readonly Drawn[], drives: readonly SheetDrive[], around: Around, until: number): PlotCurve[] {
  return kept.flatMap((each): PlotCurve[] => {
    const [drive] = drives;
    const curve = each.parts
      ? togetherOf(each, drives, around, until).sum
      : drive && responseOf(each, drive, around, until);
    if (!curve || curve instanceof Problem) return [];
    return [{ id: `kept ${each.id}`, curve, look: 'ghost', name: `${each.label}, kept` }];
  });
}

/** Why systems have no response, each once. */
function troublesOf(drawn: readonly Drawn[], drives: readonly SheetDrive[], around: Around, until: number): string[] {
  return drawn.flatMap((each) => {
    const curves = each.parts
      ? [togetherOf(each, drives, around, until).sum]
      : drives.map((drive) => responseOf(each, drive, around, until));
    const trouble = curves.find((curve) => curve instanceof Problem);
    return trouble instanceof Problem ? [`${each.label}: ${trouble.message}`] : [];
  });
}

type Stroke = Drawn['stroke'];
const wide = new WeakMap<Stroke, Stroke>();
const broken = new WeakMap<Stroke, Stroke>();

function madeOnce(made: WeakMap<Stroke, Stroke>, stroke: Stroke, more: Partial<Stroke>): Stroke {
  const now = made.get(stroke) ?? { ...stroke, ...more };
  made.set(stroke, now);
  return now;
}

/** The same stroke, wider: the one that is chosen. */
const bold = (stroke: Stroke): Stroke => madeOnce(wide, stroke, { width: 2.8, text: `${stroke.text} font-semibold` });

/** The same colour, thin and dashed: to another input, or from one of several. */
const dashed = (stroke: Stroke): Stroke => madeOnce(broken, stroke, { width: 1.4, dash: '5 4' });
