import { orProblem, Problem, type ShownDiagram } from '@nailset/core';
import { readBlocks } from '@nailset/core/diagrams';
import { Dialog } from 'radix-ui';
import { useMemo } from 'react';
import { Button } from '../shared/Button';
import { DiagramView } from './DiagramView';

/** A diagram among the words of an exercise. */
export function DiagramFigure({ title, diagram }: { title: string; diagram: ShownDiagram }) {
  const { equations, from, to } = diagram;
  const read = useMemo(() => {
    return orProblem(() => readBlocks(equations, [from]));
  }, [equations, from]);
  if (read instanceof Problem) return <span className="text-brick">{read.message}</span>;
  const view = (className: string, bare: boolean) => (
    <DiagramView title={title} diagram={read} outputs={[to]} bare={bare} className={className} />
  );
  return (
    <Dialog.Root>
      <span className="my-2 block w-full min-w-40">
        {view('min-h-12 max-h-[170px] w-full', true)}
        <Dialog.Trigger className="link text-note">Enlarge</Dialog.Trigger>
      </span>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-4 top-1/2 z-40 -translate-y-1/2 rounded-[3px] border border-rule bg-paper p-5 sm:inset-x-16"
        >
          <Dialog.Title className="mb-3 font-serif text-[19px]">{title}</Dialog.Title>
          {view('h-[min(60vh,480px)]', false)}
          <Dialog.Close asChild>
            <Button className="mt-3">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
