import type { ReactNode } from 'react';

/** A part of the page. */
export function Part({ name, about, children }: { name: string; about: string; children: ReactNode }): ReactNode {
  const id = name.toLowerCase().replace(/\W+/g, '-');
  return (
    <section aria-labelledby={id} className="mt-8">
      <h2 id={id} className="border-b border-ink pb-1 font-head text-md font-semibold">
        {name}
      </h2>
      <p className="mt-2 max-w-[66ch] text-xs text-soft">{about}</p>
      {children}
    </section>
  );
}
