import { useEffect, useState, type ReactNode } from 'react';

/** Says that something is being loaded, but only after 300 ms: what is fast needs no announcement. */
export function Waiting({ what }: { what: string }): ReactNode {
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setShown(true), 300);
    return () => window.clearTimeout(timer);
  }, []);
  return (
    <div className="grid h-full place-items-center text-soft" role="status">
      {shown ? `${what} …` : ''}
    </div>
  );
}

/** What went wrong, what is safe, and what to do next. */
export function Failed({ problem, retry, next = 'Try again' }: { problem: Error; retry: () => void; next?: string }): ReactNode {
  return (
    <div className="grid h-full place-items-center p-6" role="alert">
      <div className="max-w-[46ch] border-l-2 border-brick pl-4">
        <p className="font-head text-md font-semibold">This could not be shown</p>
        <p className="mt-1 text-soft">{problem.message}</p>
        <button type="button" className="mt-3 border border-ink px-3 py-1 hover:bg-card" onClick={retry}>
          {next}
        </button>
      </div>
    </div>
  );
}

/** What belongs here, and the one thing to do. */
export function Empty({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <div className="grid h-full place-items-center p-6">
      <div className="max-w-[44ch] text-center">
        <p className="font-head text-md font-semibold">{title}</p>
        <div className="mt-1 text-soft">{children}</div>
      </div>
    </div>
  );
}
