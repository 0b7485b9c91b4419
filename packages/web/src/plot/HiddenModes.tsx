import { hiddenWords, type Pole } from '@nailset/core';

/** Modes that cancel, in words behind `lead`; in the colour of a fault where one of them does not decay. */
export function HiddenModes({
  modes,
  lead,
  className = '',
}: {
  modes: readonly Pole[];
  lead: string;
  className?: string;
}) {
  if (modes.length === 0) return null;
  const grows = modes.some(({ re }) => re >= 0);
  return (
    <span className={`${className} ${grows ? 'text-brick' : 'text-slate'}`}>
      {lead}
      {hiddenWords(modes)}
    </span>
  );
}
