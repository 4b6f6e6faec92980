import type { Me } from '@corvun/contract';
import { useState, type FormEvent, type ReactNode } from 'react';
import { post, RequestError } from '../../data/api';
import { client } from '../../data/queries';
import { Field } from '../../parts/Field';
import { useSaid } from '../../state/said';
import { button, primary } from '../sources/common';

const BLANK = { present: '', wanted: '', again: '' };

/** The password, and where one is signed in. */
export function AccountPlace({ me }: { me: Me }): ReactNode {
  return (
    <div className="flex h-full flex-col overflow-y-auto">
      <div className="mx-auto w-full max-w-[520px] px-6 pt-6 pb-16 max-md:px-4">
        <h1 className="font-head text-lg font-semibold tracking-tight">Account</h1>
        <p className="mt-1 text-soft">
          {me.name}, <span className="break-all select-text">{me.email}</span>
        </p>
        <Password />
        <section aria-labelledby="sessions" className="mt-8">
          <h2 id="sessions" className="font-head text-md font-semibold">
            Signed in
          </h2>
          <p className="mt-1 text-soft">
            Ends every session, this one too: on a machine that was lost, nobody gets in any more. Tokens of programs stay; they
            are withdrawn one by one on Sources.
          </p>
          <button
            type="button"
            className={`${button} mt-3`}
            onClick={() =>
              void post('/session/everywhere', undefined)
                .then(() => client.clear())
                .then(() => window.location.assign('/'))
                .catch((problem: unknown) => useSaid.getState().complain(problem))
            }
          >
            Sign out everywhere
          </button>
        </section>
      </div>
    </div>
  );
}

function Password(): ReactNode {
  const [fields, setFields] = useState(BLANK);
  const [problems, setProblems] = useState<Record<string, string>>({});
  const change = (name: keyof typeof BLANK) => (value: string) => setFields((before) => ({ ...before, [name]: value }));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (fields.wanted !== fields.again) return setProblems({ again: 'This is not the same as above.' });
    try {
      await post('/password', { present: fields.present, wanted: fields.wanted });
      setFields(BLANK);
      setProblems({});
      useSaid.getState().say('The password is changed; every other session is ended', 'none');
    } catch (problem) {
      const said = problem instanceof RequestError && Object.keys(problem.fields).length ? problem.fields : null;
      setProblems(said ?? {});
      if (!said) useSaid.getState().complain(problem);
    }
  };
  const field = (name: keyof typeof BLANK, label: string, autoComplete: string) => (
    <Field
      id={`password-${name}`}
      label={label}
      type="password"
      autoComplete={autoComplete}
      value={fields[name]}
      change={change(name)}
      says={problems[name] ?? ''}
      wrong={problems[name] !== undefined}
    />
  );
  return (
    <section aria-labelledby="password" className="mt-6">
      <h2 id="password" className="font-head text-md font-semibold">
        Password
      </h2>
      <form className="mt-2" noValidate onSubmit={(event) => void submit(event)}>
        {field('present', 'The present one', 'current-password')}
        {field('wanted', 'The new one, at least 10 characters', 'new-password')}
        {field('again', 'The new one once more', 'new-password')}
        <button type="submit" className={`${primary} mt-2`}>
          Change the password
        </button>
      </form>
    </section>
  );
}
