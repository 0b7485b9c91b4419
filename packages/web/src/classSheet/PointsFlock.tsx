import { orElse, type Part, pointsFromText, pointWords } from '@nailset/core';
import { useMemo, useState } from 'react';
import { frameAround } from '../plane/locus';
import { PlaneAxes, planeScale } from '../plane/LocusLayers';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';
import { firstNameOf, type PartAnswer } from './summary';

const read = (text: string) => orElse([], () => pointsFromText(text));

/** Everyone's points in the s-plane over each other: solid where the part is met; the chosen one in front. */
export function PointsFlock({
  part,
  answers,
  chosen,
  onChoose,
}: {
  part: Extract<Part, { kind: 'points' }>;
  answers: readonly PartAnswer[];
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const marked = useMemo(
    () =>
      answers.flatMap((by) =>
        by.answer.kind === 'points' ? read(by.answer.text).map((point) => ({ by, point })) : [],
      ),
    [answers],
  );
  const fitted = useMemo(() => frameAround(marked.map(({ point }) => point)), [marked]);
  const [frame, setFrame] = useState(fitted);
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const met = answers.filter((each) => each.met).length;
  const inFront = [...marked].sort(
    (a, b) => Number(a.by.submissionId === chosen) - Number(b.by.submissionId === chosen),
  );
  const title = `Points of ${answers.length}, ${met} have them all`;
  return (
    <PlotFrame
      title={title}
      onFit={() => setFrame(fitted)}
      className="h-[300px]"
      table={() => ({
        heads: ['student', 'real part', 'imaginary part', 'met'],
        rows: marked.map(({ by, point }) => [by.name, point.re, point.im, by.met ? 'yes' : 'no']),
      })}
    >
      <div ref={place} className="h-[300px] bg-sheet">
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label={`${part.title}: ${title} in the s-plane.`}
            className="block overflow-hidden text-[11px]"
          >
            <PlaneAxes scale={scale} />
            {inFront.map(({ by, point }, k) => (
              <circle
                key={k}
                data-answer={by.name}
                cx={scale.x(point.re)}
                cy={scale.y(point.im)}
                r={by.submissionId === chosen ? 6 : 4}
                strokeWidth="1.5"
                className={`cursor-pointer ${
                  by.submissionId === chosen
                    ? 'fill-copper stroke-copper'
                    : by.met
                      ? 'fill-petrol/55 stroke-petrol/55'
                      : 'fill-sheet stroke-slate/70'
                }`}
                onClick={() => onChoose(by.submissionId)}
              >
                <title>{`${firstNameOf(by.name)}, ${pointWords(point)}`}</title>
              </circle>
            ))}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}
