/** @jest-environment jsdom */
import type { Bench, StudentPart } from '@nailset/core';
import { type ReactNode, startTransition, useState, useSyncExternalStore } from 'react';
import { createRoot } from 'react-dom/client';
import { usePreviewWork } from '../src/builder/usePreviewWork';
import type { WorkAction } from '../src/loop/action';
import { benchWith } from './emptyBench';

// A busy machine draws a large change in slices. What happens between them is put off, and React may draw the change
// once more before it is done.

/** Takes long enough that other things happen before React goes on. */
function Slow() {
  const end = performance.now() + 8;
  while (performance.now() < end);
  return null;
}

let outside = 0;
/** Something that React finds changed once it has drawn, so that it draws again at once. */
function Outside() {
  useSyncExternalStore(
    () => () => undefined,
    () => outside,
  );
  return null;
}

/** Draws one thing, then another in slices, with something done in between. Gives back what stands there at last. */
async function drawnOver<Of>(view: (of: Of) => ReactNode, first: Of, second: Of, meanwhile: () => void) {
  let show: (of: Of) => void = () => undefined;
  let begun = false;
  function Begun() {
    begun = true;
    return null;
  }
  function Page() {
    const [now, setNow] = useState(first);
    show = setNow;
    const slices = [<Begun key="begun" />, <Outside key="outside" />];
    for (let k = 0; k < 20; k++) slices.push(<Slow key={k} />);
    return (
      <>
        {view(now)}
        {now === second && slices}
        {now === second && <hr />}
      </>
    );
  }
  const place = document.createElement('div');
  const root = createRoot(place);
  root.render(<Page />);
  await until(() => place.textContent !== '');
  startTransition(() => show(second));
  await until(() => begun);
  expect(place.querySelector('hr')).toBeNull();
  outside += 1;
  meanwhile();
  await until(() => place.querySelector('hr') !== null);
  // What was put off is done by then.
  for (let k = 0; k < 5; k++) await new Promise((resolve) => setTimeout(resolve));
  const text = place.textContent;
  root.unmount();
  return text;
}

async function until(holds: () => boolean): Promise<void> {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve));
}

beforeAll(() => Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: false }));
afterAll(() => Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true }));

test('work in the student’s view has an answer to every part', async () => {
  const part = (id: string): StudentPart => ({
    ...{ kind: 'number', id, title: id, prompt: '', attempts: 3, points: 1, unit: '', hints: [], tolerancePercent: 1 },
  });
  let act: (action: WorkAction) => void = () => undefined;
  function View({ bench }: { bench: Bench }) {
    const [work, dispatch] = usePreviewWork(bench);
    act = dispatch;
    return <output>{`${work.open} of ${Object.keys(work.answers).join()}`}</output>;
  }
  const [before, after] = [benchWith([part('a')]), benchWith([part('a'), part('b')])];
  const view = (bench: Bench) => <View bench={bench} />;
  const text = await drawnOver(view, before, after, () => act({ do: 'open', part: 'b' }));
  expect(text).toBe('b of a,b');
});
