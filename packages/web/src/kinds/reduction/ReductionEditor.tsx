import { SelectField } from '../../shared/fields';
import { AboutPair } from '../fields/diagramFields';
import type { EditorProps } from '../fields/editor';

const typedWords = {
  no: 'no, moves are enough',
  atOnce: 'yes, checked at once',
  atHandIn: 'yes, checked at hand-in',
} as const;

export function ReductionEditor(props: EditorProps<'reduction'>) {
  const { part, onChange } = props;
  return (
    <AboutPair {...props} onPair={onChange}>
      <SelectField
        label="Each step’s result is typed"
        value={part.typed}
        options={typedWords}
        onChange={(typed) => onChange({ typed })}
      />
    </AboutPair>
  );
}
