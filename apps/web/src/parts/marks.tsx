import type { IncomingFull } from '@corvun/contract';
import { sayDay, sayMinutes, titleOf } from '@corvun/core';
import type { ReactNode } from 'react';
import type { DecisionDraft } from '../places/sort/proposal';

/** A fact in the text, and what using it changes. */
export interface Mark {
  id: string;
  start: number;
  end: number;
  style: 'mark-ask' | 'mark-date' | 'mark-duration' | 'mark-plain';
  label: string;
  /** The label where there is no margin for it. */
  short?: string;
  says: string;
  use: DecisionDraft | ((draft: DecisionDraft) => DecisionDraft) | null;
}

/** The evidence in a message, in the order in which it begins. */
export function marksOf({ facts, text, subject }: IncomingFull, today: string): Mark[] {
  const asks = facts.asks.map((ask, at): Mark => ({
    id: `ask-${at}`,
    start: ask.start,
    end: ask.end,
    style: 'mark-ask',
    label: facts.asks.length > 1 ? `ask ${at + 1}` : 'ask',
    says: 'use it as the title',
    use: { title: titleOf(text, facts, subject, at) },
  }));
  // What is only mentioned and over is no evidence for anything.
  const dates = facts.dates
    .filter((date) => date.role !== 'mention' || (!date.value.includes('W') && date.value >= today))
    .map((date, at): Mark => {
      const day = date.value.slice(0, 10);
      const deadline = date.role === 'deadline';
      const said = date.value.includes('W') ? `week ${Number(date.value.slice(6))}` : sayDay(day, today);
      const label = deadline
        ? `deadline, ${date.fixed ? 'fixed' : 'flexible'}`
        : date.role === 'meeting'
          ? `proposed: ${said}`
          : said;
      return {
        id: `date-${at}`,
        start: date.start,
        end: date.end,
        style: 'mark-date',
        label,
        ...(deadline ? { short: date.fixed ? 'fixed' : 'flexible' } : {}),
        ...useOf(date),
      };
    });
  const durations = facts.durations.map((duration, at): Mark => ({
    id: `duration-${at}`,
    start: duration.start,
    end: duration.end,
    style: 'mark-duration',
    label: sayMinutes(duration.minutes),
    says: 'use it as the duration',
    use: { minutes: duration.minutes },
  }));
  return [...asks, ...dates, ...durations, ...plainMarks(facts, text)].sort((a, b) => a.start - b.start);
}

/** A last day is a deadline; a proposed time begins an event; any other date is a day to put it on. */
function useOf({ value, role, fixed }: IncomingFull['facts']['dates'][number]): Pick<Mark, 'says' | 'use'> {
  if (role === 'deadline' && !value.includes('W')) return { says: 'use it as the deadline', use: { deadline: value, fixed } };
  if (role === 'meeting' && value.includes('T'))
    return { says: 'begin an event with it', use: { when: value.replace('T', ' ') } };
  return { says: 'put it on that day', use: { when: value.includes('W') ? `week ${Number(value.slice(6))}` : value } };
}

type Use = NonNullable<Mark['use']>;
type PlainFact = [{ start: number; end: number }, string, string, Use];

/** Places, people, money and numbers: plain facts, of use where they are wanted. */
function plainMarks({ places = [], money = [], numbers = [], people }: IncomingFull['facts'], text: string): Mark[] {
  const noted =
    (words: string): Use =>
    (draft) => ({ notes: [draft.notes?.trim(), words].filter(Boolean).join('\n') });
  const addressed = people.flatMap(({ name, address }) => {
    const start = text.toLowerCase().indexOf(address);
    return start < 0 ? [] : [{ start, end: start + address.length, who: name ? `${name} <${address}>` : address }];
  });
  const sum = (amount: number) => amount.toLocaleString('en', { minimumFractionDigits: 2 });
  const found: PlainFact[] = [
    ...places.map((one): PlainFact => [one, 'place', 'use it as the place of an event', { place: one.text }]),
    ...money.map((one): PlainFact => [one, `${sum(one.amount)} ${one.currency}`, 'put it in the notes', noted(one.text)]),
    ...numbers.map((one): PlainFact => [one, `no. ${one.number}`, 'put it in the notes', noted(one.text)]),
    ...addressed.map((one): PlainFact => [one, 'person', 'hand it over to them', { handTo: one.who }]),
  ];
  return found.map(([{ start, end }, label, says, use], at) => ({
    id: `plain-${at}`,
    start,
    end,
    style: 'mark-plain',
    label,
    says,
    use,
  }));
}

/** Cuts the text wherever a mark begins or ends; a piece carries every mark it lies in. */
export function piecesOf(text: string, marks: Mark[]): ReactNode[] {
  const cuts = [...new Set([0, text.length, ...marks.flatMap((mark) => [mark.start, mark.end])])].sort((a, b) => a - b);
  return cuts.slice(0, -1).map((from, at) => {
    const to = cuts[at + 1] ?? text.length;
    const inside = marks.filter((mark) => mark.start <= from && mark.end >= to);
    if (!inside.length) return text.slice(from, to);
    return (
      <span
        key={from}
        className={[...new Set(inside.map((mark) => mark.style))].join(' ')}
        data-mark={inside
          .filter((mark) => mark.start === from)
          .map((mark) => mark.id)
          .join(' ')}
        data-says={inside
          .filter((mark) => mark.end === to)
          .map((mark) => mark.short ?? mark.label)
          .join(', ')}
      >
        {text.slice(from, to)}
      </span>
    );
  });
}
