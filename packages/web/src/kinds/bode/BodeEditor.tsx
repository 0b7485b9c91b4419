import { formatNumber, must, type TermGroup, termGroups } from '@nailset/core';
import { useState } from 'react';
import { ExpressionField } from '../../shared/ExpressionField';
import { NumberField, PointsField } from '../../shared/fields';
import { FileButton } from '../../shared/FileButton';
import { type EditorProps, errorOf } from '../fields/editor';

const names: Record<TermGroup, string> = {
  origin: 'integrators',
  poles: 'poles',
  zeros: 'zeros',
  polePairs: 'pairs of poles',
  zeroPairs: 'pairs of zeros',
  deadTime: 'dead time',
};

/** The frequency response to follow, the terms for it, and how near it must be. */
export function BodeEditor({ part, scope, findings, onChange }: EditorProps<'bode'>) {
  const [problem, setProblem] = useState('');
  const { target } = part;
  const read = async (file: File) => {
    try {
      const name = file.name.replace(/\.[^.]*$/, '').slice(0, 60) || 'measured';
      const { readFrequencyTable } = await import('../../shared/readTable');
      onChange({ target: { name, ...readFrequencyTable(await file.text()) } });
      setProblem('');
    } catch (error) {
      setProblem(`${file.name}: ${(error as Error).message}`);
    }
  };
  const toggle = (group: TermGroup) =>
    onChange({ terms: termGroups.filter((each) => part.terms.includes(each) !== (each === group)) });
  return (
    <>
      {'system' in target ? (
        <>
          <ExpressionField
            label="System to follow, hidden from students"
            text={target.system}
            scope={scope}
            reads="system"
            error={errorOf(findings, 'target')}
            onChange={(system) => onChange({ target: { ...target, system } })}
          />
          <div className="grid grid-cols-2 gap-3">
            {(['from', 'to'] as const).map((end) => (
              <NumberField
                key={end}
                label={end === 'from' ? 'Frequencies from' : 'to'}
                unit="rad/s"
                min={1e-6}
                value={target[end]}
                onChange={(value) => onChange({ target: { ...target, [end]: value } })}
              />
            ))}
          </div>
        </>
      ) : (
        <p className="text-[13px] text-slate">
          {target.name}: {target.omegas.length} points from {formatNumber(must(target.omegas[0]))} to{' '}
          {formatNumber(must(target.omegas.at(-1)))} rad/s{target.phasesDegrees ? '' : ', no phases'}.{' '}
          <button
            type="button"
            className="link"
            onClick={() => onChange({ target: { system: '4/((1 + s)*(1 + 0.2*s))', from: 0.05, to: 100 } })}
          >
            Take a system instead
          </button>
          {errorOf(findings, 'target') && <span className="text-brick"> {errorOf(findings, 'target')}</span>}
        </p>
      )}
      <div>
        <FileButton words="Take measured points" accept=".csv,.txt,.tsv,text/csv" onFile={(file) => void read(file)} />
        <p className="text-note text-slate">
          A CSV file with columns for frequency, magnitude and, if you have it, phase.
        </p>
      </div>
      {problem && (
        <p role="alert" className="text-note text-brick">
          {problem}
        </p>
      )}
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1 text-[13px]">
        <legend className="label mb-1">Terms to build with</legend>
        {termGroups.map((group) => (
          <label key={group} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={part.terms.includes(group)}
              onChange={() => toggle(group)}
            />
            {names[group]}
          </label>
        ))}
      </fieldset>
      <label className="flex min-h-6 items-center gap-1.5 text-[13px]">
        <input
          type="checkbox"
          className="accent-petrol"
          checked={part.refine ?? false}
          onChange={() => onChange({ refine: !part.refine })}
        />
        Students may refine by least squares, which can solve this part alone
      </label>
      <div className="grid grid-cols-3 gap-3">
        <NumberField
          label="Magnitude within"
          unit="dB"
          min={0.01}
          max={40}
          value={part.misfitDb}
          onChange={(misfitDb) => onChange({ misfitDb })}
        />
        <NumberField
          label="Phase within"
          unit="°"
          min={0.1}
          max={90}
          value={part.misfitDegrees ?? 90}
          onChange={(misfitDegrees) => onChange({ misfitDegrees })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
    </>
  );
}
