import type { TaskChange } from '@corvun/contract';
import { readLength, sayMinutes } from '@corvun/core';
import { Code, Tally } from '../parts/signs';
import { capital, type Make, type Part } from './part';

const PRIORITIES = ['high', 'normal', 'low'] as const;
const CONCENTRATIONS = ['deep', 'medium', 'light'] as const;
const LENGTHS = [10, 15, 30, 45, 60, 90, 120, 180, 240];

/** Tags in a field: parted by spaces or commas, with or without their sign. */
const tagsIn = (text: string) => [
  ...new Set(
    text
      .split(/[\s,]+/)
      .map((tag) => tag.replace(/^#/, '').toLowerCase())
      .filter(Boolean),
  ),
];

/** Parts of the sentence that say what, how much and by whom. */
export const PARTS_WHAT = {
  list: ({ listId }, { lists }) => {
    const own = lists.find((list) => list.id === listId);
    return {
      label: 'List',
      shown: own ? own.name : 'no list',
      choices: [
        ...lists.map((list) => ({
          says: (
            <>
              <Code code={list.code} hue={list.hue} /> {list.name}
            </>
          ),
          on: list.id === listId,
          change: { list: list.id },
        })),
        { says: 'No list', on: listId === null, change: { list: null } },
      ],
    };
  },
  estimate: ({ estimate }) => ({
    label: 'How long it takes',
    shown: estimate && sayMinutes(estimate),
    words: {
      text: estimate ? sayMinutes(estimate) : '',
      placeholder: '1 h 30',
      read: (text) => {
        const minutes = readLength(text);
        return minutes
          ? { change: { estimate: minutes }, says: sayMinutes(minutes) }
          : 'Not a duration. Write “45 min” or “1 h 30”.';
      },
    },
    choices: [
      ...LENGTHS.map((minutes) => ({ says: sayMinutes(minutes), on: estimate === minutes, change: { estimate: minutes } })),
      { says: 'Not known', on: estimate === null, change: { estimate: null } },
    ],
  }),
  concentration: ({ concentration }) => ({
    label: 'Kind of work',
    shown: concentration === 'medium' ? null : concentration,
    choices: CONCENTRATIONS.map((one) => ({
      says: capital(one),
      more: { deep: 'needs a quiet stretch', medium: '', light: 'between other things' }[one],
      on: concentration === one,
      change: { concentration: one },
    })),
  }),
  priority: ({ priority }) => ({
    label: 'Priority',
    shown:
      priority === 'normal' ? null : (
        <>
          {priority} <Tally priority={priority} />
        </>
      ),
    choices: PRIORITIES.map((one) => ({
      says: (
        <>
          {capital(one)} <Tally priority={one} />
        </>
      ),
      on: priority === one,
      change: { priority: one },
    })),
  }),
  tags: ({ tags }, saying) => ({
    label: 'Tags',
    shown: tags.length ? tags.map((tag) => `#${tag}`).join(' ') : null,
    words: {
      text: tags.map((tag) => `${tag} `).join(''),
      adds: true,
      placeholder: 'call site',
      read: (text) => {
        const all = tagsIn(text);
        if (all.some((tag) => tag.length > 80)) return 'A tag has at most 80 characters.';
        return { change: { tags: all }, says: all.map((tag) => `#${tag}`).join(' ') || 'no tags' };
      },
    },
    choices: saying.tags.slice(0, 24).map(({ name }) => ({
      says: `#${name}`,
      on: tags.includes(name),
      change: { tags: tags.includes(name) ? tags.filter((tag) => tag !== name) : [...tags, name] },
    })),
  }),
  waitingOn: ({ waitingOn }, { people }) => ({
    label: 'Waiting on',
    shown: waitingOn,
    words: nameWords(waitingOn, (name) => ({ waitingOn: name })),
    choices: [
      ...people.slice(0, 8).map(({ name }) => ({ says: name, on: waitingOn === name, change: { waitingOn: name } })),
      { says: 'Nobody', on: waitingOn === null, change: { waitingOn: null } },
    ],
  }),
  assignedTo: ({ assignedTo }, { people }) => ({
    label: 'Done by',
    shown: assignedTo,
    words: nameWords(assignedTo, (name) => ({ assignedTo: name })),
    choices: [
      ...people.slice(0, 8).map(({ name }) => ({ says: name, on: assignedTo === name, change: { assignedTo: name } })),
      { says: 'Yourself', on: assignedTo === null, change: { assignedTo: null } },
    ],
  }),
  spent: ({ spent }) => ({
    label: 'Time spent',
    shown: spent ? sayMinutes(spent) : null,
    words: {
      text: spent ? sayMinutes(spent) : '',
      placeholder: '45 min',
      read: (text) => {
        const minutes = readLength(text);
        return minutes
          ? { change: { spent: minutes }, says: sayMinutes(minutes) }
          : 'Not a duration. Write “45 min” or “1 h 30”.';
      },
    },
    choices: [
      ...[15, 30, 60].map((more) => ({
        says: `${sayMinutes(more)} more`,
        on: false,
        change: { spent: spent + more },
      })),
      { says: 'None', on: spent === 0, change: { spent: 0 } },
    ],
  }),
  billable: ({ billable }) => ({
    label: 'Billable',
    shown: billable ? 'billable' : null,
    choices: [
      { says: 'Billable', on: billable, change: { billable: true } },
      { says: 'Not billable', on: !billable, change: { billable: false } },
    ],
  }),
} as const satisfies Record<string, Make>;

function nameWords(own: string | null, change: (name: string) => TaskChange): Part['words'] {
  return {
    text: own ?? '',
    placeholder: 'a name',
    read: (text) =>
      text.length > 200 ? 'A name has at most 200 characters.' : { change: change(text.trim()), says: text.trim() },
  };
}
