import { useReducer } from 'react';

interface History {
  readonly past: readonly string[];
  readonly now: string;
  readonly future: readonly string[];
  /** Whether the last change was typed, so that the next letter belongs to it. */
  readonly typing: boolean;
}

export type HistoryAction = { do: 'type' | 'change'; text: string } | { do: 'undo' } | { do: 'redo' } | { do: 'pause' };

const kept = 200;

/** A text with undo and redo; what is typed in one go is one step. */
export function historyReducer(state: History, action: HistoryAction): History {
  const { past, now, future, typing } = state;
  switch (action.do) {
    case 'type':
    case 'change': {
      if (action.text === now) return state;
      const isOne = typing && action.do === 'type';
      return {
        past: isOne ? past : [...past, now].slice(-kept),
        now: action.text,
        future: [],
        typing: action.do === 'type',
      };
    }
    case 'undo': {
      const before = past.at(-1);
      return before === undefined
        ? state
        : { past: past.slice(0, -1), now: before, future: [now, ...future], typing: false };
    }
    case 'redo': {
      const [next, ...later] = future;
      return next === undefined ? state : { past: [...past, now], now: next, future: later, typing: false };
    }
    case 'pause':
      return typing ? { ...state, typing: false } : state;
  }
}

export const useHistory = (text: string) =>
  useReducer(historyReducer, { past: [], now: text, future: [], typing: false });
