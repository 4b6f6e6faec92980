import type { Me, PersonFull } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { X } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { RequestError } from '../data/api';
import { usePerson } from '../data/people';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { Failed, Waiting } from '../parts/states';
import { useNow } from '../parts/useNow';
import { giveBack, takesFocus, useSheet } from './open';
import { PersonBody } from './PersonBody';
import { useOwnKeys } from './useSheetKeys';

/** The sheet of a person, at the right over the place it was opened from; on a narrow screen the whole page. */
export function PersonSheet({ me, beside }: { me: Me; beside: boolean }): ReactNode {
  const { id, close } = useSheet('person');
  return id ? <Open key={id} me={me} id={id} close={close} beside={beside} /> : null;
}

function Open({ me, id, close, beside }: { me: Me; id: string; close: () => void; beside: boolean }): ReactNode {
  const person = usePerson(id);
  const frame = useRef<HTMLElement>(null);
  const today = dayOf(useNow(), me.zone);
  useEffect(() => {
    if (takesFocus(id)) frame.current?.focus({ preventScroll: true });
    return () => giveBack(id);
  }, [id]);
  const onKeyDown = useOwnKeys({
    [KEYS.sheet.close]: close,
    [KEYS.sheet.name]: () => document.getElementById('person-name')?.focus(),
    [KEYS.sheet.notes]: () => document.getElementById('person-note')?.focus(),
    [KEYS.sheet.reply]: () => document.getElementById('write-to-person')?.click(),
  });
  const gone = person.error instanceof RequestError && person.error.status === 404;
  return (
    <aside
      ref={frame}
      data-sheet
      tabIndex={-1}
      aria-label={person.data ? `Person: ${person.data.name}` : 'Person'}
      className={`absolute inset-y-0 right-0 z-10 w-[452px] overflow-y-auto border-l border-ink bg-paper !outline-none max-md:inset-x-0 max-md:w-full max-md:border-l-0 ${beside ? '' : 'shadow-lg'}`}
      onKeyDown={onKeyDown}
    >
      <header className="sticky top-0 z-[5] flex h-9 items-center gap-2 bg-paper pr-3 pl-6 text-xs text-soft max-md:pl-4">
        <span className="min-w-0 flex-1 truncate">{person.data && openWith(person.data)}</span>
        <button type="button" className="flex h-7 items-center gap-1 px-1 hover:text-ink" onClick={close}>
          <span className="sr-only">Close</span>
          <X size={14} aria-hidden="true" /> <Key>{keyName(KEYS.sheet.close)}</Key>
        </button>
      </header>
      {person.data ? (
        <PersonBody me={me} person={person.data} today={today} close={close} />
      ) : gone ? (
        <p className="px-6 py-4 max-md:px-4">This card is not there any more. What was taken back can be done again with ⇧U.</p>
      ) : person.error ? (
        <Failed problem={person.error} retry={() => void person.refetch()} />
      ) : (
        <Waiting what="Opening the card" />
      )}
    </aside>
  );
}

/** How much is open with somebody, in a few words. */
function openWith({ asking, waiting, tasks, events }: PersonFull): string {
  const all = [
    asking.length && `${asking.length} to decide`,
    tasks.length && `${tasks.length} to do`,
    waiting.length && `${waiting.length} waited for`,
    events.length && `${events.length} to come`,
  ].filter(Boolean);
  return all.length ? all.join(' · ') : 'Nothing is open';
}
