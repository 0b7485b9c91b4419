import type { EditorProps } from '../fields/editor';
import { ExpectedSystem } from '../fields/ExpectedSystem';

export function TransferFunctionEditor(props: EditorProps<'transferFunction'>) {
  return (
    <ExpectedSystem
      {...props}
      label="Expected transfer function"
      hint="of each coefficient, after dividing by the leading one"
    />
  );
}
