import type { Figure, Scope, Series } from '@nailset/core';
import { InputEditor } from '../kinds/fields/InputEditor';
import { Button } from '../shared/Button';
import { ExpressionField } from '../shared/ExpressionField';
import { CellText, changedAt, CheckField, NumberField, RemoveButton, SelectField, without } from '../shared/fields';
import { FieldScope } from '../shared/unread';

type Curve = Figure['curves'][number];

/** Curves beside a part: given at once, or shown after the answer. */
export function FigureEditor({
  figure,
  scope,
  series,
  system,
  errorAt,
  onChange,
}: {
  figure: Figure | undefined;
  scope: Scope;
  series: readonly Series[];
  /** What a new curve shows. */
  system: string;
  errorAt: (index: number) => string | undefined;
  onChange: (figure: Figure | undefined) => void;
}) {
  const add = () => {
    const curves = figure?.curves ?? [];
    const curve: Curve = { label: `curve ${curves.length + 1}`, system, afterwards: curves[0]?.afterwards ?? false };
    onChange(figure ? { ...figure, curves: [...curves, curve] } : { horizon: 5, curves: [curve] });
  };
  if (!figure) {
    return (
      <Button look="quiet" className="justify-self-start" onClick={add}>
        Add curves to this part
      </Button>
    );
  }
  const set = (index: number, change: Partial<Curve>) =>
    onChange({ ...figure, curves: changedAt(figure.curves, index, change) });
  return (
    <FieldScope name="figure">
      <section aria-label="Curves" className="grid gap-2 border-t border-rule pt-2">
        <h3 className="caption">Curves</h3>
        <InputEditor
          label="Input"
          input={figure.input}
          series={series}
          onChange={(input) => onChange({ ...figure, input })}
        />
        {figure.curves.map((curve, index) => (
          <div key={index} className="grid gap-1 border-t border-grid pt-2">
            <div className="grid grid-cols-[1fr_auto_24px] items-center gap-2">
              <CellText
                label={`Name of curve ${index + 1}`}
                value={curve.label}
                maxLength={40}
                onChange={(label) => set(index, { label })}
              />
              <CheckField
                label="after the answer"
                checked={curve.afterwards}
                onChange={(afterwards) => set(index, { afterwards })}
              />
              <RemoveButton
                label={`Remove ${curve.label}`}
                onClick={() => {
                  const curves = without(figure.curves, index);
                  onChange(curves.length > 0 ? { ...figure, curves } : undefined);
                }}
              />
            </div>
            {series.length > 0 && (
              <SelectField
                label="Shows"
                value={curve.series ?? ''}
                options={{ '': 'a system', ...Object.fromEntries(series.map(({ id, name }) => [id, name])) }}
                onChange={(id) => {
                  const { label, afterwards } = curve;
                  const curves = [...figure.curves];
                  curves[index] = id ? { label, afterwards, series: id } : { label, afterwards, system };
                  onChange({ ...figure, curves });
                }}
              />
            )}
            {curve.series === undefined && (
              <ExpressionField
                label="Response of"
                text={curve.system ?? ''}
                scope={scope}
                reads="system"
                placeholder="for example closed(G)"
                error={errorAt(index)}
                onChange={(of) => set(index, { system: of })}
              />
            )}
          </div>
        ))}
        <div className="flex items-end justify-between gap-3">
          {figure.curves.length < 6 ? (
            <Button look="quiet" onClick={add}>
              Add a curve
            </Button>
          ) : (
            <span />
          )}
          <div className="w-28">
            <NumberField
              label="Time shown"
              unit="s"
              min={0.001}
              value={figure.horizon}
              onChange={(horizon) => onChange({ ...figure, horizon })}
            />
          </div>
        </div>
      </section>
    </FieldScope>
  );
}
