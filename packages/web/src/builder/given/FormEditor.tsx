import { coefficientsIn, must, type SystemForm } from '@nailset/core';
import { lazy, Suspense, useState } from 'react';
import { Button } from '../../shared/Button';
import { CellText, TextField } from '../../shared/fields';

const DiagramWorkshop = lazy(async () => ({
  default: (await import('../../workshop/DiagramWorkshop')).DiagramWorkshop,
}));

export const formNames: Record<SystemForm['kind'], string> = {
  expression: 'fraction in s',
  coefficients: 'coefficients',
  zerosPoles: 'gain, zeros, poles',
  secondOrder: 'second order',
  states: 'state matrices',
  equations: 'signal equations',
};

/** A form to start from. */
export function freshForm(kind: SystemForm['kind']): SystemForm {
  switch (kind) {
    case 'expression':
      return { kind, text: '1/(s + 1)' };
    case 'coefficients':
      return { kind, numerator: ['4'], denominator: ['1', '1.2', '4'] };
    case 'zerosPoles':
      return { kind, gain: '4', zeros: [], poles: [{ re: '-1', im: '2' }] };
    case 'secondOrder':
      return { kind, gain: '1', dampingRatio: '0.4', naturalFrequency: '3' };
    case 'states':
      return {
        kind,
        a: [
          ['0', '1'],
          ['-4', '-1.2'],
        ],
        b: [['0'], ['4']],
        c: [['1', '0']],
        d: [['0']],
      };
    case 'equations':
      return { kind, text: 'e = r - y\nu = K*e\ny = G*(u + d)\nwhere K = 2, G = 4/(s^2 + 1.2 s)', from: 'r', to: 'y' };
  }
}

interface FormFieldsProps<Kind extends SystemForm['kind']> {
  name: string;
  form: Extract<SystemForm, { kind: Kind }>;
  onChange: (form: SystemForm) => void;
}

/** The fields of one form. */
export function FormEditor({ name, form, onChange }: FormFieldsProps<SystemForm['kind']>) {
  switch (form.kind) {
    case 'expression':
      return <FractionFields name={name} form={form} onChange={onChange} />;
    case 'coefficients':
      return <CoefficientFields form={form} onChange={onChange} />;
    case 'zerosPoles':
      return <ZeroPoleFields form={form} onChange={onChange} />;
    case 'secondOrder':
      return <SecondOrderFields form={form} onChange={onChange} />;
    case 'states':
      return <MatrixFields form={form} onChange={onChange} />;
    case 'equations':
      return <EquationFields name={name} form={form} onChange={onChange} />;
  }
}

function FractionFields({ name, form, onChange }: FormFieldsProps<'expression'>) {
  return (
    <CellText
      label={`${name} as a fraction in s`}
      mono
      maxLength={2000}
      value={form.text}
      onChange={(text) => text && onChange({ ...form, text })}
    />
  );
}

function CoefficientFields({ form, onChange }: Omit<FormFieldsProps<'coefficients'>, 'name'>) {
  return (
    <div className="grid grid-cols-[1fr_1fr_70px] gap-2">
      <ListText
        label="Numerator, highest power first"
        value={form.numerator}
        onChange={(numerator) => onChange({ ...form, numerator })}
      />
      <ListText
        label="Denominator"
        value={form.denominator}
        onChange={(denominator) => onChange({ ...form, denominator })}
      />
      <TextField
        label="Dead time, s"
        maxLength={200}
        value={form.deadTime ?? ''}
        onChange={(text) => {
          const { deadTime: _old, ...rest } = form;
          onChange(text.trim() ? { ...rest, deadTime: text } : rest);
        }}
      />
    </div>
  );
}

function ZeroPoleFields({ form, onChange }: Omit<FormFieldsProps<'zerosPoles'>, 'name'>) {
  return (
    <div className="grid grid-cols-[60px_1fr_1fr] gap-2">
      <TextField
        label="Gain"
        maxLength={200}
        value={form.gain}
        onChange={(gain) => gain && onChange({ ...form, gain })}
      />
      <ListText
        label="Zeros, as −2 or −1 ± 3j"
        least={0}
        value={form.zeros.map(placeText)}
        onChange={(zeros) => onChange({ ...form, zeros: zeros.map(placeFrom) })}
      />
      <ListText
        label="Poles"
        least={0}
        value={form.poles.map(placeText)}
        onChange={(poles) => onChange({ ...form, poles: poles.map(placeFrom) })}
      />
    </div>
  );
}

function SecondOrderFields({ form, onChange }: Omit<FormFieldsProps<'secondOrder'>, 'name'>) {
  return (
    <div className="grid grid-cols-4 gap-2">
      <TextField
        label="Gain K"
        maxLength={200}
        value={form.gain}
        onChange={(gain) => gain && onChange({ ...form, gain })}
      />
      <TextField
        label="Damping ζ"
        maxLength={200}
        value={form.dampingRatio}
        onChange={(dampingRatio) => dampingRatio && onChange({ ...form, dampingRatio })}
      />
      <label className="text-note text-slate">
        given by
        <select
          className="input mt-1 px-1.5"
          value={form.naturalFrequency === undefined ? 'tau' : 'wn'}
          onChange={(event) => {
            const { gain, dampingRatio } = form;
            const base = { kind: form.kind, gain, dampingRatio };
            onChange(
              event.target.value === 'wn' ? { ...base, naturalFrequency: '3' } : { ...base, timeConstant: '0.5' },
            );
          }}
        >
          <option value="wn">ωn</option>
          <option value="tau">τ = 1/ωn</option>
        </select>
      </label>
      {form.naturalFrequency !== undefined ? (
        <TextField
          label="ωn, rad/s"
          maxLength={200}
          value={form.naturalFrequency}
          onChange={(naturalFrequency) => naturalFrequency && onChange({ ...form, naturalFrequency })}
        />
      ) : (
        <TextField
          label="τ, s"
          maxLength={200}
          value={form.timeConstant ?? ''}
          onChange={(timeConstant) => timeConstant && onChange({ ...form, timeConstant })}
        />
      )}
    </div>
  );
}

