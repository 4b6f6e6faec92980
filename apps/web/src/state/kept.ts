const PREFIX = 'corvun-kept:';

/** Things that are being written in this browser, each by its key. */
export interface Kept<T> {
  all: () => Record<string, T>;
  /** @param value null: it was sent, saved or thrown away */
  put: (key: string, value: T | null) => void;
}

/**
 * What is written and not said anywhere yet. Each thing is kept by itself, so that two windows leave each other's alone; it
 * outlives a reload and its window, until somebody signs out.
 */
export function keptHere<T>(kind: string): Kept<T> {
  const prefix = `${PREFIX}${kind}:`;
  return {
    all: () =>
      Object.fromEntries(
        namesFrom(prefix).flatMap((name) => {
          const value = read<T>(name);
          return value === null ? [] : [[name.slice(prefix.length), value]];
        }),
      ),
    put: (key, value) => {
      try {
        if (value === null) window.localStorage.removeItem(prefix + key);
        else window.localStorage.setItem(prefix + key, JSON.stringify(value));
      } catch {
        // The browser has no room, or keeps nothing: it stays in this window.
      }
    },
  };
}

/** Nothing of it stays in this browser. */
export function forgetKept(): void {
  for (const name of namesFrom(PREFIX)) window.localStorage.removeItem(name);
}

function namesFrom(prefix: string): string[] {
  try {
    return Object.keys(window.localStorage).filter((name) => name.startsWith(prefix));
  } catch {
    return [];
  }
}

function read<T>(name: string): T | null {
  try {
    return JSON.parse(window.localStorage.getItem(name) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
