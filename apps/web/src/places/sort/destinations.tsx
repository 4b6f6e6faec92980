import { DESTINATIONS, count, sayMinutes, type Destination } from '@corvun/core';
import type { ReactNode } from 'react';
import { KEYS } from '../../keys';
import { AnswerPanel } from './AnswerPanel';
import { FieldPanel } from './fieldPanels';
import type { DecideThis, InPane } from './inPane';
import { DonePanel, ReferencePanel } from './keepPanels';
import { DayPanel, ListPanel, ShelfPanel } from './panels';
import { TimePanel } from './TimePanel';

/** What is open, for the keys. */
export type Open = Pick<InPane, 'line' | 'incoming'> & { together: boolean };

/** How a destination is offered on Sort. */
export interface Offered {
  to: Destination;
  key: string;
  hint: (pane: InPane) => string;
  /** What is asked before it goes; without it one key decides. */
  panel?: (pane: InPane) => ReactNode;
  /** Whether it is offered for what is open. */
  fits?: (open: Open) => boolean;
  /** Whether its key decides at once although there is a panel. */
  atOnce?: (open: Open) => boolean;
}

const fields = (to: Destination) => (pane: InPane) => <FieldPanel {...pane} to={to} />;

/** Every destination that is offered, in its order: each with its key, its hint and its panel. */
export const OFFERED: readonly Offered[] = [
  {
    to: 'answer',
    get key() {
      return KEYS.sort.answer;
    },
    hint: () => 'yes, maybe, no',
    fits: ({ line }) => line.kind === 'invitation' && line.suggestion?.to === 'answer',
    panel: ({ me, decide, incoming }) => <AnswerPanel me={me} decide={decide} incoming={incoming} />,
  },
  {
    to: 'list',
    get key() {
      return KEYS.sort.list;
    },
    hint: ({ proposal }) => proposal.list ?? '',
    panel: ({ proposal, decide }) => <ListPanel proposed={proposal.list} choose={(list) => void decide({ to: 'list', list })} />,
  },
  {
    to: 'day',
    get key() {
      return KEYS.sort.day;
    },
    hint: () => 'or any day of a week',
    panel: ({ me, line, today, days, when, choice, decide }) => (
      <DayPanel key={`${line.id} ${when ?? ''}`} {...{ me, today, days, decide }} minutes={choice.minutes} words={when} />
    ),
  },
  {
    to: 'time',
    get key() {
      return KEYS.sort.time;
    },
    hint: ({ choice: { free, gaps, minutes } }) => {
      if (!free.data) return '';
      return gaps.length
        ? `${sayMinutes(minutes)} fits in ${gaps.length === 9 ? '9 gaps or more' : count(gaps.length, 'gap')}`
        : 'no gap is long enough';
    },
    panel: ({ me, today, choice }) => <TimePanel me={me} today={today} choice={choice} />,
  },
  {
    to: 'event',
    get key() {
      return KEYS.sort.event;
    },
    hint: () => 'in the calendar',
    panel: fields('event'),
  },
  {
    to: 'hand-over',
    get key() {
      return KEYS.sort.handOver;
    },
    hint: () => 'then wait for it',
    panel: fields('hand-over'),
  },
  {
    to: 'person',
    get key() {
      return KEYS.sort.person;
    },
    hint: ({ line, incoming }) => `${line.sender.name || line.sender.address}${incoming?.person ? ', known' : ''}`,
    atOnce: ({ incoming, together }) => together || !incoming?.person,
    panel: fields('person'),
  },
  {
    to: 'shelf',
    get key() {
      return KEYS.sort.shelf;
    },
    hint: () => 'look again …',
    panel: ({ today, decide }) => <ShelfPanel today={today} decide={decide} />,
  },
  {
    to: 'reference',
    get key() {
      return KEYS.sort.reference;
    },
    hint: () => 'findable, or in a note',
    panel: ({ decide }) => <ReferencePanel decide={decide} />,
  },
  {
    to: 'done',
    get key() {
      return KEYS.sort.done;
    },
    hint: () => 'and how long it took',
    panel: ({ decide }) => <DonePanel decide={decide} />,
  },
  {
    to: 'drop',
    get key() {
      return KEYS.sort.drop;
    },
    hint: () => '',
  },
];

/** Those offered for what is open: of several at once, only what can be said of all of them with the same words; of two versions one is kept, and nothing new made. */
export const offeredFor = (open: Open): Offered[] =>
  OFFERED.filter(
    ({ to, fits }) =>
      (open.line.twoVersions ? to === 'drop' : (fits?.(open) ?? true)) && (!open.together || DESTINATIONS[to].many),
  );

/** What each key of a destination does. @param show opens the panel of a destination */
export const destinationKeys = (open: Open, decide: DecideThis, show: (to: Destination) => void): Record<string, () => void> =>
  Object.fromEntries(
    offeredFor(open).map(({ to, key, panel, atOnce }) => [
      key,
      () => (panel && !atOnce?.(open) ? show(to) : void decide({ to })),
    ]),
  );
