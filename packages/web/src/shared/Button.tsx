import type { ButtonHTMLAttributes } from 'react';

const looks = {
  strong: 'bg-petrol text-white border-petrol hover:bg-petrol-dark disabled:bg-slate/50 disabled:border-transparent',
  plain: 'bg-sheet text-ink border-rule hover:border-petrol disabled:text-slate disabled:hover:border-rule',
  quiet: 'border-transparent text-petrol hover:underline disabled:text-slate disabled:no-underline px-1',
} as const;

/** The one kind of button: strong for the action of a screen, plain beside it, quiet within text. */
export function Button({
  look = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof looks }) {
  return (
    <button
      type={type}
      className={`rounded-[3px] border px-3.5 py-1.5 font-medium whitespace-nowrap transition-colors disabled:cursor-not-allowed ${looks[look]} ${className}`}
      {...rest}
    />
  );
}
