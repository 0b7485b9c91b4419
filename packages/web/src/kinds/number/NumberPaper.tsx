import { type SeenOf } from '@nailset/core';
import { AnswerBox } from '../onPaper';

/** The part on paper. */
export const NumberPaper = ({ part }: { part: SeenOf<'number'> }) => <AnswerBox after={part.unit} />;
