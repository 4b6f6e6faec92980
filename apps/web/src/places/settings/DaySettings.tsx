import type { Me } from '@corvun/contract';
import { readSites, type DayRules, type HeadsDownRules } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ChosenSetting, KeptField, Setting, chooseFrom } from './Setting';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const SHORT = [3, 5, 7, 9, 12] as const;
const NUMBERS = [1, 2, 3, 4, 5, 7] as const;

/** A clock time as it is typed: `7:30` is `07:30`; nothing is none. */
const clock = (text: string): string | null => {
  const typed = text.trim();
  return typed ? typed.replace(/^(\d):/, '0$1:').replace(/^(\d{1,2})$/, (hour) => `${hour.padStart(2, '0')}:00`) : null;
};

/** How days are opened and closed. */
export function DaySettings({ me }: { me: Me }): ReactNode {
  const { day } = me.settings;
  const changed = (change: Partial<DayRules>) => ({ day: change });
  return (
    <>
      <ChosenSetting
        of="matter"
        about="How many things you can say matter most when you open a day."
        value={day.most}
        all={NUMBERS.map((one) => [one, String(one)] as const)}
        choose={(most) => chooseFrom(changed({ most }))}
      />
      <ChosenSetting
        of="shortlist"
        about="How many things a shortlist has, when you clear the decks."
        value={day.shortlist}
        all={SHORT.map((one) => [one, String(one)] as const)}
        choose={(shortlist) => chooseFrom(changed({ shortlist }))}
      />
      <ChosenSetting
        of="review-day"
        about="On this day, once it is open, the band offers to review the week."
        value={day.reviewDay ?? 0}
        all={[[0, 'never'] as const, ...WEEKDAYS.map((name, at) => [at + 1, name] as const)]}
        choose={(one) => chooseFrom(changed({ reviewDay: one || null }))}
      />
      <HeadsDownSetting rules={me.settings.headsDown} />
      <Setting
        id="held-sites"
        about={
          <>
            In quiet time and heads-down the browser extension does not let these through, and what lies below them; five minutes
            can be taken, and are counted. A quiet time on Plan can have its own.{' '}
            <Link to="/sources/web" className="underline underline-offset-2 hover:text-teal">
              How to get the extension
            </Link>
          </>
        }
      >
        <KeptField
          label="Sites, parted by commas"
          bare
          value={me.settings.quiet.sites.join(', ')}
          placeholder="none, or fen-news.example"
          spellCheck={false}
          read={(text) => ({ quiet: { sites: readSites(text) } })}
        />
      </Setting>
      <Setting
        id="outside"
        about="Where it is on a day, the day says its weather: what has one of these tags or categories, or is at a place with one of these words in its name. Without a place there is no weather."
      >
        <KeptField
          label="Tags, categories and words of places, parted by commas"
          value={me.settings.outside.words.join(', ')}
          placeholder="none, or survey, Section C"
          read={(text) => ({
            outside: {
              words: text
                .split(',')
                .map((one) => one.trim())
                .filter(Boolean),
            },
          })}
        />
        <KeptField
          label="Where it is when nothing else is said"
          value={me.settings.outside.place}
          placeholder="nowhere, or Lower Fen"
          maxLength={200}
          read={(place) => ({ outside: { place: place.trim() } })}
        />
      </Setting>
      <Setting id="close-at" about="From then on the band offers to close the day. Nothing: it never does.">
        <KeptField
          label="Time to close the day"
          bare
          value={day.closeAt ?? ''}
          placeholder="never"
          read={(text) => changed({ closeAt: clock(text) })}
        />
      </Setting>
      <Setting
        id="outline-mail"
        about="The outline of your day, by mail to yourself, once on each of these weekdays. Nothing: never."
      >
        <KeptField
          label="Time of the outline"
          bare
          value={day.mailAt ?? ''}
          placeholder="never, or 7:30"
          read={(text) => changed({ mailAt: clock(text) })}
        />
        <div role="group" aria-label="Weekdays of the outline" className="flex flex-wrap gap-x-4 text-xs">
          {WEEKDAYS.map((name, at) => (
            <label key={name} className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                className="accent-teal"
                checked={day.mailDays.includes(at + 1)}
                onChange={({ target }) =>
                  chooseFrom(
                    changed({
                      mailDays: target.checked
                        ? [...day.mailDays, at + 1].sort((a, b) => a - b)
                        : day.mailDays.filter((one) => one !== at + 1),
                    }),
                  )
                }
              />
              {name}
            </label>
          ))}
        </div>
      </Setting>
    </>
  );
}

const LENGTHS = [
  ['work', 'Minutes of work'],
  ['short', 'Minutes of a short pause'],
  ['long', 'Minutes of a long pause'],
  ['every', 'A long pause after so many stretches'],
] as const;

/** How long one works and pauses, heads-down. */
function HeadsDownSetting({ rules }: { rules: HeadsDownRules }): ReactNode {
  return (
    <Setting
      id="heads-down"
      about="One task and nothing else: how long you work and pause. What is under way keeps the lengths it was begun with."
    >
      <div className="grid max-w-[560px] grid-cols-2 gap-x-6 max-md:grid-cols-1">
        {LENGTHS.map(([name, label]) => (
          <KeptField
            key={name}
            label={label}
            value={String(rules[name])}
            inputMode="numeric"
            read={(text) => {
              if (!/^\d{1,3}$/.test(text.trim())) throw new Error('Write a whole number.');
              return { headsDown: { [name]: Number(text) } };
            }}
          />
        ))}
      </div>
      <label className="flex min-h-6 w-fit items-center gap-2">
        <input
          type="checkbox"
          className="accent-teal"
          checked={rules.sound}
          onChange={({ target }) => chooseFrom({ headsDown: { sound: target.checked } })}
        />
        A sound at each turn
      </label>
    </Setting>
  );
}
