import { useMemo, useState } from 'react';
import { mostReadings } from '../plot/mostReadings';
import type { Probe } from '../plot/Probes';
import type { Probing } from '../plot/ResponsePlot';

/** Readings that a person sets on the present curve. */
export function useProbing(): Probing {
  const [probes, setProbes] = useState<readonly Probe[]>([]);
  return useMemo(
    () => ({
      probes,
      onAdd: (time) =>
        setProbes((old) => [...old.slice(1 - mostReadings), { id: 1 + Math.max(0, ...old.map(({ id }) => id)), time }]),
      onMove: (id, time) => setProbes((old) => old.map((probe) => (probe.id === id ? { id, time } : probe))),
      onRemove: (id) => setProbes((old) => old.filter((probe) => probe.id !== id)),
    }),
    [probes],
  );
}
