import { Expected } from '../../diagram/Expected';

/** State matrices, typed row by row. */
export default function StatesBench({
  matrices,
  solution,
  onChange,
}: {
  matrices: Readonly<Record<'a' | 'b' | 'c' | 'd', string>>;
  solution: string | undefined;
  onChange: (matrices: Record<'a' | 'b' | 'c' | 'd', string>) => void;
}) {
  return (
    <div className="grid max-w-3xl gap-4">
      <div className="grid grid-cols-2 gap-4 @min-[620px]:grid-cols-[1.6fr_0.8fr_1.6fr_0.6fr]">
        {(['a', 'b', 'c', 'd'] as const).map((name) => (
          <label key={name} className="text-note text-slate">
            {name.toUpperCase()}
            <textarea
              className="input mt-1 font-mono text-[15px]"
              rows={3}
              maxLength={2000}
              spellCheck={false}
              value={matrices[name]}
              onChange={(event) => onChange({ ...matrices, [name]: event.target.value })}
            />
          </label>
        ))}
      </div>
      <p className="text-note text-slate">
        One row a line, entries between blanks or commas. Any choice of state variables counts, with as few states as
        the system needs.
      </p>
      {solution && <Expected latex={solution} />}
    </div>
  );
}
