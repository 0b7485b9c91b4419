import { useMemo, useState } from 'react';
import type { Probe } from '../plot/Probes';
import type { Probing } from '../plot/ResponsePlot';

const most = 6;

/** Readings that a person sets on the present curve; the oldest gives way to a seventh. */
export function useProbing(): Probing {
  const [probes, setProbes] = useState<readonly Probe[]>([]);
  return useMemo(
    () => ({
      probes,
      onAdd: (time) =>
        setProbes((old) => [...old.slice(-(most - 1)), { id: 1 + Math.max(0, ...old.map(({ id }) => id)), time }]),
      onMove: (id, time) => setProbes((old) => old.map((probe) => (probe.id === id ? { id, time } : probe))),
      onRemove: (id) => setProbes((old) => old.filter((probe) => probe.id !== id)),
    }),
    [probes],
  );
}
