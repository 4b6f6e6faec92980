import type { DataJob } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { get, patch, post, remove } from './api';
import { client } from './queries';

/** While something is going on the stream tells how far it is; asking now and then covers a broken line. */
const ASK_EVERY = 2000;

export const useData = () =>
  useQuery({
    queryKey: ['data'],
    queryFn: () => get('/data'),
    staleTime: 0,
    refetchInterval: ({ state }) => (state.data?.job?.state === 'running' ? ASK_EVERY : false),
  });

async function act<T>(work: () => Promise<T>, said = ''): Promise<T | null> {
  try {
    const answer = await work();
    if (said) useSaid.getState().say(said, 'none');
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    return null;
  } finally {
    await client.invalidateQueries({ queryKey: ['data'] });
  }
}

export const beginBackup = (withKeys: boolean) => act(() => post('/data/backups', { withKeys }));
export const removeBackup = (name: string) => act(() => remove('/data/backups/:id', { id: name }), 'The backup is gone');
export const setKeep = (keep: number) => act(() => patch('/data', { keep }), `${keep} daily backups are kept`);
export const beginCheck = () => act(() => post('/data/verify', undefined));

/** Reads an export in. @param file a tar archive */
export function readExport(file: File): Promise<DataJob | null> {
  const form = new FormData();
  form.append('file', file, file.name);
  return act(() => post('/data/import', form));
}
