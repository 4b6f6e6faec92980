import type { ImportInfo, SourceChange, SourceInput, SourceSettings, TokenMade } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { get, patch, post, remove } from './api';
import { client } from './queries';

export const useSources = () => useQuery({ queryKey: ['sources'], queryFn: () => get('/sources') });
export const useNear = () => useQuery({ queryKey: ['sources', 'near'], queryFn: () => get('/sources/near') });
export const useOutbox = () => useQuery({ queryKey: ['outbox'], queryFn: () => get('/outbox') });
export const useImports = () => useQuery({ queryKey: ['imports'], queryFn: () => get('/imports') });
export const useTokens = () => useQuery({ queryKey: ['tokens'], queryFn: () => get('/tokens') });

/** Does something, brings the lists up to date, and says what went wrong; null when it was refused. */
async function act<T>(work: () => Promise<T>, said: string | ((answer: T) => string), ...keys: string[]): Promise<T | null> {
  try {
    const answer = await work();
    const text = typeof said === 'string' ? said : said(answer);
    if (text) useSaid.getState().say(text, 'none');
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    return null;
  } finally {
    await Promise.all(keys.map((key) => client.invalidateQueries({ queryKey: [key] })));
  }
}

export const lookAt = (input: SourceInput) => post('/sources/look', input);
export const lookAgain = (id: string, settings: SourceSettings) => post('/sources/:id/look', settings, { id });
export const addSource = (input: SourceInput) => post('/sources', input);
export const changeSource = (id: string, change: SourceChange, said = '') =>
  act(() => patch('/sources/:id', change, { id }), said, 'sources', 'outbox');
/** Changes what a source brings in and how it is reached. @throws RequestError, for the form that asked */
export async function saveSource(id: string, change: SourceChange, said: string): Promise<void> {
  await patch('/sources/:id', change, { id });
  useSaid.getState().say(said, 'none');
  await Promise.all(['sources', 'outbox'].map((key) => client.invalidateQueries({ queryKey: [key] })));
}
export const runSource = (id: string) => act(() => post('/sources/:id/run', undefined, { id }), '', 'sources');
export const removeSource = (id: string) =>
  act(
    () => remove('/sources/:id', { id }),
    (answer) => answer.sentence,
    'sources',
    'outbox',
    'inbox',
    'calendars',
    'days',
  );

export const sendNow = (id: string) => act(() => post('/outbox/:id/now', undefined, { id }), 'It is tried again now', 'outbox');
export const giveUp = (id: string) =>
  act(() => post('/outbox/:id/give-up', undefined, { id }), 'It is given up; what stands there stays', 'outbox', 'sources');

export const settle = (id: string, keep: 'here' | 'there') =>
  act(
    () => post('/incoming/:id/settle', { keep }, { id }),
    (answer) => answer.sentence,
    'tasks',
    'inbox',
  );
export const replyTo = (id: string, text: string) =>
  act(
    () => post('/incoming/:id/reply', { text }, { id }),
    (answer) => answer.sentence,
    'outbox',
  );

export const setColumns = (id: string, columns: string[]) => post('/imports/:id/columns', { columns }, { id });
export const stopImport = (id: string) => act(() => post('/imports/:id/stop', undefined, { id }), '', 'imports');
export const resumeImport = (id: string) => act(() => post('/imports/:id/resume', undefined, { id }), '', 'imports');
export const forgetImport = (id: string) => act(() => remove('/imports/:id', { id }), '', 'imports');

/** Makes a token. @throws RequestError, for the form that asked */
export async function addToken(name: string, may: TokenMade['may']): Promise<TokenMade> {
  const made = await post('/tokens', { name, may });
  await client.invalidateQueries({ queryKey: ['tokens'] });
  return made;
}
export const removeToken = (id: string) =>
  act(() => remove('/tokens/:id', { id }), 'The token no longer opens anything', 'tokens');

/** Sends files in; what becomes of them is told on Sources, under Files. */
export async function beginImport(files: Iterable<File>): Promise<ImportInfo[] | null> {
  const form = new FormData();
  for (const file of files) form.append('files', file, file.name);
  return act(() => post('/imports', form), '', 'imports');
}
