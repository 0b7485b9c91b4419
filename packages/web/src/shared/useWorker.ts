import { useEffect, useState } from 'react';

/** What came of a question to a worker; without an answer where the worker could not be loaded or broke off. */
export interface Worked<Question, Answer> {
  readonly of: Question;
  readonly answer?: Answer;
}

/**
 * What last came from a worker of its own; undefined until something has. Another question ends the one that is being
 * worked at.
 * @param start makes the worker; the same function each time
 * @param question the same object while it is the same question; undefined for none
 */
export function useWorker<Question, Answer>(
  start: () => Worker,
  question: Question | undefined,
): Worked<Question, Answer> | undefined {
  const [last, setLast] = useState<Worked<Question, Answer>>();
  useEffect(() => {
    if (question === undefined) return undefined;
    const worker = start();
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      worker.terminate();
      setLast({ of: question, answer: data });
    };
    worker.onerror = () => setLast({ of: question });
    worker.postMessage(question);
    return () => worker.terminate();
  }, [start, question]);
  return last;
}

/** What is said where nothing came. */
export const notWorkedOut = 'This could not be worked out. Load the page again.';
