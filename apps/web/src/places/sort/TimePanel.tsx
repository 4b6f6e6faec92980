import type { Me } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayTime } from '@corvun/core';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { KEYS, keyName } from '../../keys';
import { Field } from '../../parts/Field';
import { useReading } from '../../parts/reading';
import { Key } from '../../parts/signs';
import { Failed, Waiting } from '../../parts/states';
import { serverNow } from '../../parts/useNow';
import { Choices } from './Choices';
import { go } from './panels';
import { firstPart, type TimeChoice } from './timeChoice';
import { momentIn } from './timeWords';

const PARTS = [15, 30, 45, 60, 90, 120];

/** Where time is set aside: the best three slots, any gap of the strip, or several of them. */
export function TimePanel({ me, today, choice }: { me: Me; today: string; choice: TimeChoice }): ReactNode {
  const { gaps, best, minutes, several, setSeveral, placeAt } = choice;
  const say = (start: number) => `${sayDay(dayOf(start, me.zone), today)}, ${sayTime(start, me.zone)}`;
  const turn = (
    <label className="mt-2 flex items-center gap-2 px-1 text-xs">
      <input
        type="checkbox"
        className="accent-teal"
        checked={several !== null}
        onChange={(event) => setSeveral(event.target.checked ? { minutes: firstPart(minutes), starts: [] } : null)}
      />
      In several blocks <Key>{keyName(KEYS.sort.more)}</Key>
    </label>
  );
  const { data, error, refetch } = choice.free;
  if (!data && error) return <Failed problem={error} retry={() => void refetch()} />;
  if (!data) return <Waiting what="Looking for what is free" />;
  if (several) return <SeveralBlocks choice={choice} several={several} say={say} turn={turn} />;
  if (!best.length)
    return (
      <>
        <p className="px-1 text-xs">
          No gap in the next days is {sayMinutes(minutes)} long. Make it shorter above, put it in several blocks, or on a day
          without a time.
        </p>
        <ExactTime me={me} today={today} choice={choice} />
        {turn}
      </>
    );
  return (
    <>
      <Choices
        label="Best times"
        digits={false}
        choices={best.map(({ slot, reasons }) => ({
          id: String(slot.start),
          choose: () => placeAt(slot.start),
          content: (
            <>
              <span className="shrink-0">{say(slot.start)}</span>
              <span className="ml-auto text-right text-xs text-soft">{reasons.join(', ')}</span>
            </>
          ),
        }))}
      />
      <p className="px-1 pt-1 text-xs text-soft">
        {gaps.length ? (
          <>
            Or <Key>1</Key>
            {gaps.length > 1 && (
              <>
                {' to '}
                <Key>{gaps.length}</Key>
              </>
            )}{' '}
            for a gap in the strip below.{' '}
          </>
        ) : (
          ''
        )}
        It takes {sayMinutes(minutes)}.
      </p>
      <ExactTime me={me} today={today} choice={choice} />
      {turn}
    </>
  );
}

/** A time in words, whatever stands there already. */
function ExactTime({ me, today, choice }: { me: Me; today: string; choice: TimeChoice }): ReactNode {
  const [text, setText] = useState('');
  const found = useReading()
    .typedDates(text, { now: serverNow(), zone: me.zone })
    .find((one) => one.time);
  const moment = momentIn(found, today, me.zone);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (moment !== null) choice.placeAt(moment);
  };
  return (
    <form onSubmit={submit} className="mt-1 px-1">
      <Field
        id="exact-time"
        label="Or at a time: Thu 15:00"
        value={text}
        change={setText}
        wrong={text !== '' && moment === null}
        says={
          moment !== null
            ? `Enter sets ${sayMinutes(choice.minutes)} aside on ${sayDay(dayOf(moment, me.zone), today)}, ${sayTime(moment, me.zone)}`
            : text
              ? 'Write a day and a time'
              : ''
        }
      />
    </form>
  );
}

function SeveralBlocks({
  choice,
  several,
  say,
  turn,
}: {
  choice: TimeChoice;
  several: NonNullable<TimeChoice['several']>;
  say: (start: number) => string;
  turn: ReactNode;
}): ReactNode {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => button.current?.focus(), []);
  const { starts, minutes } = several;
  return (
    <div className="px-1">
      <label htmlFor="part-minutes" className="text-xs text-soft">
        Each block
      </label>
      <select
        id="part-minutes"
        className="ml-2 border border-soft bg-card text-xs"
        value={minutes}
        onChange={(event) => choice.setSeveral({ minutes: Number(event.target.value), starts: [] })}
      >
        {[...new Set([...PARTS, minutes])]
          .sort((a, b) => a - b)
          .map((part) => (
            <option key={part} value={part}>
              {sayMinutes(part)}
            </option>
          ))}
      </select>
      <p className="mt-1 text-xs text-soft">
        {choice.gaps.length ? 'Numbers and clicks in the strip below take a gap and give it back.' : 'No gap is that long.'}
      </p>
      <ul aria-label="Chosen blocks" className="text-xs">
        {[...starts]
          .sort((a, b) => a - b)
          .map((start) => (
            <li key={start}>{say(start)}</li>
          ))}
      </ul>
      <button
        ref={button}
        type="button"
        className={`${go} aria-disabled:opacity-60`}
        aria-disabled={!starts.length}
        onClick={choice.placeSeveral}
      >
        {starts.length
          ? `Set ${count(starts.length, 'block')} aside, ${sayMinutes(starts.length * minutes)}`
          : 'Choose the first gap'}
      </button>
      {turn}
    </div>
  );
}
