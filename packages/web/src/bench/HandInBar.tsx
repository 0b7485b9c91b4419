import type { ReactNode } from 'react';
import { Button } from '../shared/Button';

/** Always visible at the foot of the bench: the answer as understood, how it stands, tries left, and the button. */
export function HandInBar({
  answer,
  words,
  of = '',
  triesLeft,
  blocked,
  busy,
  error,
  handInWords = 'Hand in',
  onHandIn,
  onNext,
  onKeys,
}: {
  answer: ReactNode;
  words: string;
  /** Which part it is about, where several stand on the sheet. */
  of?: string;
  triesLeft: string;
  /** Why nothing can be handed in now; empty when it can. */
  blocked: string;
  busy: boolean;
  error: string | undefined;
  handInWords?: string;
  onHandIn: (() => void) | undefined;
  /** Opens the next part that is not solved, where this one is. */
  onNext: (() => void) | undefined;
  onKeys: () => void;
}) {
  return (
    <div className="sticky bottom-0 z-10 flex min-h-[54px] flex-wrap items-center gap-x-6 gap-y-1 border-t border-rule bg-sheet px-5 py-2">
      {answer && <span className="max-w-full overflow-x-auto overflow-y-hidden">{answer}</span>}
      <p role="status" className="min-w-0 flex-1 basis-48 text-[13px] text-slate">
        {error ? (
          <span role="alert" className="text-brick">
            {error}
          </span>
        ) : (
          blocked || words
        )}
      </p>
      <span className="flex items-center gap-4 text-[13px] text-slate">
        <button type="button" className="link @max-[620px]:hidden" onClick={onKeys}>
          Keys ?
        </button>
        {triesLeft && <span>{triesLeft}</span>}
        {onNext ? (
          <Button look="strong" onClick={onNext}>
            Next open part
          </Button>
        ) : (
          onHandIn && (
            <Button look="strong" disabled={blocked !== '' || busy} onClick={onHandIn}>
              {busy ? 'A moment …' : [handInWords, of].filter(Boolean).join(' ')}
            </Button>
          )
        )}
      </span>
    </div>
  );
}
