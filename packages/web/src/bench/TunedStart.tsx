import { Problem, isPid, convertController, rationalFromNumber, tunedStart, attempt } from '@nailset/core';
import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';
import { Button } from '../shared/Button';
import { Formula } from '../shared/Formula';
import { knobsOf } from './knobs';
import type { GainsOf, LoopResponses } from './loopResponse';

/** Asks for a calmer or bolder loop, shows the gains that give it, and takes them over. */
export function TunedStart({
  part,
  responses,
  onTake,
}: {
  part: GainsOf;
  responses: LoopResponses;
  onTake: (settings: Record<string, string>) => void;
}) {
  const [boldness, setBoldness] = useState(1.6);
  const [pace, setPace] = useState(0);
  const found = useMemo(() => tune(part, responses, boldness, pace), [part, responses, boldness, pace]);
  return (
    <Popover.Root>
      <Popover.Trigger className="link">Tuned start</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={6}
          className="z-20 grid w-72 gap-3 rounded-[3px] border border-ink bg-sheet p-4 text-[13px]"
        >
          <Slider label="calm" to="bold" min={1.2} max={2.2} value={boldness} onChange={setBoldness} />
          <Slider label="slower" to="faster" min={-1} max={1} value={pace} onChange={setPace} />
          {found instanceof Problem ? (
            <p className="text-brick">{found.message}</p>
          ) : (
            <>
              <p>
                {knobsOf(part).map(({ name, latex }) => (
                  <span key={name} className="mr-3 whitespace-nowrap">
                    <Formula latex={latex} /> {found.settings[name]}
                  </span>
                ))}
                <span className="block text-slate">
                  phase margin {found.margin.toFixed(0)}°, crossover {Number(found.crossover.toPrecision(3))} rad/s
                </span>
                {found.missed && <span className="block text-brick">{found.missed}</span>}
              </p>
              <Popover.Close asChild>
                <Button look="strong" onClick={() => onTake(found.settings)}>
                  Take these gains
                </Button>
              </Popover.Close>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Slider({
  label,
  to,
  min,
  max,
  value,
  onChange,
}: {
  label: string;
  to: string;
  min: number;
  max: number;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      <span className="w-12">{label}</span>
      <input
        type="range"
        aria-label={`${label} to ${to}`}
        className="flex-1 accent-petrol"
        min={min}
        max={max}
        step={(max - min) / 20}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="w-12 text-right">{to}</span>
    </label>
  );
}

/** Gains in the form of the part; `pace` moves the crossover by up to a factor of two. */
function tune(part: GainsOf, { model }: LoopResponses, sensitivityPeak: number, pace: number) {
  if (!isPid(part.controller)) return new Problem('notPossible', 'A tuned start is for PID controllers.');
  const { terms, form } = part.controller;
  return attempt(() => {
    const usual = tunedStart(model.plant, terms, { sensitivityPeak });
    const start =
      pace === 0 ? usual : tunedStart(model.plant, terms, { sensitivityPeak, crossover: usual.crossover * 2 ** pace });
    const exact = (value: number) => rationalFromNumber(Number(value.toPrecision(3)));
    const { Kp, Ki, Kd } = start.gains;
    const parallel = { form: 'parallel', Kp: exact(Kp), Ki: exact(Ki), Kd: exact(Kd) } as const;
    const converted = convertController(parallel, form);
    const settings = Object.fromEntries(
      knobsOf(part).map(({ name }) => {
        const value = (converted as unknown as Record<string, { numerator: bigint; denominator: bigint } | null>)[name];
        return [
          name,
          value ? short(Number(value.numerator) / Number(value.denominator)) : name === 'Ti' ? '1000' : '0',
        ];
      }),
    );
    // Of the gains as they are taken over, with three digits.
    const { phaseMargins } = model.loopWith(settings).margins;
    const margin = Math.min(...phaseMargins.map(({ degrees }) => Math.abs(degrees)));
    return { settings, margin, crossover: start.crossover, missed: start.missed };
  });
}

const short = (value: number): string => String(Number(value.toPrecision(3)));
