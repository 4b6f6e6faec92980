import { useState, type InputHTMLAttributes, type ReactNode } from 'react';
import type { Me, SettingsChange } from '@corvun/contract';
import { saysWrong } from '../../data/api';
import { sendChoice, withChoice, withHeld } from '../../data/chosen';
import { client } from '../../data/queries';
import { useSaid } from '../../state/said';
import { SETTINGS, type SettingId } from './sections';

/** Chooses something, and says so. @throws RequestError with what is wrong */
export async function choose(change: SettingsChange, holds = false): Promise<void> {
  if (holds) client.setQueryData<Me>(['me'], (me) => me && withChoice(me, change));
  try {
    const sentence = await sendChoice(change, holds);
    // What was chosen after it and is still on its way stands above it.
    client.setQueryData<Me>(['me'], (me) => me && withHeld(withChoice(me, change)));
    useSaid.getState().say(sentence);
  } finally {
    void client.invalidateQueries({ queryKey: ['me'] });
  }
}

/** Chooses something of which every choice is right: it holds at once, so that the next choice can be made upon it. */
export function chooseFrom(change: SettingsChange): void {
  choose(change, true).catch(useSaid.getState().complain);
}

/** One setting: what it is called, a word on what it changes, and where it is chosen. */
export function Setting({ id, about, children }: { id: SettingId; about: ReactNode; children: ReactNode }): ReactNode {
  const name = SETTINGS.find((one) => one.id === id)?.name;
  return (
    <section aria-labelledby={`${id}-name`} className="border-t border-rule py-4 first-of-type:border-t-0">
      <h3 id={`${id}-name`} tabIndex={-1} className="w-fit font-semibold">
        {name}
      </h3>
      <p id={`${id}-about`} className="mb-2 max-w-[66ch] text-xs text-soft">
        {about}
      </p>
      {children}
    </section>
  );
}

interface KeptFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value'> {
  label: string;
  value: string;
  /** What is chosen by what was written. @throws Error with what is wrong with it */
  read: (text: string) => SettingsChange;
  /** Said below while nothing is wrong. */
  says?: (text: string) => string;
  bare?: boolean;
}

/** A line to write in, kept when it is left or with Enter; Escape gives back what stood there. */
export function KeptField({ label, value, read, says, bare = false, ...input }: KeptFieldProps): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState('');
  const shown = text ?? value;
  const keep = async () => {
    if (text === null || text === value) return setText(null);
    try {
      await choose(read(text));
      setText(null);
      setProblem('');
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  const id = input.id ?? label.replace(/\W+/g, '-').toLowerCase();
  return (
    <div>
      <label htmlFor={id} className={bare ? 'sr-only' : 'block pb-[3px] text-xs text-soft'}>
        {label}
      </label>
      <input
        autoComplete="off"
        className="w-full max-w-[420px] border-b border-soft bg-transparent py-1"
        {...input}
        id={id}
        value={shown}
        aria-invalid={problem !== ''}
        aria-describedby={`${id}-says`}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => void keep()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void keep();
          if (event.key !== 'Escape') return;
          setText(null);
          setProblem('');
        }}
      />
      <p
        id={`${id}-says`}
        role={problem ? 'alert' : undefined}
        className={`min-h-4 text-xs ${problem ? 'text-brick' : 'text-soft'}`}
      >
        {problem || (says?.(shown) ?? '')}
      </p>
    </div>
  );
}

interface ChoicesProps<T extends string | number> {
  /** Of which setting they are the choices. */
  of: SettingId;
  value: T;
  all: readonly (readonly [T, string])[];
  choose: (value: T) => void;
}

/** A few choices side by side, of which one holds. */
function Choices<T extends string | number>({ of, value, all, choose: take }: ChoicesProps<T>): ReactNode {
  return (
    <div
      role="radiogroup"
      aria-labelledby={`${of}-name`}
      aria-describedby={`${of}-about`}
      className="inline-flex flex-wrap border border-rule"
    >
      {all.map(([one, name]) => (
        <label
          key={one}
          className={`relative cursor-pointer border-l border-rule px-3 py-[3px] first:border-l-0 has-focus-visible:outline-2 has-focus-visible:outline-teal ${one === value ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
        >
          <input type="radio" name={of} className="sr-only" checked={one === value} onChange={() => take(one)} />
          {name}
        </label>
      ))}
    </div>
  );
}

/** A setting that is one of a few choices. */
export function ChosenSetting<T extends string | number>({
  about,
  ...choices
}: ChoicesProps<T> & { about: ReactNode }): ReactNode {
  return (
    <Setting id={choices.of} about={about}>
      <Choices {...choices} />
    </Setting>
  );
}
