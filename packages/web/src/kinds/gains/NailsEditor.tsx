import {
  inPoints,
  type MeasureNail,
  type Nail,
  neverNegative,
  quantities,
  type QuantityName,
  quantityNames,
} from '@nailset/core';
import { type Finding } from '@nailset/core/checks';
import { Button } from '../../shared/Button';
import { DecimalField } from '../../shared/DecimalField';
import { changedAt, RemoveButton, without } from '../../shared/fields';
import { freeId } from '../../shared/freeId';
import { OwnWord } from '../../shared/OwnWord';
import { FieldScope } from '../../shared/unread';
import { CorridorEditor } from './CorridorEditor';

const groups: [string, (name: QuantityName) => boolean][] = [
  ['of the response', (name) => quantities[name].source === 'response'],
  ['of the error', (name) => quantities[name].source === 'error'],
  ['of the loop', (name) => quantities[name].source === 'loop'],
  ['of the poles and frequencies', (name) => quantities[name].source === 'system'],
];

/** The specifications that an answer must hold. */
export function NailsEditor({
  nails,
  horizon,
  findings,
  onChange,
}: {
  nails: readonly Nail[];
  /** How far the bench shows the response, in seconds. */
  horizon: number;
  findings: readonly Finding[];
  onChange: (nails: Nail[]) => void;
}) {
  const id = (): string =>
    freeId(
      `nail-${nails.length + 1}`,
      nails.map((nail) => nail.id),
    );
  const add = () => {
    const taken = nails.flatMap((nail) => ('quantity' in nail ? [nail.quantity] : []));
    const quantity = quantityNames.find((name) => !taken.includes(name)) ?? 'overshootPercent';
    const { usualRelation: relation, usualLimit: limit } = quantities[quantity];
    onChange([...nails, { id: id(), quantity, relation, limit, points: 1 }]);
  };
  const addCorridor = () =>
    onChange([
      ...nails,
      {
        id: id(),
        corridor: [
          { time: 0, low: null, high: 1.2 },
          { time: 2, low: 0.9, high: 1.1 },
          { time: 5, low: 0.95, high: 1.05 },
        ],
        points: 1,
      },
    ]);
  return (
    <section aria-label="Nails accepted">
      <h3 className="caption mt-1 mb-1">Accepted: all of these nails</h3>
      <OwnWord word="nail" />
      <ul>
        {nails.map((nail, index) => {
          const remove = nails.length > 1 ? () => onChange(without(nails, index)) : undefined;
          const error = findings.find(({ path }) => path.endsWith(`/nails/${index}`))?.message;
          return (
            <li key={nail.id} className="border-t border-grid py-1">
              {'corridor' in nail ? (
                <FieldScope name={nail.id}>
                  <CorridorEditor
                    nail={nail}
                    horizon={horizon}
                    onChange={(change) => onChange(changedAt<Nail>(nails, index, change))}
                    onRemove={remove}
                  />
                </FieldScope>
              ) : (
                <FieldScope name={nail.id}>
                  <NailRow
                    nail={nail}
                    onChange={(change) => onChange(changedAt<Nail>(nails, index, change))}
                    onRemove={remove}
                  />
                </FieldScope>
              )}
              {error && <p className="text-note text-brick">{error}</p>}
            </li>
          );
        })}
      </ul>
      {nails.length < 12 && (
        <div className="mt-1 flex gap-4">
          <Button look="quiet" onClick={add}>
            Add a nail
          </Button>
          <Button look="quiet" onClick={addCorridor}>
            Add a corridor
          </Button>
        </div>
      )}
    </section>
  );
}

const signals = { 'y r': 'y', 'e r': 'e', 'u r': 'u', 'y d': 'y d', 'e d': 'e d', 'u d': 'u d' } as const;

function NailRow({
  nail,
  onChange,
  onRemove,
}: {
  nail: MeasureNail;
  onChange: (change: Partial<MeasureNail>) => void;
  onRemove: (() => void) | undefined;
}) {
  const { label, unit, definition, source } = quantities[nail.quantity];
  const pick = (quantity: QuantityName) => {
    const { usualRelation: relation, usualLimit: limit } = quantities[quantity];
    onChange({ quantity, relation, limit });
  };
  const hasSignal = source === 'response' || source === 'error';
  const usual = source === 'error' ? 'e' : 'y';
  return (
    <div className="grid grid-cols-[1fr_34px_28px_64px_50px_24px] items-start gap-1" title={definition}>
      <select
        aria-label="Nail"
        className="input px-1 text-[13px]"
        value={nail.quantity}
        onChange={(event) => pick(event.target.value as QuantityName)}
      >
        {groups.map(([heading, belongs]) => (
          <optgroup key={heading} label={heading}>
            {quantityNames.filter(belongs).map((name) => (
              <option key={name} value={name}>
                {quantities[name].label}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      {hasSignal ? (
        <select
          aria-label={`${label}: of which signal`}
          className="input appearance-none px-1 text-center text-[13px]"
          value={`${nail.signal ?? usual} ${nail.input ?? 'r'}`}
          onChange={(event) => {
            const [signal, input] = event.target.value.split(' ') as ['y' | 'e' | 'u', 'r' | 'd'];
            onChange({ signal, input });
          }}
        >
          {Object.entries(signals).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      ) : (
        <span />
      )}
      <select
        aria-label={`${label}: at most or at least`}
        className="input appearance-none px-1 text-center"
        value={nail.relation}
        onChange={(event) => onChange({ relation: event.target.value as MeasureNail['relation'] })}
      >
        <option value="atMost">≤</option>
        <option value="atLeast">≥</option>
      </select>
      <DecimalField
        label={`${label}, limit`}
        unit={unit}
        {...(neverNegative.has(nail.quantity) ? { min: 0 } : {})}
        value={nail.limit}
        onChange={(limit) => onChange({ limit })}
      />
      <DecimalField
        label={`${label}, points`}
        unit="pt"
        min={0}
        max={100}
        value={nail.points}
        onChange={(points) => onChange({ points })}
      />
      {onRemove ? (
        <RemoveButton
          label={`Remove the nail ${label}`}
          ask={`Its limit and its ${inPoints(nail.points)} go.`}
          onClick={onRemove}
        />
      ) : (
        <span />
      )}
    </div>
  );
}
