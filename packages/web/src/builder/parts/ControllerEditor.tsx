import { type Controller, type ControllerGain, isOpen } from '@nailset/core';
import { DecimalField } from '../../shared/DecimalField';
import { CellText, SelectField, TextField, changedAt } from '../fields';
import { newController, opened } from '../newExercise';

const terms = { P: 'P', PI: 'PI', PD: 'PD', PID: 'PID' } as const;
const forms = { parallel: 'parallel', ideal: 'ideal', series: 'series' } as const;

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
    onChange({ ...controller, gains: controller.gains.map((old, k) => (k === index ? gain : old)) });
  const filtered = controller.terms === 'PD' || controller.terms === 'PID';
  const rebuilt = (next: Pick<Controller, 'terms' | 'form'>) => {
    const built = newController(next.terms, next.form, controller.gains);
    onChange(controller.filterTime === undefined ? built : { ...built, filterTime: controller.filterTime });
  };
  return (
    <div className="grid gap-1.5">
      <div className="grid grid-cols-[1fr_1.2fr_1.4fr] gap-2">
        <SelectField
          label="Controller"
          value={controller.terms}
          options={terms}
          onChange={(next) => rebuilt({ terms: next, form: controller.form })}
        />
        <SelectField
          label="Form"
          value={controller.form}
          options={forms}
          onChange={(next) => rebuilt({ terms: controller.terms, form: next })}
        />
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
      </div>
      <div className="grid grid-cols-[26px_82px_1fr_1fr_1fr_1fr_1fr] items-center gap-1 text-note text-slate">
        {['gain', '', 'start', 'fine', 'coarse', 'from', 'to'].map((heading) => (
          <span key={heading}>{heading}</span>
        ))}
        {controller.gains.map((gain, index) => (
          <div key={gain.name} className="contents">
            <span className="text-[13px] text-ink">{gain.name}</span>
            <select
              aria-label={`${gain.name}: set by the student or given`}
              className="input px-1 py-1 text-[13px]"
              value={isOpen(gain) ? 'open' : 'given'}
              onChange={(event) =>
                set(index, event.target.value === 'open' ? opened(gain.name) : { name: gain.name, value: '1' })
              }
            >
              <option value="open">student</option>
              <option value="given">given</option>
            </select>
            {isOpen(gain) ? (
              (['start', 'fine', 'coarse', 'low', 'high'] as const).map((field) => (
                <DecimalField
                  key={field}
                  label={`${gain.name}, ${names[field]}`}
                  value={gain[field] ?? (field === 'low' ? -1e6 : 1e6)}
                  {...(field === 'fine' || field === 'coarse' ? { min: 1e-6 } : {})}
                  onChange={(value) => set(index, changedAt([gain], 0, { [field]: value })[0]!)}
                />
              ))
            ) : (
              <span className="col-span-5">
                <CellText
                  label={`${gain.name}, given as`}
                  mono
                  maxLength={200}
                  value={gain.value}
                  onChange={(value) => value && set(index, { name: gain.name, value })}
                />
              </span>
            )}
          </div>
        ))}
      </div>
      {error && <p className="text-note text-brick">{error}</p>}
    </div>
  );
}

const names = { start: 'start', fine: 'fine rung', coarse: 'coarse rung', low: 'lowest', high: 'highest' } as const;
