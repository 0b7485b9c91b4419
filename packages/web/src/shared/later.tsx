import { type ComponentType, lazy, useState } from 'react';

/**
 * A component that is loaded when it is first shown, and how to load it before: where that is done, nothing stands in
 * its place meanwhile.
 */
export function later<Props extends object>(
  load: () => Promise<{ default: ComponentType<Props> }>,
): [ComponentType<Props>, () => Promise<unknown>] {
  let there: ComponentType<Props> | undefined;
  const Later = lazy(load) as ComponentType<Props>;
  function Shown(props: Props) {
    const [Component] = useState(() => there ?? Later);
    return <Component {...props} />;
  }
  return [Shown, async () => (there = (await load()).default)];
}
