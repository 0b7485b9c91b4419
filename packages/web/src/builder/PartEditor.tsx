import {
  type Bindings,
  type Finding,
  type GainsPart,
  type Nail,
  type Part,
  type QuantityName,
  gainsOfForm,
  quantities,
  quantityNames,
} from '@nailset/core';
import { Button } from '../shared/Button';
import { DecimalField } from '../shared/DecimalField';
import { ExpressionField } from '../shared/ExpressionField';
import { Field } from '../shared/Field';
import { freeId } from './newExercise';

/** Change of a part that keeps its kind. */
type Change = (change: Partial<Part>) => void;

/** One part, open: what is asked, and what is accepted as its answer. */
export function PartEditor({
  part,
  bindings,
  findings,
  disabled,
  onChange,
}: {
  part: Part;
  bindings: Bindings;
  findings: readonly Finding[];
  disabled: boolean;
  onChange: Change;
}) {
  return (
    <fieldset disabled={disabled} className="grid gap-3">
      <div className="grid gap-3">
        <Field label="Title of the part" error={findings.find(({ path }) => path.endsWith('/title'))?.message}>
          {(ids) => (
            <input
              {...ids}
              className="input"
              maxLength={60}
              value={part.title}
              onChange={(event) => onChange({ title: event.target.value })}
            />
          )}
        </Field>
        <Field label="What to do">
          {(ids) => (
            <textarea
              {...ids}
              className="input"
              rows={2}
              maxLength={2000}
              value={part.prompt}
              onChange={(event) => onChange({ prompt: event.target.value })}
            />
          )}
        </Field>
      </div>
      {part.kind === 'transferFunction' && (
        <>
          <ExpressionField
            label="Expected transfer function"
            text={part.expected}
            bindings={bindings}
            onChange={(expected) => onChange({ expected })}
          />
          <TypedAcceptance
            part={part}
            onChange={onChange}
            note="of each coefficient, after dividing by the leading one"
          />
        </>
      )}
      {part.kind === 'number' && (
        <>
          <Field label="Asked for">
            {(ids) => <QuantitySelect {...ids} value={part.quantity} onChange={(quantity) => onChange({ quantity })} />}
          </Field>
          <ExpressionField
            label="of the unit step response of"
            text={part.system}
            bindings={bindings}
            onChange={(system) => onChange({ system })}
          />
          <TypedAcceptance part={part} onChange={onChange} note="of the expected number" />
        </>
      )}
      {part.kind === 'gains' && <GainsEditor part={part} bindings={bindings} onChange={onChange} />}
    </fieldset>
  );
}

function TypedAcceptance({
  part,
  note,
  onChange,
}: {
  part: Extract<Part, { points: number }>;
  note: string;
  onChange: Change;
}) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <Field label="Tolerance" hint={note}>
        {(ids) => (
          <DecimalField
            {...ids}
            unit="%"
            min={0}
            value={part.tolerancePercent}
            onChange={(value) => onChange({ tolerancePercent: Math.min(20, value) })}
          />
        )}
      </Field>
      <Field label="Points">
        {(ids) => (
          <DecimalField
            {...ids}
            min={0}
            value={part.points}
            onChange={(value) => onChange({ points: Math.min(100, value) })}
          />
        )}
      </Field>
    </div>
  );
}

function QuantitySelect({
  value,
  onChange,
  ...rest
}: {
  value: QuantityName;
  onChange: (name: QuantityName) => void;
  id?: string;
  'aria-label'?: string;
}) {
  return (
    <select
      {...rest}
      className="input px-1 text-[13px]"
      value={value}
      onChange={(event) => onChange(event.target.value as QuantityName)}
    >
      {quantityNames.map((name) => (
        <option key={name} value={name}>
          {quantities[name].label}
        </option>
      ))}
    </select>
  );
}

const forms = { P: 'P', PI: 'PI', PD: 'PD', PID: 'PID' } as const;

