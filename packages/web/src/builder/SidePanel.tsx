import type { ExerciseDocument } from '@nailset/core';
import { Tabs } from 'radix-ui';
import { memo } from 'react';
import { ProofPanel } from './proof/ProofPanel';
import { StudentPreview } from './StudentPreview';

const tab =
  'caption cursor-pointer border-b-2 border-transparent py-2.5 data-[state=active]:border-petrol data-[state=active]:text-ink';

/** Beside the exercise: the student’s view, and the proof before publishing. */
export const SidePanel = memo(function SidePanel({
  document,
  open,
  ready,
}: {
  document: ExerciseDocument;
  open: string;
  ready: boolean;
}) {
  return (
    <Tabs.Root defaultValue="view" className="@container flex min-h-full flex-col">
      <Tabs.List aria-label="Beside the exercise" className="flex gap-5 border-b border-rule px-5">
        <Tabs.Trigger value="view" className={tab}>
          Student’s view
        </Tabs.Trigger>
        <Tabs.Trigger value="proof" className={tab}>
          Proof
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="view" className="flex-1">
        <StudentPreview document={document} open={open} />
      </Tabs.Content>
      <Tabs.Content value="proof" forceMount className="data-[state=inactive]:hidden">
        <ProofPanel document={document} open={open} ready={ready} />
      </Tabs.Content>
    </Tabs.Root>
  );
});
