import { AnswerBox } from '../onPaper';

/** The part on paper. */
export const RangePaper = () => <AnswerBox />;
