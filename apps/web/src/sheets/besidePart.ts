import type { EventChange, EventFull } from '@corvun/contract';
import { readBuffers, sayBuffers, type EventBuffers } from '@corvun/core';
import { capital, type Part } from './part';

type Said = Pick<EventBuffers, 'prep' | 'followUp' | 'travel'>;
const UNSAID: Said = { prep: null, followUp: null, travel: null };
const USUAL = ['15 min before', '15 min before, 15 min after', '30 min after', 'nothing'];

/** What an event says of the time beside it. @param from where one comes from to it */
export function besidePart({ buffers, allDay }: EventFull, from: string): Part<EventChange> {
  const words = buffers ? sayBuffers(buffers) : '';
  const change = (said: Said): EventChange => ({ buffers: { ...said, ...(from && said.travel ? { from } : {}) } });
  return {
    label: 'Beside it',
    shown: allDay ? null : words || null,
    words: {
      text: words,
      placeholder: '15 before, 15 after, 20 travel',
      read: (text) => {
        const read = readBuffers(text);
        return read
          ? { change: change(read), says: `${sayBuffers(read)}${read.travel && from ? ` from ${from}` : ''}` }
          : 'Not understood. Write “15 before, 30 after, 20 travel” or “nothing”.';
      },
    },
    choices: [
      { says: 'As its like', more: 'by the rules of the settings', on: !words, change: change(UNSAID) },
      ...USUAL.map((one) => ({ says: capital(one), on: words === one, change: change(readBuffers(one) ?? UNSAID) })),
    ],
  };
}
