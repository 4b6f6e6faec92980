import type { PersonChange, PersonInput, PersonLine, PersonMail } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { doing } from './actions';
import { get, patch, post, remove } from './api';
import { inOrder } from './inOrder';
import { usePeople } from './queries';

export const usePerson = (id: string) => useQuery({ queryKey: ['person', id], queryFn: () => get('/people/:id', { id }) });

/** What is open with whom; asked whenever the people are looked at. */
export const useOpenWith = () =>
  useQuery({
    queryKey: ['people', 'open'],
    queryFn: () => get('/people/open'),
    staleTime: 0,
    select: (all) => new Map(all.map((one) => [one.id, one])),
  });

/** @throws RequestError with what is wrong, at its fields */
export async function changePerson(id: string, change: PersonChange): Promise<void> {
  const { sentence } = await inOrder(() => patch('/people/:id', change, { id }));
  useSaid.getState().say(sentence);
}

/** @throws RequestError with what is wrong, at its fields */
export async function addPerson(input: PersonInput): Promise<string> {
  const { sentence, id } = await inOrder(() => post('/people', input));
  useSaid.getState().say(sentence);
  return id;
}

export const removePerson = (id: string) => doing(() => remove('/people/:id', { id }), ['people', 'person']);
export const mergePeople = (id: string, other: string) =>
  doing(() => post('/people/:id/merge', { other }, { id }), ['people', 'person']);
export const mailPerson = (id: string, mail: PersonMail) => doing(() => post('/people/:id/mail', mail, { id }), ['person']);

/** Whoever has an address, among those who are known. */
export function useKnown(address: string): PersonLine | undefined {
  const people = usePeople();
  const wanted = address.toLowerCase();
  return wanted ? people.data?.find((one) => one.address === wanted || one.addresses.includes(wanted)) : undefined;
}

/** People whose name, address or organisation has each of the words. */
export function peopleLike(people: readonly PersonLine[], text: string): PersonLine[] {
  const words = text.toLowerCase().match(/[\p{L}\d@.-]{2,}/gu) ?? [];
  if (!words.length) return [];
  return people.filter(({ name, address, addresses, organisation }) => {
    const own = [name, address, organisation, ...addresses].join(' ').toLowerCase();
    return words.every((word) => own.includes(word));
  });
}
