/** @jest-environment jsdom */
import type { ExerciseDocument, StudentPart } from '@nailset/core';
import { parametersOf, scopeOf } from '@nailset/core';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ParametersEditor } from '../src/builder/given/ParametersEditor';
import { SystemsEditor } from '../src/builder/given/SystemsEditor';
import { TransferFunctionBench } from '../src/kinds/transferFunction/TransferFunctionBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const part = {
  ...{ id: 't', title: 'T', prompt: '', points: 1, attempts: 3, kind: 'transferFunction', tolerancePercent: 1 },
} as Extract<StudentPart, { kind: 'transferFunction' }>;
const scope = parametersOf({});

describe('a mode that cancels', () => {
  test.each([
    ['4(s-1)/((s-1)(s+2))', 'cancelled: a hidden mode at 1 is unstable'],
    ['4(s+3)/((s+3)(s+2))', 'cancelled: a hidden mode at −3 decays'],
  ])('is shown, marked hidden, beside %s', (text, words) => {
    const { container } = render(
      <TransferFunctionBench part={part} text={text} scope={scope} solution={undefined} onChange={() => undefined} />,
    );
    expect(screen.getByText(words)).toBeTruthy();
    expect(container.querySelector('[data-hidden-mode]')).not.toBeNull();
  });

  test('of a state model is told in the builder', () => {
    const form = {
      kind: 'states',
      a: [
        ['1', '0'],
        ['0', '-2'],
      ],
      b: [['1'], ['1']],
      c: [['0', '4']],
      d: [['0']],
    } as const;
    const system = { name: 'G', meaning: '', form } as unknown as ExerciseDocument['systems'][number];
    render(
      <SystemsEditor
        systems={[system]}
        scope={scopeOf({ systems: [system] }, {})}
        findings={[]}
        disabled={false}
        onChange={() => undefined}
      />,
    );
    expect(screen.getByText(/a hidden mode at 1 is unstable/)).toBeTruthy();
  });
});

test('a parameter is hidden from students by a tick', async () => {
  let now: ExerciseDocument['parameters'] = [
    { symbol: 'zeta', meaning: '', unit: '', draw: { kind: 'fixed', value: 0.3 } },
  ];
  function Editor() {
    const [parameters, setParameters] = useState(now);
    now = parameters;
    return <ParametersEditor parameters={parameters} findings={[]} disabled={false} onChange={setParameters} />;
  }
  render(<Editor />);
  const tick = () => userEvent.click(screen.getByRole('checkbox', { name: 'zeta, hidden from students' }));
  await tick();
  expect(now[0]!.hidden).toBe(true);
  await tick();
  expect(now[0]!.hidden).toBeUndefined();
});
