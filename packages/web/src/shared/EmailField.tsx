import { Field } from './Field';

/** An e-mail by which someone has, or gets, an account. */
export function EmailField({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <Field label="E-mail">
      {(ids) => (
        <input
          {...ids}
          className="input"
          type="email"
          autoComplete="username"
          required
          maxLength={200}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
