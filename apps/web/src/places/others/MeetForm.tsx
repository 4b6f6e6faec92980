import type { Me, MeetPageInfo, MeetRules } from '@corvun/contract';
import { readStretches, sayStretches } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { RequestError, saysWrong } from '../../data/api';
import { addPage, changePage } from '../../data/others';
import { client, useCalendars } from '../../data/queries';
import { useSaid } from '../../state/said';
import { button, primary } from '../sources/common';
import { Chosen, Questions, Radio, Text, Wrong } from './formParts';

const USUAL: MeetRules = {
  ...{ name: '', about: '', place: '', lengths: [30], hours: null, notice: 240, horizon: 28, buffer: 0, perDay: null },
  ...{ from: null, to: null, calendars: null, questions: [], firm: true, open: true },
};
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const LENGTHS = [15, 30, 45, 60, 90, 120];
const NOTICE = [
  [0, 'at once'],
  [60, '1 h from now'],
  [240, '4 h from now'],
  [1440, 'a day from now'],
  [2880, '2 days from now'],
  [10_080, 'a week from now'],
] as const;
const HORIZON = [
  [7, 'a week'],
  [14, '2 weeks'],
  [28, '4 weeks'],
  [56, '8 weeks'],
  [84, '12 weeks'],
] as const;
const BUFFER = [
  [0, 'nothing'],
  [10, '10 min'],
  [15, '15 min'],
  [30, '30 min'],
  [60, '1 h'],
] as const;
const PER_DAY = [
  [0, 'as many as there is room for'],
  [1, 'one'],
  [2, 'two'],
  [3, 'three'],
  [5, 'five'],
] as const;

interface FormProps {
  me: Me;
  /** Null: a new one. */
  page: MeetPageInfo | null;
  close: () => void;
}

