import type { Me } from '@corvun/contract';
import { PasswordInput } from '@corvun/contract/inputs';
import type { ReactNode } from 'react';
import { post } from '../../data/api';
import { client } from '../../data/queries';
import { FormProblem, RuledField, useRuled, wrong } from '../../parts/form';
import { useSaid } from '../../state/said';
import { button, primary } from '../sources/common';

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

interface Fields {
  present: string;
  wanted: string;
  again: string;
}

const BLANK: Fields = { present: '', wanted: '', again: '' };

function Password(): ReactNode {
  const { form, submit } = useRuled<Fields>(PasswordInput, BLANK, async ({ present, wanted, again }, { reset }) => {
    if (wanted !== again) throw wrong<Fields>('again', 'This is not the same as above.');
    await post('/password', { present, wanted });
    reset(BLANK);
    useSaid.getState().say('The password is changed; every other session is ended', 'none');
  });
  return (
    <section aria-labelledby="password" className="mt-6">
      <h2 id="password" className="font-head text-md font-semibold">
        Password
      </h2>
      <form className="mt-2 space-y-1" noValidate onSubmit={submit}>
        <RuledField form={form} name="present" label="The present one" type="password" autoComplete="current-password" />
        <RuledField
          form={form}
          name="wanted"
          label="The new one, at least 10 characters"
          type="password"
          autoComplete="new-password"
        />
        <RuledField form={form} name="again" label="The new one once more" type="password" autoComplete="new-password" />
        <FormProblem form={form} />
        <button type="submit" className={`${primary} mt-2`}>
          Change the password
        </button>
      </form>
    </section>
  );
}
