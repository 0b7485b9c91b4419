import { nanoid } from 'nanoid';
import { keepInTab, keptInTab } from '../shared/keptHere';

/** One page in one tab: it follows itself, whichever exercise or version it shows. */
export interface OpenPage {
  readonly id: string;
  /** Counts its saves: a later one counts, whichever reaches the server first. */
  nextSave(): number;
}

const key = 'nailset page';

interface Left {
  readonly id: string;
  readonly saves: number;
}

function isLeft(left: unknown): left is Left {
  if (typeof left !== 'object' || left === null) return false;
  const { id, saves } = left as Partial<Record<keyof Left, unknown>>;
  return typeof id === 'string' && /^[\w-]{16}$/.test(id) && Number.isInteger(saves);
}

/** What the page before left in this tab. It is there once: a tab that is made a copy of this one finds nothing. */
function taken(): Left | undefined {
  const left = keptInTab(key);
  keepInTab(key, null);
  return isLeft(left) ? left : undefined;
}

/**
 * The page that this tab shows. What a reload left on its way to the server is its own, not another window’s: the page
 * goes on under the same name and from the same count.
 */
export function openPage(page: EventTarget = window): OpenPage {
  const { id, saves: before } = taken() ?? { id: nanoid(16), saves: 0 };
  let saves = before;
  page.addEventListener('pagehide', () => keepInTab(key, { id, saves }));
  // Shown again by Back, after others in the same tab.
  page.addEventListener('pageshow', (event) => {
    const left = (event as PageTransitionEvent).persisted ? taken() : undefined;
    if (left?.id === id) saves = Math.max(saves, left.saves);
  });
  return { id, nextSave: () => ++saves };
}

/** One for as long as the page is there. */
export const thisPage = openPage();
