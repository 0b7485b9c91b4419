import { must, type TrendPart } from '@nailset/core';
import { Button } from '../../shared/Button';
import { DecimalField } from '../../shared/DecimalField';
import { ExpressionField } from '../../shared/ExpressionField';
import { CellText, changedAt, NumberField, PointsField, RemoveButton, without } from '../../shared/fields';
import { freeId } from '../../shared/freeId';
import { type EditorProps, errorOf } from '../fields/editor';
import { MarkingField } from '../fields/MarkingField';

type Row = TrendPart['rows'][number];
type Change = TrendPart['changes'][number];

export function TrendEditor({ part, scope, findings, onChange }: EditorProps<'trend'>) {
  const setRow = (index: number, change: Partial<Row>) => onChange({ rows: changedAt(part.rows, index, change) });
  const setChange = (index: number, change: Partial<Change>) =>
    onChange({ changes: changedAt(part.changes, index, change) });
  const ids = (list: readonly { id: string }[]) => list.map(({ id }) => id);
  return (
    <>
      <section aria-label="Columns" className="grid gap-1.5">
        <h3 className="caption">Columns: one parameter, changed</h3>
        {part.changes.map((change, index) => (
          <div key={change.id} className="grid grid-cols-[1fr_64px_auto_64px_24px] items-center gap-1.5 text-[13px]">
            <CellText
              label={`Heading of column ${index + 1}`}
              value={change.label}
              maxLength={40}
              onChange={(label) => setChange(index, { label })}
            />
            <CellText
              label={`Parameter of column ${index + 1}`}
              mono
              value={change.symbol}
              maxLength={16}
              onChange={(symbol) => symbol && setChange(index, { symbol })}
            />
            times
            <DecimalField
              label={`Factor of column ${index + 1}`}
              min={0.01}
              value={change.factor}
              onChange={(factor) => setChange(index, { factor })}
            />
            {part.changes.length > 1 && (
              <RemoveButton
                label={`Remove column ${index + 1}`}
                onClick={() => onChange({ changes: without(part.changes, index) })}
              />
            )}
          </div>
        ))}
        {part.changes.length < 4 && (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() => {
              const last = must(part.changes[part.changes.length - 1]);
              onChange({ changes: [...part.changes, { ...last, id: freeId('change', ids(part.changes)) }] });
            }}
          >
            Add a column
          </Button>
        )}
      </section>
      <section aria-label="Rows" className="grid gap-2">
        <h3 className="caption">Rows: what may go up or down</h3>
        {part.rows.map((row, index) => (
          <div key={row.id} className="grid gap-1 border-t border-grid pt-2">
            <div className="grid grid-cols-[1fr_24px] items-center gap-2">
              <CellText
                label={`Name of row ${index + 1}`}
                value={row.label}
                maxLength={40}
                onChange={(label) => setRow(index, { label })}
              />
              {part.rows.length > 1 && (
                <RemoveButton
                  label={`Remove row ${index + 1}`}
                  onClick={() => onChange({ rows: without(part.rows, index) })}
                />
              )}
            </div>
            <ExpressionField
              label="Formula"
              text={row.formula}
              scope={scope}
              reads="number"
              error={errorOf(findings, 'rows')}
              onChange={(formula) => setRow(index, { formula })}
            />
          </div>
        ))}
        {part.rows.length < 6 && (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() => {
              const last = must(part.rows[part.rows.length - 1]);
              onChange({ rows: [...part.rows, { ...last, id: freeId('row', ids(part.rows)) }] });
            }}
          >
            Add a row
          </Button>
        )}
      </section>
      <div className="grid grid-cols-3 gap-3">
        <NumberField
          label="Same within"
          unit="%"
          min={0}
          max={50}
          value={part.samePercent}
          onChange={(samePercent) => onChange({ samePercent })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
        <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />
      </div>
    </>
  );
}
