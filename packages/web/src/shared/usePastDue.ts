import { useEffect, useState } from 'react';

/** Whether the due date has passed, told again when it does. */
export function usePastDue(dueAt: string | null): boolean {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (!dueAt) return;
    const timer = setInterval(() => setNow(Date.now()), 15_000);
    return () => clearInterval(timer);
  }, [dueAt]);
  return dueAt !== null && now > new Date(dueAt).getTime();
}
