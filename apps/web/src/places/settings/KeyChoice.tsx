import type { Me } from '@corvun/contract';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { commandsOf } from '../../commands';
import { KEYS, clashes, firstKey, keyName, keysWith, type Where } from '../../keys';
import { Key } from '../../parts/signs';
import { button, quiet } from '../sources/common';
import { Setting, chooseFrom } from './Setting';

const PLACES: Record<Where, string> = {
  everywhere: 'Everywhere',
  sort: 'Sort',
  plan: 'Plan',
  entry: 'On an entry of Plan',
  card: 'On a card of the tray',
  now: 'Now',
  alone: 'While heads-down',
  notes: 'Notes',
  lookBack: 'Look back',
  sheet: 'In a sheet',
  pass: 'In a pass',
  lists: 'Lists',
  task: 'On a task of Lists',
};
/** Keys that the browser or the page itself needs. */
const NOT_FREE = [
  'Tab',
  'Shift',
  'Control',
  'Alt',
  'Meta',
  'Escape',
  ' ',
  'Enter',
  'Dead',
  'Unidentified',
  'CapsLock',
  'AltGraph',
];

/** Every key, what it does, and another one for it. */
export function KeyChoice({ me }: { me: Me }): ReactNode {
  const own = me.settings.keys;
  const [asking, setAsking] = useState<string | null>(null);
  const [problem, setProblem] = useState<{ command: string; says: string } | null>(null);
  const changed = Object.keys(own).length;
  const take = (where: Where, name: string, event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Tab') return setAsking(null);
    event.preventDefault();
    const command = `${where}.${name}`;
    if (event.key === 'Escape') return setAsking(null);
    if (['Shift', 'CapsLock'].includes(event.key)) return;
    const { [command]: _before, ...rest } = own;
    const wanted = event.key === firstKey(where, name) ? rest : { ...rest, [command]: event.key };
    const clash = clashes(keysWith(wanted)).find((one) => one.startsWith(`${event.key}: `));
    const says =
      NOT_FREE.includes(event.key) || event.ctrlKey || event.altKey || event.metaKey
        ? `${keyName(event.key)} is not free for a command.`
        : clash
          ? `${keyName(event.key)} already does something here: ${sayClash(clash, command)}.`
          : '';
    setProblem(says ? { command, says } : null);
    if (says) return;
    setAsking(null);
    chooseFrom({ keys: wanted });
  };
  return (
    <Setting
      id="keys"
      about="Press the button of a command, then the key it is to have. What would do two things in one place is refused."
    >
      {changed > 0 && (
        <button type="button" className={`${button} mb-3`} onClick={() => chooseFrom({ keys: {} })}>
          Give all of them their first keys back
        </button>
      )}
      <div className="columns-2 gap-8 max-lg:columns-1">
        {(Object.keys(PLACES) as Where[]).map((where) => (
          <section key={where} aria-label={PLACES[where]} className="mb-4">
            <h4 className="mb-1 break-after-avoid font-head font-semibold">{PLACES[where]}</h4>
            <ul>
              {commandsOf(where).map(([name, does]) => {
                const command = `${where}.${name}`;
                const key = (KEYS[where] as Record<string, string>)[name] ?? '';
                return (
                  <li key={command} className="flex break-inside-avoid flex-wrap items-center gap-3 border-t border-rule py-1">
                    <button
                      type="button"
                      aria-label={`${does}: ${keyName(key)}; change it`}
                      aria-describedby={problem?.command === command ? 'key-problem' : undefined}
                      className={`w-20 shrink-0 border px-1 text-left ${asking === command ? 'border-teal bg-teal-wash text-xs' : 'border-transparent hover:border-soft'}`}
                      onClick={() => {
                        setProblem(null);
                        setAsking(asking === command ? null : command);
                      }}
                      onKeyDown={(event) => asking === command && take(where, name, event)}
                      onBlur={() => setAsking(null)}
                    >
                      {asking === command ? 'press a key' : <Key>{keyName(key)}</Key>}
                    </button>
                    <span className="min-w-0 flex-1">{does}</span>
                    {own[command] && (
                      <button
                        type="button"
                        className={`${quiet} text-xs`}
                        aria-label={`Give ${keyName(firstKey(where, name))} back to “${does}”`}
                        onClick={() => {
                          const { [command]: _own, ...rest } = own;
                          chooseFrom({ keys: rest });
                        }}
                      >
                        was {keyName(firstKey(where, name))}
                      </button>
                    )}
                    {problem?.command === command && (
                      <p id="key-problem" role="alert" className="basis-full text-xs text-brick">
                        {problem.says}
                      </p>
                    )}
                  </li>
                );
              })}
            </ul>
          </section>
        ))}
      </div>
    </Setting>
  );
}

/** What the other command of a clash does, in words. */
function sayClash(clash: string, command: string): string {
  const [one = '', other = ''] = clash.replace(/^.*?: /, '').split(' and ');
  const [where = '', name = ''] = (one === command ? other : one).split('.');
  const does = commandsOf(where as Where).find(([known]) => known === name)?.[1];
  return does ? `“${does}”` : 'another command';
}
