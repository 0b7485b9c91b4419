import { ExpectedSystem } from '../fields/ExpectedSystem';
import type { EditorProps } from '../fields/editor';

export function TransferFunctionEditor(props: EditorProps<'transferFunction'>) {
  return (
    <ExpectedSystem
      {...props}
      label="Expected transfer function"
      hint="of each coefficient, after dividing by the leading one"
    />
  );
}
