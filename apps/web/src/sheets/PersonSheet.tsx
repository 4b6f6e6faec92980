import type { Me, PersonFull } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { usePerson } from '../data/people';
import { KEYS } from '../keys';
import { useNow } from '../parts/useNow';
import { giveBack, takesFocus, useSheet } from './open';
import { PersonBody } from './PersonBody';
import { NotThere, SheetFrame } from './SheetFrame';
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
  const onKeyDown = useOwnKeys(
    { id, there: person.data !== undefined, failed: person.isError },
    { [KEYS.sheet.close]: close },
    {
      [KEYS.sheet.name]: () => document.getElementById('person-name')?.focus(),
      [KEYS.sheet.notes]: () => document.getElementById('person-note')?.focus(),
      [KEYS.sheet.reply]: () => document.getElementById('write-to-person')?.click(),
    },
  );
  return (
    <SheetFrame
      ref={frame}
      id={id}
      label={person.data ? `Person: ${person.data.name}` : 'Person'}
      beside={beside}
      head={person.data && openWith(person.data)}
      close={close}
      onKeyDown={onKeyDown}
    >
      {person.data ? (
        <PersonBody person={person.data} today={today} close={close} />
      ) : (
        <NotThere what="card" problem={person.error} retry={() => void person.refetch()} />
      )}
    </SheetFrame>
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
