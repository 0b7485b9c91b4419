import {
  type Compensator,
  type CompensatorName,
  compensatorNames,
  type Controller,
  type ControllerGain,
  isOpen,
  isPid,
  partnersOf,
  type PidController,
} from '@nailset/core';
import { OptionalDecimalField } from '../../shared/DecimalField';
import { Field } from '../../shared/Field';
import { CellText, CheckField, RemoveButton, SelectField, TextField } from '../../shared/fields';
import { LadderFields, ladderHeads } from '../fields/LadderFields';
import { newController, opened } from './newController';

const terms = { P: 'P', PI: 'PI', PD: 'PD', PID: 'PID', compensator: 'compensator' } as const;
const forms = { parallel: 'parallel', ideal: 'ideal', series: 'series' } as const;
const compensatorForms = { factors: 'K (s − z)/(s − p)', corners: 'K (1 − s/z)/(1 − s/p)' } as const;

/** Terms and form of the controller, and which of its gains are left to the student. */
export function ControllerEditor({
  controller,
  error,
  onChange,
}: {
  controller: Controller;
  error: string | undefined;
  onChange: (controller: Controller) => void;
}) {
  const set = (index: number, gain: ControllerGain) =>
    onChange({ ...controller, gains: controller.gains.map((old, k) => (k === index ? gain : old)) } as Controller);
  const rebuilt = (next: { terms: Controller['terms']; form: Controller['form'] }) => {
    const built = newController(next.terms, next.form, controller.gains);
    if (!isPid(built) || !isPid(controller)) return onChange(built);
    onChange(controller.filterTime === undefined ? built : { ...built, filterTime: controller.filterTime });
  };
  return (
    <div className="grid gap-1.5">
      <div className={`grid gap-2 ${isPid(controller) ? 'grid-cols-[1fr_1.2fr_1.4fr]' : 'grid-cols-[1fr_1.3fr]'}`}>
        <SelectField
          label="Controller"
          value={controller.terms}
          options={terms}
          onChange={(next) => rebuilt({ terms: next, form: controller.form })}
        />
        {isPid(controller) ? (
          <PidForm
            controller={controller}
            onForm={(form) => rebuilt({ terms: controller.terms, form })}
            onChange={onChange}
          />
        ) : (
          <CompensatorForm compensator={controller} onChange={onChange} />
        )}
      </div>
      <div className="grid grid-cols-[34px_82px_1fr_1fr_1fr_1fr_1fr] items-center gap-1 text-note text-slate">
        {['gain', '', ...ladderHeads].map((heading) => (
          <span key={heading}>{heading}</span>
        ))}
        {controller.gains.map((gain, index) => (
          <div key={gain.name} className="contents">
            <span className="text-[13px] whitespace-nowrap text-ink">
              {gain.name}
              {!isPid(controller) && gain.name !== 'K' && (
                <RemoveButton
                  label={`Remove ${gain.name}`}
                  onClick={() => {
                    const gone: readonly string[] = partnersOf(gain.name);
                    onChange({ ...controller, gains: controller.gains.filter(({ name }) => !gone.includes(name)) });
                  }}
                />
              )}
            </span>
            <select
              aria-label={`${gain.name}: set by the student or given`}
              className="input px-1 py-1 text-[13px]"
              value={!isOpen(gain) ? 'given' : gain.optional ? 'optional' : 'open'}
              onChange={(event) => set(index, setBy(gain, event.target.value))}
            >
              <option value="open">student</option>
              {!isPid(controller) && gain.name !== 'K' && <option value="optional">may add</option>}
              <option value="given">given</option>
            </select>
            {isOpen(gain) ? (
              <LadderFields name={gain.name} ladder={gain} onChange={(next) => set(index, next)} />
            ) : (
              <span className="col-span-5">
                <CellText
                  label={`${gain.name}, given as`}
                  mono
                  maxLength={200}
                  value={gain.value}
                  onChange={(value) => value && set(index, { name: gain.name, value } as ControllerGain)}
                />
              </span>
            )}
          </div>
        ))}
      </div>
      {!isPid(controller) && <MoreTerms compensator={controller} onChange={onChange} />}
      {error && <p className="text-note text-brick">{error}</p>}
    </div>
  );
}

/** The gain as one that the student sets, may add, or is given. */
function setBy(gain: ControllerGain, by: string): ControllerGain {
  if (by === 'given') return { name: gain.name, value: '1' } as ControllerGain;
  const { optional: _, ...open } = isOpen(gain)
    ? gain
    : (opened(gain.name) as Extract<ControllerGain, { start: number }>);
  return by === 'optional' ? { ...open, optional: true } : open;
}

function PidForm({
  controller,
  onForm,
  onChange,
}: {
  controller: PidController;
  onForm: (form: PidController['form']) => void;
  onChange: (controller: Controller) => void;
}) {
  const filtered = controller.terms === 'PD' || controller.terms === 'PID';
  return (
    <>
      <SelectField label="Form" value={controller.form} options={forms} onChange={onForm} />
      {filtered && (
        <TextField
          label="Filter time of D"
          maxLength={200}
          value={controller.filterTime ?? ''}
          hint="empty for none"
          onChange={(text) => {
            const { filterTime: _old, ...rest } = controller;
            onChange(text.trim() ? { ...rest, filterTime: text } : rest);
          }}
        />
      )}
    </>
  );
}

/** Form and limits of a compensator. */
function CompensatorForm({
  compensator,
  onChange,
}: {
  compensator: Compensator;
  onChange: (controller: Controller) => void;
}) {
  return (
    <>
      <SelectField
        label="Form"
        value={compensator.form}
        options={compensatorForms}
        onChange={(form) => onChange({ ...compensator, form })}
      />
      <Field label="Largest ratio of a lead or lag">
        {({ id }) => (
          <OptionalDecimalField
            id={id}
            label="Largest ratio of a lead or lag"
            value={compensator.largestRatio}
            placeholder="no limit"
            min={1.01}
            onChange={(largestRatio) => {
              const { largestRatio: _old, ...rest } = compensator;
              onChange(largestRatio === undefined ? rest : { ...rest, largestRatio });
            }}
          />
        )}
      </Field>
      <span className="self-end pb-1.5">
        <CheckField
          label="At least as many poles as zeros"
          checked={compensator.proper ?? false}
          onChange={(proper) => onChange({ ...compensator, proper })}
        />
      </span>
    </>
  );
}

const more: readonly (readonly [string, readonly CompensatorName[]])[] = [
  ['a lead or lag', ['z1', 'p1']],
  ['a second lead or lag', ['z2', 'p2']],
  ['a third lead or lag', ['z3', 'p3']],
  ['a pair of zeros', ['zr', 'zi']],
  ['a pair of poles', ['pr', 'pi']],
];

/** Terms that the student may have beside those that are there. */
function MoreTerms({ compensator, onChange }: { compensator: Compensator; onChange: (next: Controller) => void }) {
  const names = compensator.gains.map(({ name }) => name as string);
  const left = more.filter(([, of]) => of.every((name) => !names.includes(name)));
  const order: readonly string[] = compensatorNames;
  const add = (of: readonly CompensatorName[]) => {
    const gains = [...compensator.gains, ...of.map(opened)] as Compensator['gains'];
    onChange({ ...compensator, gains: gains.sort((a, b) => order.indexOf(a.name) - order.indexOf(b.name)) });
  };
  return (
    <p className="flex flex-wrap gap-x-3 text-note text-slate">
      {left.map(([words, of]) => (
        <button key={words} type="button" className="link" onClick={() => add(of)}>
          Add {words}
        </button>
      ))}
    </p>
  );
}
