import type { StreamChange } from '@corvun/contract';
import { useEffect } from 'react';
import { useSession } from '../state/session';
import { applyIncoming } from './inbox';
import { client } from './queries';

const KEYS: Record<StreamChange['kind'], string[][]> = {
  incoming: [],
  task: [['tasks'], ['lists'], ['days']],
  list: [['lists']],
  tag: [['tags']],
  calendar: [['calendars'], ['days']],
  event: [['days']],
  block: [['days'], ['tasks']],
  decision: [],
  person: [['people']],
  note: [['notes'], ['note']],
  source: [['sources'], ['calendars']],
  outbox: [['outbox'], ['sources']],
  import: [['imports']],
  data: [['data']],
};

/** Keeps this window in step with every other: what changed is fetched again as soon as the server tells. */
export function useStream(): void {
  useEffect(() => {
    const source = new EventSource('/api/stream');
    const { setOnline } = useSession.getState();
    source.onopen = () => {
      setOnline(true);
      // What happened before the line was open was not told.
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'me' });
    };
    source.onerror = () => {
      setOnline(false);
    };
    source.addEventListener('change', (message: MessageEvent<string>) => {
      const changes = JSON.parse(message.data) as StreamChange[];
      const keys = new Map(changes.flatMap((change) => KEYS[change.kind]).map((key) => [key.join(), key]));
      for (const key of keys.values()) void client.invalidateQueries({ queryKey: key });
      const incoming = changes.filter((change) => change.kind === 'incoming').flatMap((change) => change.ids);
      for (const id of incoming) void client.invalidateQueries({ queryKey: ['incoming', id] });
      if (incoming.length) void applyIncoming(incoming);
    });
    return () => source.close();
  }, []);
}