/** The rules of a meet-me page. */
export function MeetForm({ me, page, close }: FormProps): ReactNode {
  const [rules, set] = useState<MeetRules>(page ?? USUAL);
  const [hours, setHours] = useState(() => hoursAsText(page?.hours ?? me.settings.hours));
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const first = useRef<HTMLInputElement>(null);
  const calendars = useCalendars().data ?? [];
  useEffect(() => first.current?.focus(), []);
  const change = (some: Partial<MeetRules>) => set({ ...rules, ...some });
  const keep = async () => {
    try {
      const said = fieldsOf({ ...rules, hours: rules.hours ? hoursFrom(hours) : null });
      const { sentence } = page ? await changePage(page.id, { ...said, version: page.version }) : await addPage(said);
      useSaid.getState().say(sentence);
      await client.invalidateQueries({ queryKey: ['others'] });
      close();
    } catch (problem) {
      setWrong(
        problem instanceof RequestError && Object.keys(problem.fields).length ? problem.fields : { form: saysWrong(problem) },
      );
    }
  };
  const choice = <K extends 'notice' | 'horizon' | 'buffer'>(
    name: K,
    label: string,
    all: readonly (readonly [number, string])[],
  ) => <Chosen label={label} value={rules[name]} all={all} choose={(value) => change({ [name]: value })} />;
  return (
    <form
      noValidate
      aria-label={page ? `The page “${page.name}”` : 'A new page'}
      className="my-3 flex flex-col gap-3 border border-ink bg-card p-4"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <Text
        label="What it is called"
        value={rules.name}
        most={120}
        wrong={wrong['name']}
        set={(name) => change({ name })}
        ref={first}
      />
      <Text label="What it is for" value={rules.about} most={2000} wrong={wrong['about']} set={(about) => change({ about })} />
      <Text label="Where" value={rules.place} most={500} wrong={wrong['place']} set={(place) => change({ place })} />
      <fieldset>
        <legend className="text-xs text-soft">Lengths to choose from</legend>
        <div className="flex flex-wrap gap-x-4">
          {LENGTHS.map((one) => (
            <label key={one} className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                className="accent-teal"
                checked={rules.lengths.includes(one)}
                onChange={(event) =>
                  change({
                    lengths: event.target.checked ? [...rules.lengths, one] : rules.lengths.filter((other) => other !== one),
                  })
                }
              />
              {one} min
            </label>
          ))}
        </div>
        <Wrong says={wrong['lengths']} />
      </fieldset>
      <fieldset>
        <legend className="text-xs text-soft">Hours</legend>
        <div className="flex flex-wrap gap-x-4">
          <Radio name="hours" label="Your working hours" on={!rules.hours} choose={() => change({ hours: null })} />
          <Radio name="hours" label="Others" on={rules.hours !== null} choose={() => change({ hours: me.settings.hours })} />
        </div>
        {rules.hours && (
          <div className="mt-1 grid max-w-[420px] grid-cols-[48px_1fr] items-baseline gap-x-3">
            {WEEKDAYS.map((day, at) => (
              <label key={day} className="contents">
                <span>{day}</span>
                <input
                  className="border-b border-soft bg-transparent py-1"
                  placeholder="none"
                  autoComplete="off"
                  value={hours[at]}
                  onChange={(event) => setHours(hours.with(at, event.target.value))}
                />
              </label>
            ))}
          </div>
        )}
        <Wrong says={wrong['hours']} />
      </fieldset>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        {choice('notice', 'The first time', NOTICE)}
        {choice('horizon', 'For', HORIZON)}
        {choice('buffer', 'Free before and after', BUFFER)}
        <Chosen
          label="On one day"
          value={rules.perDay ?? 0}
          all={PER_DAY}
          choose={(value) => change({ perDay: value || null })}
        />
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        {(['from', 'to'] as const).map((name) => (
          <div key={name}>
            <label htmlFor={`meet-${name}`} className="block text-xs text-soft">
              {name === 'from' ? 'Not before' : 'Not after'}
            </label>
            <input
              id={`meet-${name}`}
              type="date"
              className="border border-soft bg-card px-2 py-1"
              value={rules[name] ?? ''}
              onChange={(event) => change({ [name]: event.target.value || null })}
            />
            <Wrong says={wrong[name]} />
          </div>
        ))}
      </div>
      <fieldset>
        <legend className="text-xs text-soft">What takes time</legend>
        <div className="flex flex-wrap gap-x-4">
          <Radio name="count" label="All that counts as busy" on={!rules.calendars} choose={() => change({ calendars: null })} />
          <Radio
            name="count"
            label="Own time and these:"
            on={rules.calendars !== null}
            choose={() => change({ calendars: [] })}
          />
          {rules.calendars &&
            calendars.map(({ id, name }) => (
              <label key={id} className="flex min-h-6 items-center gap-1">
                <input
                  type="checkbox"
                  className="accent-teal"
                  checked={rules.calendars?.includes(id) ?? false}
                  onChange={(event) =>
                    change({
                      calendars: event.target.checked
                        ? [...(rules.calendars ?? []), id]
                        : (rules.calendars ?? []).filter((other) => other !== id),
                    })
                  }
                />
                {name}
              </label>
            ))}
        </div>
        <Wrong says={wrong['calendars']} />
      </fieldset>
      <Questions questions={rules.questions} wrong={wrong['questions']} set={(questions) => change({ questions })} />
      <fieldset>
        <legend className="text-xs text-soft">A booking</legend>
        <div className="flex flex-wrap gap-x-4">
          <Radio name="firm" label="is agreed at once" on={rules.firm} choose={() => change({ firm: true })} />
          <Radio
            name="firm"
            label="stands tentatively until you confirm it"
            on={!rules.firm}
            choose={() => change({ firm: false })}
          />
        </div>
      </fieldset>
      <p className="flex flex-wrap items-center gap-2">
        <button type="submit" className={primary}>
          Keep it
        </button>
        <button type="button" className={button} onClick={close}>
          Leave it
        </button>
        <span role="alert" className="text-brick">
          {wrong['form']}
        </span>
      </p>
    </form>
  );
}

const hoursAsText = (hours: Record<string, string[]>): string[] =>
  WEEKDAYS.map((_, at) => sayStretches(hours[String(at + 1)] ?? []));

/** @throws RequestError at `hours` */
function hoursFrom(texts: readonly string[]): Record<string, string[]> {
  try {
    return Object.fromEntries(texts.map((text, at) => [String(at + 1), readStretches(text)]));
  } catch (problem) {
    throw new RequestError(0, 'bad-field', saysWrong(problem), { hours: saysWrong(problem) });
  }
}

/** What is sent of them. */
function fieldsOf(rules: MeetRules): MeetRules {
  const { name, about, place, lengths, hours, notice, horizon, buffer, perDay, from, to, calendars, questions, firm, open } =
    rules;
  return { name, about, place, lengths, hours, notice, horizon, buffer, perDay, from, to, calendars, questions, firm, open };
}
