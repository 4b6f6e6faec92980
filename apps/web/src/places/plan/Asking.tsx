import type { DayInfo } from '@corvun/contract';
import type { ReactNode } from 'react';
import { AskFirst, leave } from './AskFirst';
import type { ColumnProps } from './DayColumn';
import { Held } from './Held';
import { NewEntry } from './NewEntry';
import { usePlanning } from './planning';

/**
 * What is asked beside a day rather than at one of its hours: something new of the whole day, or an entry that goes.
 * @param whole also what has a time, where there are no hours to ask it at
 */
export function Asking({
  day,
  whole = true,
  ...props
}: Pick<ColumnProps, 'me' | 'now' | 'days' | 'calendars' | 'making'> & { day: DayInfo; whole?: boolean }): ReactNode {
  const { me, now, days, calendars, making } = props;
  const asked = usePlanning((state) => state.asked);
  const made = making.at?.day === day.day && (whole || making.at.from === null) ? making.at : null;
  const where = asked && (asked.target?.day ?? asked.entry.day);
  const held = where === day.day && (whole || !asked?.target || asked.target.from === null) ? asked : null;
  return (
    <>
      {made && (
        <Held from={null} minutes={made.minutes} label="Something new" close={making.end}>
          <NewEntry me={me} now={now} making={making} at={made} calendars={calendars} days={days} />
        </Held>
      )}
      {held && (
        <Held from={null} minutes={1440} label="Before it is done" close={() => leave(held.entry)}>
          <AskFirst me={me} asked={held} />
        </Held>
      )}
    </>
  );
}
