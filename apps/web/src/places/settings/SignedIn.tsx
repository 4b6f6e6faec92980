import type { Me } from '@corvun/contract';
import { PasswordInput } from '@corvun/contract/inputs';
import type { ReactNode } from 'react';
import { dayOf, sayDay } from '@corvun/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { get, post, remove } from '../../data/api';
import { client } from '../../data/queries';
import { FormProblem, RuledField, useRuled, wrong } from '../../parts/form';
import { useNow } from '../../parts/useNow';
import { useSaid } from '../../state/said';
import { button, primary, quiet } from '../sources/common';
import { Setting } from './Setting';

/** The password, and where one is signed in. */
export function SignedIn({ me }: { me: Me }): ReactNode {
  return (
    <>
      <Setting id="password" about={`Of ${me.email}. Changing it ends every other session.`}>
        <Password />
      </Setting>
      <Setting
        id="sessions"
        about="Ends a session on a machine that was lost: nobody gets in there any more. Tokens of programs stay."
      >
        <Sessions me={me} />
      </Setting>
      <Setting id="tokens" about="Programs, the command line and the extension get in with a token; each is withdrawn by itself.">
        <Link to="/sources" className={quiet}>
          Tokens are made and withdrawn on Sources
        </Link>
      </Setting>
    </>
  );
}

function Sessions({ me }: { me: Me }): ReactNode {
  const sessions = useQuery({ queryKey: ['sessions'], queryFn: () => get('/sessions') });
  const now = useNow();
  const complain = (problem: unknown) => useSaid.getState().complain(problem);
  return (
    <>
      <ul aria-label="Sessions" className="mb-3 max-w-[520px]">
        {sessions.data?.map(({ id, name, created, present }) => (
          <li key={id} className="flex items-baseline gap-3 border-t border-rule py-1 first:border-t-0">
            <span className="min-w-0 flex-1">
              {name.charAt(0).toUpperCase()}
              {name.slice(1)}
            </span>
            <span className="text-xs text-soft">since {sayDay(created.slice(0, 10), dayOf(now, me.zone))}</span>
            {present ? (
              <span className="w-[72px] text-right text-xs text-soft">this one</span>
            ) : (
              <button
                type="button"
                className={`${quiet} w-[72px] text-right`}
                aria-label={`End the session of the ${name} since ${created.slice(0, 16).replace('T', ' ')}`}
                onClick={() =>
                  void remove('/sessions/:id', { id })
                    .then(() => client.invalidateQueries({ queryKey: ['sessions'] }))
                    .then(() => useSaid.getState().say('The session is ended', 'none'))
                    .catch(complain)
                }
              >
                end it
              </button>
            )}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className={button}
        onClick={() =>
          void post('/session/everywhere', undefined)
            .then(() => client.clear())
            .then(() => window.location.assign('/'))
            .catch(complain)
        }
      >
        Sign out everywhere
      </button>
    </>
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
    <form className="max-w-[420px] space-y-1" noValidate onSubmit={submit}>
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
  );
}
