import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { get, post, RequestError } from './data/api';
import { client } from './data/queries';
import { Brand } from './parts/Brand';
import { Waiting } from './parts/states';

const reload = () => client.invalidateQueries({ queryKey: ['me'] });

/** Sign-in, or the first account of a new Corvun. In the demo the demo user is signed in at once. */
export function SignIn(): ReactNode {
  const options = useQuery({ queryKey: ['sign-in'], queryFn: () => get('/session'), staleTime: 0 });
  const demo = options.data?.demo === true;
  useEffect(() => {
    if (demo) void post('/session/demo', undefined).then(reload);
  }, [demo]);
  if (!options.data || demo) return <Waiting what="Signing in" />;
  return <SignInForm first={options.data.firstAccount} />;
}

function SignInForm({ first }: { first: boolean }): ReactNode {
  const [problem, setProblem] = useState<RequestError | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const field = (name: string) => {
      const value = form.get(name);
      return typeof value === 'string' ? value : '';
    };
    const fields = { name: field('name'), email: field('email'), password: field('password') };
    try {
      const { name, email, password } = fields;
      if (first) await post('/account', { name, email, password, zone: Intl.DateTimeFormat().resolvedOptions().timeZone });
      else await post('/session', { email, password });
      await reload();
    } catch (failure) {
      setProblem(failure instanceof RequestError ? failure : new RequestError(0, 'failed', 'This did not work. Try again.'));
    }
  };
  return (
    <main className="grid h-full place-items-center p-6">
      <form className="w-full max-w-[340px] border border-rule bg-card p-6" onSubmit={(event) => void submit(event)} noValidate>
        <div className="mb-4 flex items-center gap-3">
          <Brand />
          <h1 className="font-head text-lg font-semibold">{first ? 'Make your account' : 'Sign in'}</h1>
        </div>
        {first && <Field name="name" label="Your name" autoComplete="name" problem={problem?.fields['name']} />}
        <Field name="email" label="Mail address" type="email" autoComplete="username" problem={problem?.fields['email']} />
        <Field
          name="password"
          label={first ? 'Password, at least 10 characters' : 'Password'}
          type="password"
          autoComplete={first ? 'new-password' : 'current-password'}
          problem={problem?.fields['password']}
        />
        {problem && Object.keys(problem.fields).length === 0 && (
          <p role="alert" className="mb-3 text-brick">
            {problem.message}
          </p>
        )}
        <button type="submit" className="w-full bg-teal px-3 py-2 font-semibold text-on-teal">
          {first ? 'Make the account' : 'Sign in'}
        </button>
      </form>
    </main>
  );
}

function Field({
  name,
  label,
  problem,
  type = 'text',
  autoComplete,
}: {
  name: string;
  label: string;
  problem: string | undefined;
  type?: string;
  autoComplete: string;
}): ReactNode {
  return (
    <div className="mb-3">
      <label className="block text-xs text-soft" htmlFor={name}>
        {label}
      </label>
      <input
        id={name}
        name={name}
        type={type}
        autoComplete={autoComplete}
        aria-invalid={problem !== undefined}
        aria-describedby={problem ? `${name}-problem` : undefined}
        className="w-full border-b border-soft bg-transparent py-1"
      />
      {problem && (
        <p id={`${name}-problem`} className="mt-1 text-xs text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}
