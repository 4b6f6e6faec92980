import { useEffect, useState, type ComponentType, type ReactNode } from 'react';

interface State<P extends object> {
  View?: ComponentType<P>;
  problem?: unknown;
}

/** A part of the application that is loaded when it is shown, or before. */
export interface Later<P extends object> {
  /** Loads it; the second time and later it is the same promise, unless it failed. */
  load: () => Promise<void>;
  state: () => State<P>;
}

export function later<P extends object>(from: () => Promise<ComponentType<P>>): Later<P> {
  let state: State<P> = {};
  let loading: Promise<void> | undefined;
  const load = () =>
    (loading ??= from().then(
      (View) => {
        state = { View };
      },
      (problem: unknown) => {
        loading = undefined;
        throw problem;
      },
    ));
  return { load, state: () => state };
}

interface PartProps<P extends object> {
  of: Later<P>;
  /** What the part takes. */
  with: P;
  meanwhile?: ReactNode;
  failed?: ReactNode;
}

/**
 * Shows a part, and what is said until it is there.
 * Not React's `lazy`: what that shows meanwhile stays for 300 ms, even where the part is loaded already.
 */
export function Part<P extends object>({ of, with: props, meanwhile = null, failed = null }: PartProps<P>): ReactNode {
  const [{ View, problem }, set] = useState<State<P>>(of.state);
  useEffect(() => {
    if (View) return;
    let shown = true;
    of.load().then(
      () => shown && set(of.state()),
      (reason: unknown) => {
        window.reportError(reason);
        if (shown) set({ problem: reason });
      },
    );
    return () => {
      shown = false;
    };
  }, [of, View]);
  if (View) return <View {...props} />;
  return problem === undefined ? meanwhile : failed;
}