function GainsEditor({ part, bindings, onChange }: { part: GainsPart; bindings: Bindings; onChange: Change }) {
  const setNail = (index: number, change: Partial<Nail>) =>
    onChange({ nails: part.nails.map((nail, k) => (k === index ? { ...nail, ...change } : nail)) });
  const addNail = () => {
    const quantity =
      quantityNames.find((name) => !part.nails.some((nail) => nail.quantity === name)) ?? 'overshootPercent';
    const { usualRelation: relation, usualLimit: limit } = quantities[quantity];
    const id = freeId(
      `nail-${part.nails.length + 1}`,
      part.nails.map((nail) => nail.id),
    );
    onChange({ nails: [...part.nails, { id, quantity, relation, limit, points: 1 }] });
  };
  return (
    <>
      <ExpressionField
        label="Plant P"
        lead="P(s)="
        text={part.plant}
        bindings={bindings}
        onChange={(plant) => onChange({ plant })}
      />
      <div className="grid grid-cols-[88px_1fr_88px] gap-2">
        <Field label="Controller">
          {(ids) => (
            <select
              {...ids}
              className="input px-1.5"
              value={part.form}
              onChange={(event) => onChange({ form: event.target.value as GainsPart['form'] })}
            >
              {Object.keys(forms).map((form) => (
                <option key={form}>{form}</option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Output and its unit">
          {(ids) => (
            <input
              {...ids}
              className="input"
              maxLength={60}
              value={part.output}
              onChange={(event) => onChange({ output: event.target.value })}
            />
          )}
        </Field>
        <Field label="Time shown">
          {(ids) => (
            <DecimalField
              {...ids}
              unit="s"
              min={0.001}
              value={part.horizon}
              onChange={(horizon) => onChange({ horizon })}
            />
          )}
        </Field>
      </div>
      <table className="w-full text-left text-note text-slate">
        <thead>
          <tr>
            <th className="font-normal">gain</th>
            <th className="font-normal">start</th>
            <th className="font-normal">fine rung</th>
            <th className="font-normal">coarse rung</th>
          </tr>
        </thead>
        <tbody>
          {gainsOfForm[part.form].map((gain) => {
            const rung = part.rungs[gain] ?? { fine: 0.1, coarse: 1 };
            const start = part.start[gain] ?? 0;
            return (
              <tr key={gain}>
                <td className="w-10 text-ink">{gain}</td>
                <td className="py-0.5 pr-1.5">
                  <DecimalField
                    label={`${gain}, start`}
                    value={start}
                    onChange={(value) => onChange({ start: { ...part.start, [gain]: value } })}
                  />
                </td>
                {(['fine', 'coarse'] as const).map((size) => (
                  <td key={size} className="py-0.5 pr-1.5">
                    <DecimalField
                      label={`${gain}, ${size} rung`}
                      min={1e-6}
                      value={rung[size]}
                      onChange={(value) => onChange({ rungs: { ...part.rungs, [gain]: { ...rung, [size]: value } } })}
                    />
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      <section aria-label="Nails accepted">
        <h4 className="caption mt-1 mb-1">Accepted: all of these nails</h4>
        <ul>
          {part.nails.map((nail, index) => (
            <NailRow
              key={nail.id}
              nail={nail}
              onChange={(change) => setNail(index, change)}
              onRemove={
                part.nails.length > 1 ? () => onChange({ nails: part.nails.filter((_, k) => k !== index) }) : undefined
              }
            />
          ))}
        </ul>
        {part.nails.length < 12 && (
          <Button look="quiet" className="mt-1" onClick={addNail}>
            Add a nail
          </Button>
        )}
      </section>
    </>
  );
}

function NailRow({
  nail,
  onChange,
  onRemove,
}: {
  nail: Nail;
  onChange: (change: Partial<Nail>) => void;
  onRemove: (() => void) | undefined;
}) {
  const { label, unit, definition } = quantities[nail.quantity];
  const pick = (quantity: QuantityName) => {
    const { usualRelation: relation, usualLimit: limit } = quantities[quantity];
    onChange({ quantity, relation, limit });
  };
  return (
    <li
      className="grid grid-cols-[1fr_42px_72px_58px_14px] items-center gap-1.5 border-t border-grid py-1"
      title={definition}
    >
      <QuantitySelect aria-label="Nail" value={nail.quantity} onChange={pick} />
      <select
        aria-label={`${label}: at most or at least`}
        className="input px-1"
        value={nail.relation}
        onChange={(event) => onChange({ relation: event.target.value as Nail['relation'] })}
      >
        <option value="atMost">≤</option>
        <option value="atLeast">≥</option>
      </select>
      <DecimalField
        label={`${label}, limit`}
        unit={unit}
        value={nail.limit}
        onChange={(limit) => onChange({ limit })}
      />
      <DecimalField
        label={`${label}, points`}
        unit="pt"
        min={0}
        value={nail.points}
        onChange={(points) => onChange({ points: Math.min(100, points) })}
      />
      {onRemove ? (
        <button
          type="button"
          aria-label={`Remove the nail ${label}`}
          className="text-slate hover:text-brick disabled:invisible"
          onClick={onRemove}
        >
          ×
        </button>
      ) : (
        <span />
      )}
    </li>
  );
}
