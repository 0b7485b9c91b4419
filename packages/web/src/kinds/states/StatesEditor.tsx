import { ExpectedSystem } from '../fields/ExpectedSystem';
import type { EditorProps } from '../fields/editor';

export function StatesEditor(props: EditorProps<'states'>) {
  return (
    <ExpectedSystem
      {...props}
      label="System whose state matrices are asked for"
      hint="of each coefficient of the transfer function"
    />
  );
}
