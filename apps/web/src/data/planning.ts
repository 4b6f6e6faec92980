import type { PlanTaking, ProposalQuery } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { doing } from './actions';
import { get, post } from './api';

/** What was safe an hour ago may not be now. */
const AGAIN = 5 * 60_000;

/** Every deadline in sight with its last safe start. */
export const useRisks = () =>
  useQuery({ queryKey: ['risks'], queryFn: async () => (await get('/plan/risks')).risks, refetchInterval: AGAIN });

export const propose = (query: ProposalQuery) => get('/plan/proposal', query);
export const takePlan = (taking: PlanTaking) => doing(() => post('/plan/taking', taking), ['days', 'tasks', 'risks']);
