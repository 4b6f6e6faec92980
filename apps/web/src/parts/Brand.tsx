import type { ReactNode } from 'react';

export function Brand(): ReactNode {
  return (
    <svg width="30" height="26" viewBox="0 0 30 26" aria-hidden="true">
      <path d="M1 21 14 3l4 9 11-3-12 15-4-8z" fill="currentColor" />
      <path d="m14 3 4 9-5 4z" fill="var(--teal)" />
    </svg>
  );
}
