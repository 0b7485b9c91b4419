import { must } from '@nailset/core';
/** Something with what it was before, and what was undone. */
export interface History<Of> {
  readonly past: readonly Of[];
  readonly now: Of;
  readonly future: readonly Of[];
  /** Where the last change was typed, so that the next letter there belongs to it. */
  readonly typing: string | undefined;
}

export type HistoryAction<Of> =
  | { do: 'change'; to: Of; typing?: string | undefined }
  /** From what it is by then, whatever was drawn when the change was asked for. */
  | { do: 'alter'; by: (now: Of) => Of; typing?: string | undefined }
  | { do: 'undo' }
  | { do: 'redo' }
  | { do: 'pause' };

const kept = 200;

export const historyOf = <Of>(now: Of): History<Of> => ({ past: [], now, future: [], typing: undefined });

/** Changes, undone and redone; what is typed in one place in one go is one step. */
export function historyReducer<Of>(state: History<Of>, action: HistoryAction<Of>): History<Of> {
  const { past, now, future, typing } = state;
  switch (action.do) {
    case 'change': {
      if (action.to === now) return state;
      const isOne = typing !== undefined && typing === action.typing;
      return {
        past: isOne ? past : [...past, now].slice(-kept),
        ...{ now: action.to, future: [], typing: action.typing },
      };
    }
    case 'alter':
      return historyReducer(state, { do: 'change', to: action.by(now), typing: action.typing });
    case 'undo': {
      if (past.length === 0) return state;
      return { past: past.slice(0, -1), now: must(past.at(-1)), future: [now, ...future], typing: undefined };
    }
    case 'redo': {
      if (future.length === 0) return state;
      const [next, ...later] = future;
      return { past: [...past, now], now: must(next), future: later, typing: undefined };
    }
    case 'pause':
      return typing === undefined ? state : { ...state, typing: undefined };
  }
}

/** What a key press asks of a history, if it does. */
export function undoKey(event: {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly shiftKey: boolean;
}): 'undo' | 'redo' | undefined {
  if (!event.ctrlKey && !event.metaKey) return undefined;
  const key = event.key.toLowerCase();
  if (key === 'y') return 'redo';
  return key !== 'z' ? undefined : event.shiftKey ? 'redo' : 'undo';
}
