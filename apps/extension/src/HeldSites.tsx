import { useEffect, useState, type ReactNode } from 'react';
import { read } from './desk';
import { hear, hold, notAllowed } from './hold';
import { originOf } from './quiet';

/** The sites that are held back in quiet time, and whether the browser allows it. */
export function HeldSites({ server }: { server: string }): ReactNode {
  const [sites, setSites] = useState<string[] | null>(null);
  const [missing, setMissing] = useState<string[]>([]);
  const look = async () => {
    await hear();
    const { quiet } = await read();
    const all = quiet && [...new Set([...quiet.sites, ...(quiet.quiet?.sites ?? []), ...(quiet.next?.sites ?? [])])];
    setSites(all);
    setMissing(await notAllowed(all ?? []));
    await hold();
  };
  useEffect(() => {
    void (async () => {
      await look();
    })();
  }, []);
  if (!sites) return null;
  const allow = async () => {
    await chrome.permissions.request({ origins: missing.map(originOf) }).catch(() => false);
    await look();
  };
  return (
    <section aria-labelledby="held" className="mt-8 border-t border-rule pt-4">
      <h2 id="held" className="font-head text-md font-semibold">
        Sites held back
      </h2>
      <p className="mt-1 text-soft">
        In quiet time and heads-down these are not let through.{' '}
        <a
          className="text-teal underline underline-offset-2"
          href={`${server}/settings#held-sites`}
          target="_blank"
          rel="noreferrer"
        >
          Choose them in Corvun
        </a>
      </p>
      {!sites.length && <p className="mt-2">You have chosen none.</p>}
      <ul className="mt-2 border-t border-rule empty:border-t-0">
        {sites.map((site) => (
          <li key={site} className="flex justify-between gap-3 border-b border-rule py-1">
            <span className="min-w-0 truncate">{site}</span>
            <span className={missing.includes(site) ? 'text-amber' : 'text-soft'}>
              {missing.includes(site) ? 'not allowed yet' : 'can be held back'}
            </span>
          </li>
        ))}
      </ul>
      {missing.length > 0 && (
        <button type="button" className="mt-3 bg-teal px-4 py-1 font-semibold text-on-teal" onClick={() => void allow()}>
          Allow {missing.length === 1 ? missing[0] : `these ${missing.length}`}
        </button>
      )}
    </section>
  );
}
