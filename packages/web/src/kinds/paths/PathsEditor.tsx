import { SelectField } from '../../shared/fields';
import { AboutPair } from '../fields/diagramFields';
import type { EditorProps } from '../fields/editor';

export function PathsEditor(props: EditorProps<'paths'>) {
  const { part, onChange } = props;
  return (
    <AboutPair {...props} onPair={onChange}>
      <SelectField
        label="List"
        value={part.list}
        options={{ loops: 'loops', forward: 'forward paths' }}
        onChange={(list) => onChange({ list })}
      />
    </AboutPair>
  );
}
