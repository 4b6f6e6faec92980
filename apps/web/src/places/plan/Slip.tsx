import type { AgendaEntry, CalendarInfo, ListInfo, Me } from '@corvun/contract';
import { sayMinutes, saySpan, sayTime } from '@corvun/core';
import { Check } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import { ofCategory } from '../../parts/category';
import { Deadline } from '../../parts/signs';
import { useSettings } from '../../state/settings';
import { leaving, useProposing } from './proposing';
import { EntryButton, useEntryState } from './EntryButton';
import { Brackets, sayBuffer } from './Brackets';
import { grabs } from './Grab';
import { minuteOn, useHour, type Laid } from './grid';
import { isDone } from './moves';

interface SlipProps {
  me: Me;
  now: number;
  today: string;
  day: string;
  laid: Laid;
  calendars: CalendarInfo[];
  lists: ListInfo[];
  resizedTo: number | null;
}

/** The lower edge, by which it is made longer or shorter. */
function Edge({ entry }: { entry: AgendaEntry }): ReactNode {
  return (
    <span
      ref={(element) => grabs(element, { what: 'resize', entry })}
      className="absolute inset-x-0 bottom-0 h-[6px] cursor-ns-resize touch-none"
      data-edge={entry.id}
      aria-hidden="true"
    />
  );
}

