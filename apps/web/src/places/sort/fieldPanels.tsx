import { NO_FACTS, meetingIn, type Destination } from '@corvun/core';
import type { ReactNode } from 'react';
import { serverNow } from '../../parts/useNow';
import { EventPanel } from './EventPanel';
import type { InPane } from './inPane';
import { HandOverPanel, PersonPanel } from './peoplePanels';

/** What is asked where there is something to write before it goes. */
export function FieldPanel({ to, me, line, proposal, incoming, decide }: InPane & { to: Destination }): ReactNode {
  if (to === 'hand-over') return <HandOverPanel key={line.id} me={me} line={line} decide={decide} />;
  if (to === 'person') return incoming && <PersonPanel incoming={incoming} decide={decide} />;
  return (
    <EventPanel
      key={line.id}
      me={me}
      line={line}
      minutes={proposal.minutes}
      said={meetingIn(incoming?.facts ?? NO_FACTS, serverNow(), me.zone, [me.email])}
      decide={decide}
    />
  );
}
