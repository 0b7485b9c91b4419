import { AnswerBox } from '../onPaper';

/** The part on paper. */
export const TransferFunctionPaper = () => <AnswerBox lines={2} />;
