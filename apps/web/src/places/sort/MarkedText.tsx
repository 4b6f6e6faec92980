import type { IncomingFull } from '@corvun/contract';
import { sayDay, sayMinutes, titleOf } from '@corvun/core';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { useDrafts } from './draft';
import type { DecisionDraft } from './proposal';

/** Height of a label in the margin, in pixels: large enough to hit. */
const LABEL = 24;

/** A fact in the text, and what using it changes. */
interface Mark {
  id: string;
  start: number;
  end: number;
  style: 'mark-ask' | 'mark-date' | 'mark-duration' | 'mark-plain';
  label: string;
  says: string;
  use: DecisionDraft | ((draft: DecisionDraft) => DecisionDraft) | null;
}

function marksOf({ facts, text, subject }: IncomingFull, today: string): Mark[] {
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

/** The plain text with its evidence marked, and what each mark means in the margin; a click there uses it. */
export function MarkedText({
  incoming,
  today,
  use,
}: {
  incoming: IncomingFull;
  today: string;
  use: ((change: DecisionDraft) => void) | null;
}): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  const [tops, setTops] = useState<Record<string, number>>({});
  const draft = useDrafts((state) => state.drafts[incoming.id]);
  const marks = marksOf(incoming, today);
  const key = marks.map((mark) => mark.id).join();
  useLayoutEffect(() => {
    const measure = () => {
      const next: Record<string, number> = {};
      const base = frame.current?.getBoundingClientRect().top ?? 0;
      let lowest = 0;
      for (const id of key.split(',').filter(Boolean)) {
        const box = frame.current?.querySelector(`[data-mark~="${id}"]`)?.getClientRects()[0];
        if (!box) continue;
        next[id] = Math.max(lowest, box.top - base - 1);
        lowest = next[id] + LABEL;
      }
      setTops(next);
    };
    // It looks first when all is laid out, and still before it is painted: asking at once would lay it out twice.
    const observer = new ResizeObserver(() => flushSync(measure));
    if (frame.current) observer.observe(frame.current);
    return () => observer.disconnect();
  }, [incoming.id, key]);
  return (
    <div ref={frame} className="grid flex-1 grid-cols-[minmax(0,1fr)_132px] max-md:grid-cols-1">
      <div className="max-w-[66ch] pr-5 pl-8 text-[15px] leading-[23px] break-words whitespace-pre-wrap select-text max-md:px-4">
        {piecesOf(incoming.text, marks)}
      </div>
      <div className="relative border-l border-rule max-md:mt-4 max-md:border-0 max-md:px-4">
        {marks.map((mark) => {
          const style = { top: tops[mark.id] ?? 0 };
          const looks =
            'absolute right-1 left-0 h-6 truncate pl-3 text-left text-xs leading-6 text-plum before:absolute before:top-3 before:left-0 before:w-2 before:border-t before:border-plum max-md:static max-md:block max-md:pl-0 max-md:before:hidden';
          return mark.use && use ? (
            <button
              key={mark.id}
              type="button"
              className={`${looks} hover:underline`}
              style={style}
              title={`${mark.label}: ${mark.says}`}
              onClick={() => mark.use && use(typeof mark.use === 'function' ? mark.use(draft ?? {}) : mark.use)}
            >
              {mark.label}
              <span className="sr-only">: {mark.says}</span>
            </button>
          ) : (
            <span key={mark.id} className={looks} style={style} title={mark.label}>
              {mark.label}
            </span>
          );
        })}
      </div>
    </div>
  );
}

/** Cuts the text wherever a mark begins or ends; a piece carries every mark it lies in. */
function piecesOf(text: string, marks: Mark[]): ReactNode[] {
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
      >
        {text.slice(from, to)}
      </span>
    );
  });
}
