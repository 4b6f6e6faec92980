import type { Me, QuietState } from '@corvun/contract';
import { MINUTE, count, sayTime } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useQuiet } from '../../data/doing';

const link = 'min-h-6 underline underline-offset-2 hover:text-teal';
/** What holds sites back asks every half minute; after so long it is not there. */
const AWAY_AFTER = 3 * MINUTE;

/**
 * What is held back in the quiet time that runs or comes, and what is missing for it.
 * @param alone heads-down: what leads away is there only where something is missing
 */
export function QuietLine({ me, now, alone = false }: { me: Me; now: number; alone?: boolean }): ReactNode {
  const state = useQuiet().data;
  const quiet = state?.quiet ?? state?.next;
  if (!state || !quiet) return null;
  const { sites } = quiet;
  const runs = quiet === state.quiet;
  const from = runs ? '' : `from ${sayTime(Date.parse(quiet.from), me.zone)} `;
  const until = `until ${sayTime(Date.parse(quiet.until), me.zone)}`;
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-3 text-xs text-soft">
      <span className="min-w-0">
        {sites.length ? (
          <>
            <b className="font-semibold text-ink" title={sites.join(', ')}>
              {count(sites.length, 'site')}
            </b>{' '}
            {lies(state, now, me) ?? `${runs ? 'held back' : 'will be held back'} ${from}${until}`}
            {looked(state)}
          </>
        ) : (
          `Quiet ${from}${until}; no sites are held back`
        )}
      </span>
      {sites.length > 0 && lies(state, now, me) !== null ? (
        <Link to="/sources/web" className={link}>
          {state.extension === null ? 'Get the extension' : 'How it is connected'}
        </Link>
      ) : (
        !alone && (
          <Link to="/settings#held-sites" className={link}>
            {sites.length ? 'Change them' : 'Choose some'}
          </Link>
        )
      )}
    </p>
  );
}

/** Why they are not held back; null: they are, as far as is known. */
function lies({ extension, quiet }: QuietState, now: number, { zone }: Me): string | null {
  const would = quiet ? 'should be held back' : 'are to be held back';
  if (extension === null) return `${would}: that takes the browser extension, which is not connected`;
  const seen = Date.parse(extension);
  return now - seen > AWAY_AFTER ? `${would}; the browser extension was last heard of at ${sayTime(seen, zone)}` : null;
}

function looked({ graces, at }: QuietState): string {
  const open = graces.filter(({ until }) => Date.parse(until) > Date.parse(at)).map(({ site }) => site);
  const often = graces.length ? `; looked at all the same ${graces.length === 1 ? 'once' : `${graces.length} times`} today` : '';
  return `${often}${open.length ? `, ${open.join(' and ')} just now` : ''}`;
}
