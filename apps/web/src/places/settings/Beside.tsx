import type { Me } from '@corvun/contract';
import { withTravel, type BufferRule, type BufferSettings } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { saysWrong } from '../../data/api';
import { useCalendars } from '../../data/queries';
import { button } from '../sources/common';
import { KeptLine } from './KeptLine';
import { ChosenSetting, KeptField, Setting, choose, chooseFrom } from './Setting';

const BLANK: BufferRule = { prep: 15, followUp: 15, of: 'others', calendarId: null, category: '', over: 30 };
const LENGTHS = [0, 5, 10, 15, 20, 30, 45, 60];
const OVER = [0, 15, 30, 45, 60, 90];
const select = 'border border-soft bg-card px-1 py-[2px]';

/** What is kept free before, after and between events. */
export function Beside({ me }: { me: Me }): ReactNode {
  const { buffers } = me.settings;
  const keep = (change: Partial<BufferSettings>) => chooseFrom({ buffers: change });
  const put = (at: number, rule: BufferRule | null) =>
    keep({ rules: rule ? buffers.rules.with(at, rule) : buffers.rules.filter((_, index) => index !== at) });
  return (
    <>
      <Setting
        id="buffers"
        about="Kept free beside every event that is like this, and moves with it. The first line that is for an event holds; on its sheet an event can say something else."
      >
        <ol aria-label="Lines">
          {buffers.rules.map((rule, at) => (
            <RuleRow key={at} at={at} rule={rule} put={(changed) => put(at, changed)} />
          ))}
        </ol>
        <button type="button" className={button} onClick={() => keep({ rules: [...buffers.rules, BLANK] })}>
          Another line
        </button>
      </Setting>
      <Ways me={me} buffers={buffers} />
      <ChosenSetting
        of="pauses"
        about="After a stretch of events that is as long, with less than ten minutes between them, fifteen minutes are kept free."
        value={buffers.pause?.after ?? 0}
        all={[
          [0, 'None'],
          [90, 'After 1 h 30'],
          [120, 'After 2 h'],
          [180, 'After 3 h'],
        ]}
        choose={(after) => keep({ pause: after ? { after, minutes: 15 } : null })}
      />
    </>
  );
}

interface RowProps {
  at: number;
  rule: BufferRule;
  put: (rule: BufferRule | null) => void;
}

function RuleRow({ at, rule, put }: RowProps): ReactNode {
  const calendars = useCalendars().data ?? [];
  const which = `of line ${at + 1}`;
  const minutes = (name: 'prep' | 'followUp' | 'over', all: readonly number[], label: string) => (
    <select
      aria-label={`${label} ${which}`}
      className={select}
      value={rule[name]}
      onChange={(event) => put({ ...rule, [name]: Number(event.target.value) })}
    >
      {[...new Set([...all, rule[name]])]
        .sort((a, b) => a - b)
        .map((one) => (
          <option key={one} value={one}>
            {name === 'over' ? (one ? `longer than ${one} min` : 'of any length') : `${one} min`}
          </option>
        ))}
    </select>
  );
  return (
    <li className="flex flex-wrap items-center gap-x-2 gap-y-1 border-t border-rule py-2 first:border-t-0">
      {minutes('prep', LENGTHS, 'Before')} before and {minutes('followUp', LENGTHS, 'After')} after
      <select
        aria-label={`Whose events ${which}`}
        className={select}
        value={rule.of}
        onChange={(event) => put({ ...rule, of: event.target.value as BufferRule['of'] })}
      >
        <option value="all">all events</option>
        <option value="others">those of others</option>
        <option value="own">your own</option>
      </select>
      <select
        aria-label={`Calendar ${which}`}
        className={`max-w-[160px] ${select}`}
        value={rule.calendarId ?? ''}
        onChange={(event) => put({ ...rule, calendarId: event.target.value || null })}
      >
        <option value="">in any calendar</option>
        {calendars.map(({ id, name }) => (
          <option key={id} value={id}>
            in {name}
          </option>
        ))}
      </select>
      {minutes('over', OVER, 'Length')}
      <KeptLine
        aria-label={`Category ${which}`}
        placeholder="any category"
        className="w-[130px] border-b border-soft bg-transparent py-1"
        value={rule.category}
        maxLength={200}
        keep={(category) => put({ ...rule, category: category.trim() })}
      />
      <button type="button" className={button} aria-label={`Remove line ${at + 1}`} onClick={() => put(null)}>
        Remove
      </button>
    </li>
  );
}

/** Where one is usually, and how long the ways are. */
function Ways({ me, buffers }: { me: Me; buffers: BufferSettings }): ReactNode {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState('');
  const read = /^\s*(.+?)\s+(?:to|–|->)\s+(.+?)[\s,:]+(\d{1,3})\s*(?:min)?\s*$/i.exec(text);
  const add = async () => {
    const [, from = '', to = '', minutes = ''] = read ?? [];
    if (!read) return setProblem('Write it like “Office to Gate 3, 25 min”.');
    try {
      await choose({ buffers: { travel: withTravel(buffers.travel, { from, to, minutes: Number(minutes) }) } }, true);
      setText('');
      setProblem('');
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  return (
    <Setting
      id="travel"
      about="Before an event at one of these places the way there is kept free, and after it the way back. What is set on the sheet of an event is remembered here."
    >
      <KeptField
        id="base"
        label="Where you are when nothing else is said"
        value={me.settings.buffers.base}
        placeholder="Office"
        maxLength={500}
        read={(base) => ({ buffers: { base: base.trim() } })}
      />
      <ul aria-label="Ways">
        {buffers.travel.map((way, at) => (
          <li key={`${way.from} ${way.to}`} className="flex max-w-[420px] items-baseline gap-3 border-t border-rule py-1">
            <span className="min-w-0 flex-1 truncate">
              {way.from} – {way.to}
            </span>
            <span className="text-soft">{way.minutes} min</span>
            <button
              type="button"
              className="min-h-6 underline underline-offset-2 hover:text-teal"
              aria-label={`Forget the way from ${way.from} to ${way.to}`}
              onClick={() => chooseFrom({ buffers: { travel: buffers.travel.filter((_, index) => index !== at) } })}
            >
              forget
            </button>
          </li>
        ))}
      </ul>
      <form
        noValidate
        className="mt-2 max-w-[420px]"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <label htmlFor="way" className="block text-xs text-soft">
          A way and how long it takes
        </label>
        <input
          id="way"
          className="w-full border-b border-soft bg-transparent py-1"
          placeholder="Office to Gate 3, 25 min"
          autoComplete="off"
          value={text}
          aria-invalid={problem !== ''}
          aria-describedby="way-says"
          onChange={(event) => setText(event.target.value)}
        />
        <p
          id="way-says"
          role={problem ? 'alert' : undefined}
          className={`min-h-4 text-xs ${problem ? 'text-brick' : 'text-soft'}`}
        >
          {problem || (read ? 'Enter keeps it' : '')}
        </p>
      </form>
    </Setting>
  );
}
