import type { Me } from '@corvun/contract';
import { readStretches } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { RequestError } from '../../data/api';
import { client } from '../../data/queries';
import { Brand } from '../../parts/Brand';
import { Field } from '../../parts/Field';
import { useNow } from '../../parts/useNow';
import { KIND_NAMES } from '../sources/common';
import { button, primary } from '../sources/common';
import { MailOut } from './MailOut';
import { choose } from './Setting';
import { ZONES, clockIn } from './zones';

const WORKING_DAYS = [1, 2, 3, 4, 5];
const KINDS = Object.entries(KIND_NAMES);

/** The first questions of a new account, on two pages; each can be left as it is, and all can be skipped. */
export function Begin({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const [source, setSource] = useState<string | null>(null);
  const begin = async (from: string) => {
    await choose({ begun: true });
    await navigate(from ? `/sources/add/${from}` : '/sort', { replace: true });
    // No window listens to changes yet: the first does when this page is gone.
    await client.invalidateQueries({ queryKey: ['me'] });
  };
  return (
    <main className="grid h-full place-items-center overflow-y-auto p-6">
      <div className="w-full max-w-[440px]">
        <Brand />
        {source === null ? (
          <Free me={me} next={setSource} skip={() => void begin('')} />
        ) : (
          <>
            <h1 ref={focused} tabIndex={-1} className="mt-4 font-head text-lg font-semibold tracking-tight outline-none">
              How does your mail leave?
            </h1>
            <p className="mt-1 mb-4 text-soft">
              Answers to messages and invitations go out by it. Without it everything else works, and each place says that nothing
              can be sent.
            </p>
            <MailOut me={me} />
            <div className="mt-4 flex gap-3 border-t border-rule pt-4">
              <button type="button" className={primary} onClick={() => void begin(source)}>
                {source ? 'Begin, and connect it' : 'Begin'}
              </button>
            </div>
          </>
        )}
      </div>
    </main>
  );
}

const focused = (heading: HTMLHeadingElement | null) => heading?.focus();

/** With what Corvun knows what is free. */
function Free({ me, next, skip }: { me: Me; next: (source: string) => void; skip: () => void }): ReactNode {
  const now = useNow();
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone || me.zone);
  const [hours, setHours] = useState('9:00–17:30');
  const [source, setSource] = useState('');
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setWrong({});
    let stretches: string[];
    try {
      stretches = readStretches(hours);
    } catch (problem) {
      return setWrong({ hours: problem instanceof Error ? problem.message : '' });
    }
    try {
      await choose({ zone: zone.trim(), hours: Object.fromEntries(WORKING_DAYS.map((day) => [day, stretches])) });
      next(source);
    } catch (problem) {
      const fields = problem instanceof RequestError ? problem.fields : {};
      const says = problem instanceof Error ? problem.message : 'This could not be kept.';
      setWrong(Object.keys(fields).length ? fields : { form: says });
    }
  };
  return (
    <form noValidate onSubmit={(event) => void submit(event)}>
      <h1 className="mt-4 font-head text-lg font-semibold tracking-tight">Before the first message, {me.name.split(' ')[0]}</h1>
      <p className="mt-1 mb-4 text-soft">With these Corvun knows what is free. All of it can be changed in the settings.</p>
      <Field
        id="begin-zone"
        label="Your time zone"
        list="begin-zones"
        value={zone}
        change={setZone}
        spellCheck={false}
        wrong={Boolean(wrong['zone'])}
        says={wrong['zone'] ?? clockIn(zone.trim(), now)}
      />
      <datalist id="begin-zones">
        {ZONES.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <Field
        id="begin-hours"
        label="Your working hours, Monday to Friday"
        value={hours}
        change={setHours}
        wrong={Boolean(wrong['hours'])}
        says={wrong['hours'] ?? 'A pause is written with a comma: 9–12, 12:45–17:30'}
      />
      <label htmlFor="begin-source" className="mt-2 block pb-[3px] text-xs text-soft">
        Where does most of your work come from?
      </label>
      <select
        id="begin-source"
        className="w-full border-b border-soft bg-paper py-1"
        value={source}
        onChange={(event) => setSource(event.target.value)}
      >
        <option value="">I connect nothing yet</option>
        {KINDS.map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </select>
      <p role="alert" className="mt-2 min-h-5 text-brick">
        {wrong['form']}
      </p>
      <div className="mt-2 flex gap-3">
        <button type="submit" className={primary}>
          Go on
        </button>
        <button type="button" className={button} onClick={skip}>
          Skip
        </button>
      </div>
    </form>
  );
}
