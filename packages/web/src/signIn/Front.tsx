import type { ReactNode } from 'react';
import { Hatch } from '../plot/Hatch';
import { Mark } from '../shared/Mark';

/** The page before one is signed in: what this is, and the form. */
export function Front({ children }: { children: ReactNode }) {
  return (
    <main className="mx-auto grid min-h-dvh max-w-5xl content-center gap-x-20 gap-y-8 px-6 py-10 md:grid-cols-[1fr_400px]">
      <div className="self-center">
        <p className="flex items-center gap-3 font-serif text-[34px] leading-none">
          <Mark />
          Nailset
        </p>
        <p className="mt-4 max-w-sm text-[17px] leading-snug text-slate">
          Exercises for feedback-control courses. Nudge until every nail holds.
        </p>
        <Emblem />
      </div>
      <div className="self-center">{children}</div>
    </main>
  );
}

/** A response that settles below its limit: the idea of the product in one drawing. */
function Emblem() {
  const wave = Array.from({ length: 121 }, (_, k) => {
    const t = k / 10;
    const y = 1 - Math.exp(-0.55 * t) * (Math.cos(1.5 * t) + (0.55 / 1.5) * Math.sin(1.5 * t));
    return `${k === 0 ? 'M' : 'L'}${(k * 3).toFixed(1)} ${(130 - 80 * y).toFixed(1)}`;
  }).join('');
  return (
    <svg viewBox="0 0 360 140" className="mt-8 w-full max-w-[380px] max-md:hidden" aria-hidden="true">
      <defs>
        <Hatch id="emblem-hatch" className="stroke-copper/25" />
      </defs>
      <rect width="360" height="17" fill="url(#emblem-hatch)" />
      <path d="M0 17H360" className="stroke-moss" />
      <path d="M0 50H360" className="stroke-ink" strokeDasharray="1 3" />
      <path d="M0 0V130H360" className="fill-none stroke-ink" />
      <path d={wave} className="fill-none stroke-petrol" strokeWidth="2.4" />
      <path d="M250 17v14" className="stroke-moss" strokeWidth="1.6" />
      <circle cx="250" cy="33" r="4.5" className="fill-moss" />
    </svg>
  );
}
