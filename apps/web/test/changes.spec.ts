import { QueryObserver } from '@tanstack/react-query';
import { until } from '../../../testing/until';
import { applyChanges } from '../src/data/changes';
import { client } from '../src/data/queries';

it('an answer that was on its way for the first time when something changed is asked for once more', async () => {
  const waiting: ((said: string) => void)[] = [];
  const queryFn = () => new Promise<string>((resolve) => waiting.push(resolve));
  const observer = new QueryObserver(client, { queryKey: ['risks'], queryFn });
  const stop = observer.subscribe(() => undefined);
  await until(() => Promise.resolve(waiting.length === 1), 'it is asked for');
  applyChanges([{ kind: 'mirror', ids: ['m'] }]);
  waiting[0]?.('before');
  await until(() => Promise.resolve(waiting.length === 2), 'it is asked for once more');
  waiting[1]?.('after');
  await until(() => Promise.resolve(client.getQueryData(['risks']) === 'after'), 'it is as it is now');
  stop();
  client.clear();
});
