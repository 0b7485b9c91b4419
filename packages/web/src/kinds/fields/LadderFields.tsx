import { DecimalField, OptionalDecimalField } from '../../shared/DecimalField';

interface Ladder {
  readonly start: number;
  readonly fine: number;
  readonly coarse: number;
  readonly low?: number;
  readonly high?: number;
}

/** Above the fields of a ladder, in their order. */
export const ladderHeads = ['start', 'fine', 'coarse', 'from', 'to'] as const;

/** Start, rungs and ends of one ladder, five cells of a row; an end may stay open. */
export function LadderFields<Of extends Ladder>({
  name,
  ladder,
  onChange,
}: {
  name: string;
  ladder: Of;
  onChange: (ladder: Of) => void;
}) {
  return (
    <>
      {(['start', 'fine', 'coarse'] as const).map((field) => (
        <DecimalField
          key={field}
          label={`${name}, ${words[field]}`}
          value={ladder[field]}
          {...(field === 'start' ? {} : { min: 1e-6 })}
          onChange={(value) => onChange({ ...ladder, [field]: value })}
        />
      ))}
      {(['low', 'high'] as const).map((end) => (
        <OptionalDecimalField
          key={end}
          label={`${name}, ${words[end]}`}
          value={ladder[end]}
          placeholder="open"
          onChange={(value) => {
            const { [end]: _old, ...rest } = ladder;
            onChange((value === undefined ? rest : { ...rest, [end]: value }) as Of);
          }}
        />
      ))}
    </>
  );
}

const words = { start: 'start', fine: 'fine rung', coarse: 'coarse rung', low: 'lowest', high: 'highest' } as const;
