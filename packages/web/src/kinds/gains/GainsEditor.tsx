import { isPid, type PartOf, type PartView } from '@nailset/core';
import { ExpressionField } from '../../shared/ExpressionField';
import { CheckField, NumberField, TextField } from '../../shared/fields';
import { type EditorProps, errorOf } from '../fields/editor';
import { InputEditor } from '../fields/InputEditor';
import { MarkingField } from '../fields/MarkingField';
import { ControllerEditor } from './ControllerEditor';
import { NailsEditor } from './NailsEditor';

const gone = undefined;

const viewNames: Record<PartView, string> = {
  effort: 'control effort',
  plane: 'closed-loop poles',
  locus: 's-plane with locus',
  bode: 'Bode',
  nyquist: 'Nyquist',
};

/** The loop, its controller, what the bench shows, and the nails. */
export function GainsEditor({ part, scope, series, findings, onChange }: EditorProps<'gains'>) {
  return (
    <>
      <ExpressionField
        label="Plant G"
        lead="G(s)="
        text={part.plant}
        scope={scope}
        reads="system"
        error={errorOf(findings, 'plant')}
        onChange={(plant) => onChange({ plant })}
      />
      <ControllerEditor
        controller={part.controller}
        error={errorOf(findings, 'controller')}
        onChange={(controller) => onChange({ controller })}
      />
      <NailsEditor
        nails={part.nails}
        horizon={part.horizon}
        findings={findings}
        onChange={(nails) => onChange({ nails })}
      />
      <LoopFields {...{ part, scope, series, findings, onChange }} />
      <BenchFields {...{ part, findings, onChange }} />
    </>
  );
}

/** What stands in the loop beside plant and controller, and what drives it. */
function LoopFields({ part, scope, series, findings, onChange }: Omit<EditorProps<'gains'>, 'diagrams'>) {
  return (
    <details className="border-t border-rule pt-2">
      <summary className="cursor-pointer text-[13px] text-petrol">The loop: sensor, limits, inputs</summary>
      <div className="mt-2 grid gap-3">
        <CheckField
          label="A sensor H stands in the feedback path"
          checked={part.sensor !== undefined}
          onChange={(on) => onChange({ sensor: on ? '1/(0.1*s + 1)' : gone })}
        />
        {part.sensor !== undefined && (
          <ExpressionField
            label="Sensor H"
            lead="H(s)="
            text={part.sensor}
            scope={scope}
            reads="system"
            error={errorOf(findings, 'sensor')}
            onChange={(sensor) => onChange({ sensor })}
          />
        )}
        <CheckField
          label="The effort has limits"
          checked={part.limits !== undefined}
          onChange={(on) => onChange({ limits: on ? { low: '-1', high: '1', trackingTime: '1' } : gone })}
        />
        {part.limits && <LimitFields limits={part.limits} onChange={(limits) => onChange({ limits })} />}
        {errorOf(findings, 'limits') && <p className="text-note text-brick">{errorOf(findings, 'limits')}</p>}
        <InputEditor
          label="Reference"
          loops
          input={part.input}
          series={series}
          onChange={(input) => onChange({ input })}
        />
        {errorOf(findings, 'input') && <p className="text-note text-brick">{errorOf(findings, 'input')}</p>}
        <CheckField
          label="A disturbance d adds to the effort"
          checked={part.disturbance !== undefined}
          onChange={(on) =>
            onChange({ disturbance: on ? { kind: 'levels', from: 0, to: 0.5, at: part.horizon / 2 } : gone })
          }
        />
        {part.disturbance && (
          <InputEditor
            label="Disturbance"
            loops
            input={part.disturbance}
            series={series}
            onChange={(disturbance) => onChange({ disturbance })}
          />
        )}
      </div>
    </details>
  );
}

type Limits = NonNullable<PartOf<'gains'>['limits']>;

function LimitFields({ limits, onChange }: { limits: Limits; onChange: (limits: Limits) => void }) {
  return (
    <div className="grid grid-cols-3 gap-2">
      <TextField label="lowest" maxLength={200} value={limits.low} onChange={(low) => onChange({ ...limits, low })} />
      <TextField
        label="highest"
        maxLength={200}
        value={limits.high}
        onChange={(high) => onChange({ ...limits, high })}
      />
      <TextField
        label="Tracking time, s"
        hint="empty: the integrator winds up"
        maxLength={200}
        value={limits.trackingTime ?? ''}
        onChange={(text) => {
          const { low, high } = limits;
          onChange(text.trim() ? { low, high, trackingTime: text } : { low, high });
        }}
      />
    </div>
  );
}

/** What the student’s bench shows, and how it is marked. */
function BenchFields({ part, findings, onChange }: Pick<EditorProps<'gains'>, 'part' | 'findings' | 'onChange'>) {
  const view = (name: PartView) => (
    <CheckField
      key={name}
      label={viewNames[name]}
      checked={part.views.includes(name)}
      onChange={(on) => onChange({ views: on ? [...part.views, name] : part.views.filter((old) => old !== name) })}
    />
  );
  return (
    <section aria-label="The student’s bench" className="grid gap-2 border-t border-rule pt-2">
      <div className="grid grid-cols-[1fr_1fr_88px] gap-2">
        <TextField
          label="Output and its unit"
          maxLength={60}
          value={part.output}
          error={errorOf(findings, 'output')}
          onChange={(output) => onChange({ output })}
        />
        <TextField
          label="Effort and its unit"
          maxLength={60}
          value={part.effort ?? ''}
          onChange={(effort) => onChange({ effort: effort || gone })}
        />
        <NumberField
          label="Time shown"
          unit="s"
          min={0.001}
          value={part.horizon}
          onChange={(horizon) => onChange({ horizon })}
        />
      </div>
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <span className="text-[13px] text-slate">The bench offers</span>
        {(Object.keys(viewNames) as PartView[])
          .filter((name) => name !== 'plane' || !part.views.includes('locus'))
          .map(view)}
        {isPid(part.controller) && (
          <CheckField
            label="ways to start (may meet all nails at once)"
            checked={part.tunedStart ?? false}
            onChange={(on) => onChange({ tunedStart: on || gone })}
          />
        )}
      </div>
      <div className="w-44">
        <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />
      </div>
    </section>
  );
}
