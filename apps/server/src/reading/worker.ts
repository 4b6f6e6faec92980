import { budgeted } from './budget';
import * as jobs from './jobs';

/** What runs in the threads that read what arrives; see `ReadingPool`. */
export const changed = budgeted(jobs.changed);
export const expanded = budgeted(jobs.expanded);
export const facts = budgeted(jobs.facts);
export const freeBusy = budgeted(jobs.freeBusy);
export const headers = budgeted(jobs.headers);
export const mail = budgeted(jobs.mail);
export const multistatus = budgeted(jobs.multistatus);
export const note = budgeted(jobs.note);
export const objects = budgeted(jobs.objects);
export const shaped = budgeted(jobs.shaped);
export const texts = budgeted(jobs.texts);
export const xml = budgeted(jobs.xml);
export { stream } from './jobs';
