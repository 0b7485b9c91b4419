import { type ReactNode, useId } from 'react';

/** A label over an input, with a hint or what is wrong below it. The input gets the ids that connect them. */
export function Field({
  label,
  hint,
  error,
  children,
  className = '',
}: {
  label: string;
  hint?: string;
  error?: string | undefined;
  className?: string;
  children: (ids: { id: string; 'aria-describedby': string; 'aria-invalid': boolean }) => ReactNode;
}) {
  const id = useId();
  const note = `${id}-note`;
  return (
    <div className={className}>
      <label htmlFor={id} className="label mb-1">
        {label}
      </label>
      {children({ id, 'aria-describedby': note, 'aria-invalid': error !== undefined })}
      <p id={note} className={`text-note ${error ? 'mt-1 text-brick' : 'text-slate'}`}>
        {error ?? hint}
      </p>
    </div>
  );
}