function MatrixFields({ form, onChange }: Omit<FormFieldsProps<'states'>, 'name'>) {
  return (
    <div className="grid grid-cols-[1.4fr_1fr_1.4fr_1fr] gap-2">
      {(['a', 'b', 'c', 'd'] as const).map((matrix) => (
        <MatrixText
          key={matrix}
          label={matrix.toUpperCase()}
          value={form[matrix]}
          onChange={(value) => onChange({ ...form, [matrix]: value })}
        />
      ))}
    </div>
  );
}

function EquationFields({ name, form, onChange }: FormFieldsProps<'equations'>) {
  return (
    <div className="grid gap-2">
      <TextField
        label="One equation a line; also s*x = …; bindings after “where”"
        rows={4}
        maxLength={4000}
        value={form.text}
        onChange={(text) => text && onChange({ ...form, text })}
      />
      <WorkshopButton name={name} form={form} onChange={onChange} />
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="From the input"
          maxLength={16}
          value={form.from}
          onChange={(from) => from && onChange({ ...form, from })}
        />
        <TextField
          label="to the signal"
          maxLength={16}
          value={form.to}
          onChange={(to) => to && onChange({ ...form, to })}
        />
      </div>
    </div>
  );
}

/** Opens the workshop, where the equations are drawn. */
function WorkshopButton({
  name,
  form,
  onChange,
}: {
  name: string;
  form: Extract<SystemForm, { kind: 'equations' }>;
  onChange: (form: SystemForm) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button className="justify-self-start px-2.5 py-1 text-[13px]" onClick={() => setOpen(true)}>
        Draw the diagram
      </Button>
      {open && (
        <Suspense fallback={null}>
          <DiagramWorkshop
            name={name}
            equations={form}
            onChange={(equations) => onChange({ ...form, ...equations })}
            onClose={() => setOpen(false)}
          />
        </Suspense>
      )}
    </>
  );
}

/** Formulas in a row or one a line, read as they are typed. */
function ListText({
  label,
  value,
  least = 1,
  onChange,
}: {
  label: string;
  value: readonly string[];
  least?: number;
  onChange: (value: string[]) => void;
}) {
  return (
    <label className="text-note text-slate">
      {label}
      <textarea
        className="input mt-1 resize-none [field-sizing:content] px-1.5 font-mono text-[13px]"
        rows={1}
        defaultValue={value.join(', ')}
        onChange={(event) => {
          const entries = entriesOf(event.target.value);
          event.target.setAttribute('aria-invalid', String(entries.length < least));
          if (entries.length >= least) onChange(entries);
        }}
      />
    </label>
  );
}

function MatrixText({
  label,
  value,
  onChange,
}: {
  label: string;
  value: readonly (readonly string[])[];
  onChange: (value: string[][]) => void;
}) {
  return (
    <label className="text-note text-slate">
      {label}
      <textarea
        className="input mt-1 px-1.5 font-mono text-[13px]"
        rows={Math.max(2, value.length)}
        defaultValue={value.map((row) => row.join(', ')).join('\n')}
        onChange={(event) => {
          const rows = event.target.value
            .split('\n')
            .map(entriesOf)
            .filter((row) => row.length > 0);
          const even = rows.length > 0 && rows.every((row) => row.length === must(rows[0]).length);
          event.target.setAttribute('aria-invalid', String(!even));
          if (even) onChange(rows);
        }}
      />
    </label>
  );
}

/** The entries of a list that may stand on several lines. */
function entriesOf(text: string): string[] {
  const line = text.trim().split('\n').join(';');
  return (coefficientsIn(line) ?? [line]).map((entry) => entry.trim()).filter(Boolean);
}

type Place = Extract<SystemForm, { kind: 'zerosPoles' }>['poles'][number];

const placeText = ({ re, im }: Place): string => (im === undefined ? re : `${re} ± ${im}j`);

/** −1 ± 3j, −1 + 3j, or a real place. */
function placeFrom(text: string): Place {
  const plain = text.replaceAll('−', '-').replace('+-', '±').trim();
  // The sign of an exponent, and the one in front of all, part nothing.
  const signs = Array.from(plain.matchAll(/(?<![eE])[±+-]/g)).filter(({ 0: sign, index }) => index > 0 || sign !== '-');
  const at = signs.at(-1)?.index;
  if (at === undefined || !/[ij]$/.test(plain)) return { re: text.replaceAll('−', '-') };
  const im = plain.slice(at + 1, -1).trim();
  return { re: plain.slice(0, at).trim() || '0', im: (im.endsWith('*') ? im.slice(0, -1).trim() : im) || '1' };
}