/** An event or a block in the time grid. */
export const Slip = memo(function Slip({
  me,
  now,
  today,
  day,
  laid: { entry, from, to, column, columns },
  calendars,
  lists,
  resizedTo,
}: SlipProps): ReactNode {
  const hour = useHour();
  const { dragged, moving, marked } = useEntryState(entry);
  const calendar = calendars.find((one) => one.id === entry.calendarId);
  const list = lists.find((one) => one.id === entry.listId);
  const own = entry.kind === 'block';
  const quiet = entry.blockKind === 'quiet' || entry.blockKind === 'break';
  const tentative = entry.showAs === 'tentative';
  const cancelled = !own && entry.status === 'CANCELLED';
  const free = entry.showAs === 'free' || cancelled;
  const { faded, colourBy } = useSettings((state) => state.plan);
  const category = colourBy === 'category' && entry.category ? ofCategory(entry.category) : null;
  const soft = faded.includes(entry.calendarId ?? '');
  const hue = `var(--hue-${category?.hue ?? calendar?.hue ?? list?.hue ?? 0})`;
  const height = ((resizedTo ?? to - from) / 60) * hour;
  const looks = own
    ? `border-[1.4px] border-plum text-ink ${quiet ? 'border-dashed bg-paper/80' : free ? 'border-dotted bg-plum-wash' : 'bg-plum-wash'}`
    : tentative
      ? 'border-[1.4px] bg-card pl-[18px] text-ink'
      : entry.mirrored
        ? 'border bg-card pl-[18px] text-ink'
        : free
          ? 'border border-dashed bg-card text-ink'
          : 'text-[var(--on-hue)]';
  const style = {
    top: (from / 60) * hour,
    height: Math.max(16, height - 1),
    left: `calc(${(column / columns) * 100}% + 3px)`,
    width: `calc(${100 / columns}% - 9px)`,
  };
  const [start, end] = [Date.parse(entry.start ?? ''), Date.parse(entry.end ?? '')];
  const times = resizedTo ? `${sayTime(start, me.zone)} – ${sayMinutes(resizedTo)}` : saySpan(start, end, me.zone);
  const code = own ? list?.code : (category?.code ?? calendar?.code);
  const stillOpen = own && entry.taskId !== null && !isDone(entry) && end <= now;
  const name = `${own ? 'Block' : 'Event'}: ${entry.title} ${times}${tentative ? (entry.guests ? ', tentative' : ', not answered yet') : ''}${isDone(entry) ? ', done' : ''}${cancelled ? ', cancelled' : ''}${stillOpen ? ', still open' : ''}${own && free ? ', free to others' : ''}${entry.pinned ? ', pinned' : ''}${marked ? ', marked' : ''}${calendar ? `, ${calendar.name}` : ''}${entry.category ? `, ${entry.category}` : ''}${entry.mirrored ? ', a copy' : entry.fixed ? ', from outside' : ''}${entry.buffers.map((one) => `, ${sayBuffer(one)}`).join('')}`;
  const goes = useProposing(({ answer, not }) => answer !== null && leaving(answer, not).has(entry.id));
  const tall = height >= 40;
  const struck = isDone(entry) || cancelled ? 'line-through' : '';
  const title = (
    <>
      {isDone(entry) && <Check size={13} className="mr-1 inline align-[-2px]" />}
      {entry.title}
    </>
  );
  const minute = (iso: string) => (minuteOn(iso, day, me.zone) / 60) * hour;
  return (
    <>
      {resizedTo === null && !dragged && <Brackets entry={entry} at={minute} hue={hue} left={style.left} width={style.width} />}
      <div
        className={`absolute ${entry.blockKind === 'quiet' ? 'z-[1]' : 'z-[2]'} ${dragged ? 'opacity-40' : ''}`}
        style={style}
        data-entry={entry.id}
        data-of={entry.taskId ?? entry.id}
      >
        <EntryButton
          {...{ me, now, today, entry }}
          loose={!entry.fixed}
          label={tall ? undefined : name}
          className={`relative size-full overflow-hidden rounded-sm px-[7px] text-left text-xs leading-[15px] font-semibold ${tall ? 'flex flex-col flex-wrap content-start justify-start gap-x-4 py-[2px]' : `coded block truncate ${entry.occurrence ? 'pr-5' : ''} ${struck}`} ${entry.occurrence ? 'repeats' : ''} ${moving ? 'outline-2 outline-dashed outline-teal' : marked ? 'outline-2 outline-offset-1 outline-teal' : ''} ${looks} ${soft || goes ? 'opacity-45' : isDone(entry) ? 'opacity-65' : ''}`}
          {...(!tall && code && { 'data-code': code })}
          style={own ? {} : tentative || free || entry.mirrored ? { borderColor: hue } : { background: hue }}
        >
          {tentative && (
            <span
              className="absolute inset-y-0 left-0 w-3"
              style={{ background: `repeating-linear-gradient(45deg, ${hue} 0 3px, transparent 3px 6px)` }}
              aria-hidden="true"
            />
          )}
          {entry.mirrored && !tentative && (
            <span
              className="absolute inset-y-0 left-0 w-3"
              style={{ background: `radial-gradient(${hue} 1.4px, transparent 1.8px) 0 0 / 6px 6px` }}
              aria-hidden="true"
            />
          )}
          {tall ? (
            // A line that does not fit whole begins a second column, which is out of sight: none is cut through.
            <>
              <span className="sr-only">{name}</span>
              <b
                aria-hidden="true"
                className={`coded line-clamp-2 w-full ${entry.occurrence ? 'pr-3' : ''} ${struck}`}
                data-code={code}
              >
                {title}
              </b>
              <span className={`w-full truncate font-normal ${own ? 'text-soft' : ''}`} aria-hidden="true">
                {stillOpen && <b className="text-amber">still open · </b>}
                {times}
                {cancelled
                  ? ' · cancelled'
                  : tentative
                    ? entry.guests
                      ? ' · tentative'
                      : ' · not answered'
                    : entry.location
                      ? ` · ${entry.location}`
                      : ''}
                {own && free && ' · free to others'}
                {entry.pinned && ' · pinned'}
                {entry.deadline && columns === 1 && (
                  <>
                    {' · '}
                    <Deadline deadline={entry.deadline} fixed={entry.deadlineFixed} today={today} />
                  </>
                )}
              </span>
            </>
          ) : (
            title
          )}
        </EntryButton>
        {!entry.fixed && <Edge entry={entry} />}
      </div>
    </>
  );
});
