import { Field } from './Field';

/** A password to type; a `fresh` one is a new one, which password managers may propose. */
export function PasswordField({
  label = 'Password',
  fresh = false,
  value,
  onChange,
}: {
  label?: string;
  fresh?: boolean;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field label={label} {...(fresh ? { hint: 'At least ten characters.' } : {})}>
      {(ids) => (
        <input
          {...ids}
          className="input"
          type="password"
          required
          {...(fresh ? { minLength: 10 } : {})}
          maxLength={200}
          autoComplete={fresh ? 'new-password' : 'current-password'}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
