import { must } from '@nailset/core';
import {
  createContext,
  type ReactNode,
  use,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';

/** A text that stands in a field and is not understood: where, and why. */
export interface UnreadText {
  /** The part that it belongs to; empty for what belongs to none. */
  readonly scope: string;
  readonly label: string;
  readonly text: string;
  readonly message: string;
}

interface Unread {
  readonly texts: ReadonlyMap<string, UnreadText>;
  readonly set: (key: string, text: UnreadText | undefined) => void;
  /** Whether the fields of a part are on the page. */
  readonly isShown: (scope: string) => boolean;
}

const none: ReadonlyMap<string, UnreadText> = new Map();
const nothing: Unread = { texts: none, set: () => undefined, isShown: () => true };
const UnreadContext = createContext(nothing);
const ScopeContext = createContext('');

/**
 * Texts on a page that are not understood, kept while their part is closed and for as long as it is one of `parts`;
 * `clear` when all fields start afresh.
 */
export function useUnreadTexts(open: string, parts: readonly string[]) {
  const shown = useRef(open);
  useLayoutEffect(() => {
    shown.current = open;
  }, [open]);
  const present = parts.join('\n');
  // One state: of two, React can put off one and keep the other, and a text would outlive its part.
  const [{ known, texts }, setKept] = useState(() => ({ known: present, texts: none }));
  if (known !== present) {
    const scopes = ['', ...parts];
    setKept((old) => ({
      known: present,
      texts: new Map([...old.texts].filter(([, { scope }]) => scopes.includes(scope))),
    }));
  }
  const set = useCallback((key: string, text: UnreadText | undefined) => {
    setKept((old) => {
      if (!text && !old.texts.has(key)) return old;
      const next = new Map(old.texts);
      if (text) next.set(key, text);
      else next.delete(key);
      return { ...old, texts: next };
    });
  }, []);
  const isShown = useCallback((scope: string) => scope === '' || scope === shown.current, []);
  const value = useMemo<Unread>(() => ({ texts, set, isShown }), [texts, set, isShown]);
  const clear = useCallback(() => setKept((old) => ({ ...old, texts: none })), []);
  return { value, clear };
}

export const UnreadProvider = UnreadContext.Provider;

/** What fields inside belong to: a part, or an entry of it by its id. */
export function FieldScope({ name, children }: { name: string; children: ReactNode }) {
  const outer = use(ScopeContext);
  return <ScopeContext.Provider value={outer ? `${outer}/${name}` : name}>{children}</ScopeContext.Provider>;
}

/** The text that a field was left with, if it was not understood. */
export function useUnreadText(label: string): string | undefined {
  const { texts } = use(UnreadContext);
  const scope = use(ScopeContext);
  const [text] = useState(() => texts.get(`${scope} ${label}`)?.text);
  return text;
}

/**
 * Tells the page that the text of a field is not understood, and why; undefined for a text that is. A field that goes
 * while its part stays open, such as that of a nail taken out, takes its text along.
 */
export function useTellUnread(label: string, text: string, message: string | undefined): void {
  const { set, isShown } = use(UnreadContext);
  const scope = use(ScopeContext);
  const part = must(scope.split('/')[0]);
  const key = `${scope} ${label}`;
  useEffect(() => {
    set(key, message === undefined ? undefined : { scope: part, label, text, message });
  }, [set, key, part, label, text, message]);
  useEffect(
    () => () => {
      if (isShown(part)) set(key, undefined);
    },
    [set, isShown, key, part],
  );
}
