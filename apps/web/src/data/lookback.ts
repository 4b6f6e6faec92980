import type { CheckInAnswerInput, CheckInChange, CheckInInput, Done, LedgerPartsQuery, LogLineInput } from '@corvun/contract';
import type { LedgerBy } from '@corvun/core';
import { addressOf } from '@corvun/contract/address';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { doing } from './actions';
import { get, patch, post, remove } from './api';
import { inOrder } from './inOrder';

/** Check-ins come to ask as time goes by; windows are told, this is for one that was asleep. */
const ASK_EVERY = 300_000;
const WEATHER_EVERY = 1_800_000;

interface Days {
  from: string;
  to: string;
}

export const useLog = (day: string) => useQuery({ queryKey: ['log', day], queryFn: () => get('/log', { day }) });

/** The weather of a day on which work outside is; null: none is. */
export const useWeather = (day: string) =>
  useQuery({
    queryKey: ['weather', day],
    queryFn: async () => (await get('/weather', { day })).weather,
    refetchInterval: WEATHER_EVERY,
  });

/** Days on which something with these words was. */
export const useLogFound = (words: string) =>
  useQuery({
    queryKey: ['log', 'find', words],
    queryFn: () => get('/log/find', { q: words }),
    enabled: words !== '',
    placeholderData: keepPreviousData,
  });

export const useTimeLedger = (days: Days, by: LedgerBy) =>
  useQuery({
    queryKey: ['ledger', days.from, days.to, by],
    queryFn: () => get('/ledger', { ...days, by }),
    placeholderData: keepPreviousData,
  });

export const useLedgerParts = (query: LedgerPartsQuery) =>
  useQuery({ queryKey: ['ledger', 'parts', query], queryFn: () => get('/ledger/parts', { ...query }) });

/** Where a table of the ledger is saved from. */
export const tableAt = (days: Days, by: LedgerBy, table: 'times' | 'rows' | 'entries'): string =>
  `/api${addressOf('/ledger/out', { ...days, by, table })}`;
/** Where days are saved from as Markdown. */
export const markdownAt = (days: Days): string => `/api${addressOf('/log/out', { ...days })}`;

export const addLine = (input: LogLineInput) => doing(() => post('/log/lines', input), ['log']);
export const changeLine = (id: string, text: string) => doing(() => patch('/log/lines/:id', { text }, { id }), ['log']);
export const removeLine = (id: string) => doing(() => remove('/log/lines/:id', { id }), ['log']);

export const useCheckIns = () =>
  useQuery({ queryKey: ['checkIns'], queryFn: () => get('/check-ins'), refetchInterval: ASK_EVERY });
export const useCheckInAnswers = (id: string) =>
  useQuery({ queryKey: ['checkIns', id], queryFn: () => get('/check-ins/:id/answers', { id }) });

/** What is wrong is thrown, to be said where it was written. @throws RequestError */
async function telling(work: () => Promise<Done>): Promise<void> {
  useSaid.getState().say((await inOrder(work)).sentence);
}

export const addCheckIn = (input: CheckInInput) => telling(() => post('/check-ins', input));
export const changeCheckIn = (id: string, change: CheckInChange) => telling(() => patch('/check-ins/:id', change, { id }));
export const pauseCheckIn = (id: string, paused: boolean) =>
  doing(() => patch('/check-ins/:id', { paused }, { id }), ['checkIns']);
export const removeCheckIn = (id: string) => doing(() => remove('/check-ins/:id', { id }), ['checkIns']);
export const answerCheckIn = (id: string, input: CheckInAnswerInput) =>
  telling(() => post('/check-ins/:id/answers', input, { id }));
/** Leaves it out for a day. */
export const leaveOutCheckIn = (id: string, day: string) =>
  doing(() => post('/check-ins/:id/answers', { day, answers: {} }, { id }), ['checkIns']);
