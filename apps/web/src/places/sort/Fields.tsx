import type { IncomingLine, Me } from '@corvun/contract';
import { findDurations, sayDay, sayMinutes } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useReading } from '../../parts/reading';
import { leaveField } from '../../parts/useKeys';
import { serverNow } from '../../parts/useNow';
import { useDrafts } from './draft';
import { type Proposal } from './proposal';

const field = 'w-full border-b border-transparent bg-transparent py-[1px] hover:border-soft focus:border-teal';

/** Title, deadline and duration, changeable before anything is decided. */
export function Fields({
  line,
  today,
  me,
  proposal,
}: {
  line: IncomingLine;
  today: string;
  me: Me;
  proposal: Proposal;
}): ReactNode {
  const edit = useDrafts((state) => state.edit);
  const { typedDates } = useReading();
  const isTask = line.suggestion?.to !== 'event';
  const toSomewhere = !['drop', 'reference'].includes(line.suggestion?.to ?? '');
  return (
    <div className="grid grid-cols-[1fr_92px] gap-x-4 gap-y-[2px]" key={line.id}>
      <div className="col-span-2">
        <label htmlFor="decide-title" className="sr-only">
          Title
        </label>
        <textarea
          id="decide-title"
          rows={1}
          className={`${field} field-sizing-content max-h-24 resize-none font-head text-md leading-[21px] font-semibold ${toSomewhere ? '' : 'text-soft'}`}
          value={proposal.title}
          maxLength={500}
          onChange={(event) => edit(line.id, { title: event.target.value.replace(/\n/g, ' ') })}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            event.preventDefault();
            leaveField(event.currentTarget);
          }}
        />
      </div>
      <ReadField
        label={proposal.deadline && isTask ? `Deadline, ${proposal.fixed ? 'fixed' : 'flexible'}` : 'Deadline'}
        id="decide-deadline"
        shown={
          proposal.deadline
            ? `${sayDay(proposal.deadline.slice(0, 10), today)}${proposal.deadline.slice(10).replace('T', ' ')}`
            : ''
        }
        placeholder="none"
        read={(text) => {
          const date = typedDates(text, { now: serverNow(), zone: me.zone }).find((one) => one.day);
          return date?.day
            ? { deadline: date.day + (date.time ? `T${date.time}` : ''), fixed: /\bdue\b|fixed/i.test(text) || proposal.fixed }
            : null;
        }}
        clear={{ deadline: null }}
        complaint="Not a date"
        change={(change) => edit(line.id, change)}
      />
      <ReadField
        label="How long"
        id="decide-minutes"
        shown={proposal.minutes ? sayMinutes(proposal.minutes) : ''}
        placeholder="not known"
        read={(text) => {
          const minutes = /^\d{1,4}$/.test(text.trim()) ? Number(text) : findDurations(text)[0]?.minutes;
          return minutes && minutes > 0 && minutes <= 6000 ? { minutes } : null;
        }}
        clear={{ minutes: null }}
        complaint="Not a duration"
        change={(change) => edit(line.id, change)}
      />
    </div>
  );
}

type Change = Parameters<ReturnType<typeof useDrafts.getState>['edit']>[1];

interface ReadFieldProps {
  label: string;
  id: string;
  shown: string;
  placeholder: string;
  read: (text: string) => Change | null;
  clear: Change;
  complaint: string;
  change: (change: Change) => void;
}

/** A field in words: what is typed is read when the field is left. */
function ReadField({ label, id, shown, placeholder, read, clear, complaint, change }: ReadFieldProps): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const wrong = text !== null && text.trim() !== '' && text !== shown && read(text) === null;
  const leave = () => {
    if (text === null || text === shown) return setText(null);
    if (!text.trim()) change(clear);
    else {
      const understood = read(text);
      if (!understood) return undefined;
      change(understood);
    }
    return setText(null);
  };
  return (
    <div>
      <label htmlFor={id} className="text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        className={field}
        value={text ?? shown}
        placeholder={placeholder}
        autoComplete="off"
        aria-invalid={wrong}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setText(null);
          if (event.key === 'Enter') leaveField(event.currentTarget);
        }}
      />
      {wrong && (
        <p id={`${id}-wrong`} className="text-xs text-brick">
          {complaint}
        </p>
      )}
    </div>
  );
}
