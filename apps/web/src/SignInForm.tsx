import { AccountInput, SignInInput } from '@corvun/contract/inputs';
import type { ReactNode } from 'react';
import { post } from './data/api';
import { Brand } from './parts/Brand';
import { FormProblem, RuledField, useRuled } from './parts/form';

interface Fields {
  name: string;
  email: string;
  password: string;
}

/** Sign-in, or the first account of a new Corvun. */
export function SignInForm({ first, done }: { first: boolean; done: () => Promise<void> }): ReactNode {
  const { form, submit } = useRuled<Fields>(
    first ? AccountInput : SignInInput,
    { name: '', email: '', password: '' },
    async ({ name, email, password }) => {
      if (first) await post('/account', { name, email, password, zone: Intl.DateTimeFormat().resolvedOptions().timeZone });
      else await post('/session', { email, password });
      await done();
    },
  );
  return (
    <main className="grid h-full place-items-center p-6">
      <form className="w-full max-w-[340px] space-y-2 border border-rule bg-card p-6" onSubmit={submit} noValidate>
        <div className="mb-4 flex items-center gap-3">
          <Brand />
          <h1 className="font-head text-lg font-semibold">{first ? 'Make your account' : 'Sign in'}</h1>
        </div>
        {first && <RuledField form={form} name="name" label="Your name" autoComplete="name" />}
        <RuledField form={form} name="email" label="Mail address" type="email" autoComplete="username" />
        <RuledField
          form={form}
          name="password"
          label={first ? 'Password, at least 10 characters' : 'Password'}
          type="password"
          autoComplete={first ? 'new-password' : 'current-password'}
        />
        <FormProblem form={form} />
        <button type="submit" className="w-full bg-teal px-3 py-2 font-semibold text-on-teal">
          {first ? 'Make the account' : 'Sign in'}
        </button>
      </form>
    </main>
  );
}
