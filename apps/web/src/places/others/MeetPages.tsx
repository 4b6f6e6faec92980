import type { Me, MeetPageInfo } from '@corvun/contract';
import { dayOf, sayDay, sayMinutes, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { changePage, removePage, renewPage } from '../../data/others';
import { doing } from '../../data/actions';
import { useOpenEvent } from '../../sheets/open';
import { button } from '../sources/common';
import { Address } from './Address';
import { MeetForm } from './MeetForm';
import { Part } from './Part';

interface PagesProps {
  me: Me;
  pages: readonly MeetPageInfo[];
  today: string;
}

/** Pages on which others choose a free time. */
export function MeetPages({ me, pages, today }: PagesProps): ReactNode {
  const [edited, edit] = useState<string | null>(null);
  return (
    <Part name="Meet-me pages" about="A page without sign-in on which somebody takes one of your free times, under your rules.">
      {pages.map((page) =>
        edited === page.id ? (
          <MeetForm key={page.id} me={me} page={page} close={() => edit(null)} />
        ) : (
          <Page key={page.id} me={me} page={page} today={today} edit={() => edit(page.id)} />
        ),
      )}
      {edited === 'new' ? (
        <MeetForm me={me} page={null} close={() => edit(null)} />
      ) : (
        <p className="mt-3">
          <button type="button" id="new-page" className={button} onClick={() => edit('new')}>
            New page …
          </button>
        </p>
      )}
    </Part>
  );
}

function Page({ me, page, today, edit }: { me: Me; page: MeetPageInfo; today: string; edit: () => void }): ReactNode {
  const openEvent = useOpenEvent();
  const rules = [
    page.lengths.map(sayMinutes).join(' or '),
    page.hours ? 'in hours of its own' : 'in your working hours',
    page.buffer ? `${sayMinutes(page.buffer)} free beside it` : '',
    page.perDay ? `at most ${page.perDay} a day` : '',
    page.firm ? '' : 'tentative until you confirm it',
  ].filter(Boolean);
  return (
    <article aria-label={page.name} className="border-b border-rule py-3">
      <p className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <b className="font-semibold">{page.name}</b>
        <span className={`text-xs ${page.open ? 'text-soft' : 'text-amber'}`}>{page.open ? rules.join(', ') : 'closed'}</span>
        <span className="ml-auto flex flex-wrap gap-2">
          <button type="button" className={button} aria-label={`Change “${page.name}”`} onClick={edit}>
            Change
          </button>
          <button
            type="button"
            className={button}
            onClick={() => void doing(() => changePage(page.id, { open: !page.open, version: page.version }), ['others'])}
          >
            {page.open ? 'Close' : 'Open'}
          </button>
          <button type="button" className={button} onClick={() => void renewPage(page.id)}>
            Another address
          </button>
          <button type="button" className={button} aria-label={`Remove “${page.name}”`} onClick={() => void removePage(page.id)}>
            Remove
          </button>
        </span>
      </p>
      <Address path={page.path} of={`“${page.name}”`} />
      {page.booked.length > 0 && (
        <ul aria-label={`Booked on “${page.name}”`} className="mt-2 text-xs">
          {page.booked.map(({ event, name, start }) => (
            <li key={event}>
              <button type="button" className="min-h-6 hover:text-teal" onClick={() => openEvent(event, null)}>
                {sayDay(dayOf(Date.parse(start), me.zone), today)}, {sayTime(Date.parse(start), me.zone)}: {name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </article>
  );
}
