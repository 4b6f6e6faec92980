import type { MeetPageChange, MeetPageInput, OfferInput, ShareInput } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { doing } from './actions';
import { get, patch, post, remove } from './api';

const SHOWN = ['others'];

export const useOthers = () => useQuery({ queryKey: SHOWN, queryFn: () => get('/others') });

export const addShare = (share: ShareInput) => doing(() => post('/shares', share), SHOWN);
export const renewShare = (id: string) => doing(() => post('/shares/:id/renew', undefined, { id }), SHOWN);
export const removeShare = (id: string) => doing(() => remove('/shares/:id', { id }), SHOWN);

/** @throws RequestError with what is wrong at which field */
export const addPage = (page: MeetPageInput) => post('/meet-pages', page);
export const changePage = (id: string, page: MeetPageChange) => patch('/meet-pages/:id', page, { id });
export const renewPage = (id: string) => doing(() => post('/meet-pages/:id/renew', undefined, { id }), SHOWN);
export const removePage = (id: string) => doing(() => remove('/meet-pages/:id', { id }), SHOWN);

export const addOffer = (offer: OfferInput) => doing(() => post('/offers', offer), [...SHOWN, 'days']);
export const removeOffer = (id: string) => doing(() => remove('/offers/:id', { id }), [...SHOWN, 'days']);
