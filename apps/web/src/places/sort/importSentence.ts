import type { ImportInfo } from '@corvun/contract';
import { useEffect, useState } from 'react';
import { useImports } from '../../data/sources';
import { useSaid } from '../../state/said';

/** Says in one line what became of files that were taken in, as soon as all are read. */
export function useImportSentence(): (ids: string[]) => void {
  const [watched, setWatched] = useState<string[]>([]);
  const imports = useImports();
  useEffect(() => {
    if (!watched.length) return;
    const runs = (imports.data ?? []).filter((run) => watched.includes(run.id));
    if (runs.length < watched.length || runs.some((run) => run.state === 'running')) return;
    setWatched([]);
    const { say, complain } = useSaid.getState();
    const refused = runs.flatMap((run) => run.refused);
    const sum = (key: 'taken' | 'updated' | 'known' | 'refusedCount') =>
      runs.reduce((total, run: ImportInfo) => total + run[key], 0);
    const counted = [
      `${sum('taken')} taken in`,
      sum('updated') ? `${sum('updated')} updated` : '',
      sum('known') ? `${sum('known')} known already` : '',
    ]
      .filter(Boolean)
      .join(', ');
    if (!refused.length) return say(counted, 'none');
    const reasons = refused.slice(0, 3).map((one) => `${one.file}${one.at ? `, ${one.at}` : ''}: ${one.reason}`);
    const more = sum('refusedCount') - reasons.length;
    complain(
      new Error(`${counted}. Refused: ${reasons.join(' ')}${more > 0 ? ` And ${more} more, on Sources under Files.` : ''}`),
    );
  }, [imports.data, watched]);
  return setWatched;
}
