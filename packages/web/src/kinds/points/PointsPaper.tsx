import { AnswerBox } from '../onPaper';

/** The part on paper. */
export const PointsPaper = () => <AnswerBox lines={2} />;
