import { Popover } from 'radix-ui';
import { memo } from 'react';
import { layerNames, type Layers } from './LocusLayers';

/** Which marks are drawn over the locus. */
export const LayerMenu = memo(function LayerMenu({
  layers,
  hasRegion,
  onChange,
}: {
  layers: Layers;
  hasRegion: boolean;
  onChange: (layers: Layers) => void;
}) {
  const names = (Object.keys(layerNames) as (keyof Layers)[]).filter((name) => name !== 'region' || hasRegion);
  return (
    <Popover.Root>
      <Popover.Trigger className="link">Layers</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          className="z-30 grid gap-1.5 rounded-[3px] border border-rule bg-paper px-4 py-3 text-[13px] text-ink"
        >
          {names.map((name) => (
            <label key={name} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-petrol"
                checked={layers[name]}
                onChange={() => onChange({ ...layers, [name]: !layers[name] })}
              />
              {layerNames[name]}
            </label>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});
