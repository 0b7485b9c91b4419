import type { EditorProps } from '../fields/editor';
import { ExpectedSystem } from '../fields/ExpectedSystem';

export function StatesEditor(props: EditorProps<'states'>) {
  return (
    <ExpectedSystem
      {...props}
      label="System whose state matrices are asked for"
      hint="of each coefficient of the transfer function"
    />
  );
}
