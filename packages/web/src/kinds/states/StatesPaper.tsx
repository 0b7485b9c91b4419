import { AnswerBox } from '../onPaper';

/** The part on paper. */
export const StatesPaper = () => <AnswerBox lines={4} />;
