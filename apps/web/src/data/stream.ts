import type { StreamChange } from '@corvun/contract';
import { useEffect } from 'react';
import { useSaid } from '../state/said';
import { useSession } from '../state/session';
import { applyChanges, catchUp, loadAnew } from './changes';
import { ledger } from './ledger';

/**
 * Keeps this window in step with every other: what happened since it was opened is told, and after a break what happened
 * meanwhile.
 * @param revision the number in the log that was known when the first answers came
 */
export function useStream(revision: number): void {
  useEffect(() => {
    ledger.begin(applyChanges, revision);
    const source = new EventSource(`/api/stream?since=${ledger.revision}`);
    const { setOnline } = useSession.getState();
    let broken = false;
    let heard = revision;
    /** The number in the log of a message; one without keeps that of the message before. */
    const numberOf = ({ lastEventId }: MessageEvent): number | null => {
      if (!(Number(lastEventId) > heard)) return null;
      heard = Number(lastEventId);
      return heard;
    };
    source.onopen = () => {
      setOnline(true);
      if (broken) catchUp();
      broken = false;
    };
    source.onerror = () => {
      setOnline(false);
      broken = true;
    };
    source.addEventListener('change', (message: MessageEvent<string>) => {
      const changes = JSON.parse(message.data) as StreamChange[];
      ledger.heard({ revision: numberOf(message), changes });
    });
    source.addEventListener('behind', (message: MessageEvent<string>) => {
      ledger.skipTo(numberOf(message) ?? heard);
      loadAnew();
      useSaid.getState().say('Much has changed meanwhile; everything was loaded anew', 'none');
    });
    return () => source.close();
  }, [revision]);
}
