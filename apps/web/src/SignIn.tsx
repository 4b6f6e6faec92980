import { useQuery } from '@tanstack/react-query';
import { useEffect, type ReactNode } from 'react';
import { get, post } from './data/api';
import { client } from './data/queries';
import { Part, later } from './parts/later';
import { Waiting } from './parts/states';
import { NotLoaded } from './places';

/** Not needed where one is signed in at once. */
const FORM = later(async () => (await import('./SignInForm')).SignInForm);

const reload = () => client.invalidateQueries({ queryKey: ['me'] });

/** Sign-in, or the first account of a new Corvun. In the demo the demo user is signed in at once. */
export function SignIn(): ReactNode {
  const options = useQuery({ queryKey: ['sign-in'], queryFn: () => get('/session'), staleTime: 0 });
  const demo = options.data?.demo === true;
  useEffect(() => {
    if (demo) void post('/session/demo', undefined).then(reload);
  }, [demo]);
  if (!options.data || demo) return <Waiting what="Signing in" />;
  return (
    <Part
      of={FORM}
      with={{ first: options.data.firstAccount, done: reload }}
      meanwhile={<Waiting what="Signing in" />}
      failed={<NotLoaded />}
    />
  );
}
