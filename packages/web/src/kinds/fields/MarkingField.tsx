import { SelectField } from '../../shared/fields';

type Marking = 'shares' | 'allOrNothing';

/** Whether what holds counts by itself. */
export function MarkingField({
  marking = 'shares',
  onChange,
}: {
  marking: Marking | undefined;
  onChange: (marking: Marking) => void;
}) {
  return (
    <SelectField
      label="Points are given"
      value={marking}
      options={{ shares: 'for each that holds', allOrNothing: 'all or nothing' }}
      onChange={onChange}
    />
  );
}
