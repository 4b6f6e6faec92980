import type { Settings } from '@corvun/core';
import type { Added, Done, PersonLine, SessionInfo } from './answers';
import type { MailWayInfo, MailWayInput } from './mail-way';
import type { PersonChange, PersonFull, PersonInput, PersonMail, PersonMerge, PersonOpen } from './people';
import type { DaysOffInput, SettingsChange } from './settings-inputs';

/** The routes of people, of settings, and of where one is signed in; a part of the table in `routes.ts`. */
export interface OwnRoutes {
  /** Everybody who is known. */
  'GET /people': { answer: PersonLine[] };
  /** How much is open with whom. */
  'GET /people/open': { answer: PersonOpen[] };
  /** Somebody, with everything that is open with them or was. */
  'GET /people/:id': { answer: PersonFull };
  /** The card of somebody as a file. */
  'GET /people/:id/card': { answer: null; bytes: 'text/vcard' };
  /** Makes somebody known. */
  'POST /people': { body: PersonInput; answer: Added; errors: 'bad-field' };
  /** Changes what is known of somebody. */
  'PATCH /people/:id': { body: PersonChange; answer: Done; errors: 'bad-field' };
  /** Takes the card of somebody away; messages and tasks stay. */
  'DELETE /people/:id': { answer: Done };
  /** Makes one of two cards. */
  'POST /people/:id/merge': { status: 200; body: PersonMerge; answer: Done; errors: 'bad-field' };
  /** Writes to somebody. */
  'POST /people/:id/mail': { status: 200; body: PersonMail; answer: Done; errors: 'bad-field' | 'no-way-out' };

  /** What this user chose, and what is so where nothing was. */
  'GET /settings': { answer: Settings };
  /** Chooses something; what is left out stays. */
  'PATCH /settings': { body: SettingsChange; answer: Done; errors: 'bad-field' };
  /** Adds the whole days to come of a calendar as days off. */
  'POST /settings/days-off': { status: 200; body: DaysOffInput; answer: Done; errors: 'bad-field' };
  /** Sends a mail to the account's own address. */
  'POST /settings/test-mail': { status: 200; answer: Done; errors: 'no-way-out' | 'source-failed' };
  /** How mail leaves. */
  'GET /settings/mail-way': { answer: MailWayInfo };
  /** Sets where mail of this account is handed over, after the server there was spoken to. */
  'PUT /settings/mail-way': { body: MailWayInput; answer: Done; errors: 'bad-field' | 'source-failed' };
  /** Takes it away: the way of the server holds again, where it has one. */
  'DELETE /settings/mail-way': { answer: Done };
  /** Where this user is signed in. */
  'GET /sessions': { answer: SessionInfo[] };
  /** Ends a session. */
  'DELETE /sessions/:id': { status: 204; answer: null };
}
