import type { Added, Done } from './answers';
import type { MirrorEnd, MirrorInfo, MirrorInput } from './mirrors';
import type { Booked, OthersInfo, PublicBooking, PublicMeet, PublicOffer } from './others';
import type {
  BookingInput,
  BookingMove,
  BookingProof,
  MeetPageChange,
  MeetPageInput,
  MeetQuery,
  OfferInput,
  OfferTake,
  ShareInput,
} from './others-inputs';

/** The routes of what others can see or choose; a part of the table in `routes.ts`. */
export interface OthersRoutes {
  /** Everything that others can see or choose. */
  'GET /others': { answer: OthersInfo };
  /** Publishes a calendar at a secret address. */
  'POST /shares': { body: ShareInput; answer: Added; errors: 'bad-field' };
  /** Gives it another address; the one before shows nothing any more. */
  'POST /shares/:id/renew': { status: 200; answer: Done };
  /** Withdraws it. */
  'DELETE /shares/:id': { answer: Done };

  /** What of which calendar stands in which other one, too. */
  'GET /mirrors': { answer: MirrorInfo[] };
  /** Mirrors a calendar into another: one copy each, followed through changes and cancellations. */
  'POST /mirrors': { body: MirrorInput; answer: Added; errors: 'bad-field' | 'not-ours' };
  /** Ends a mirror. */
  'DELETE /mirrors/:id': { query: MirrorEnd; answer: Done };

  /** Makes a page on which others choose a free time. */
  'POST /meet-pages': { body: MeetPageInput; answer: Added; errors: 'bad-field' };
  /** Changes its rules; what is booked stays. */
  'PATCH /meet-pages/:id': { body: MeetPageChange; answer: Done; errors: 'bad-field' };
  /** Gives it another address. */
  'POST /meet-pages/:id/renew': { status: 200; answer: Done };
  /** Takes the page away; what is booked stays in the calendar. */
  'DELETE /meet-pages/:id': { answer: Done };

  /** Holds some times and offers them to somebody. */
  'POST /offers': { body: OfferInput; answer: Added; errors: 'bad-field' };
  /** Withdraws an offer and gives its times back; one that was taken stays in the calendar. */
  'DELETE /offers/:id': { answer: Done };

  /** What a visitor of a meet-me page sees. */
  'GET /public/meet/:link': { open: true; query: MeetQuery; answer: PublicMeet; errors: 'not-found' | 'bad-field' | 'too-many' };
  /** Takes one of its times. `present` of `slot-taken`: what is left. */
  'POST /public/meet/:link': {
    open: true;
    body: BookingInput;
    answer: Booked;
    errors: 'not-found' | 'bad-field' | 'slot-taken' | 'too-many';
  };
  /** What was booked, for whoever has booked it. */
  'GET /public/bookings/:link': { open: true; answer: PublicBooking; errors: 'not-found' | 'too-many' };
  /** Moves it to another free time. */
  'POST /public/bookings/:link': {
    open: true;
    status: 200;
    body: BookingProof;
    answer: PublicBooking;
    errors: 'not-found' | 'too-many';
  };
  'PATCH /public/bookings/:link': {
    open: true;
    body: BookingMove;
    answer: PublicBooking;
    errors: 'not-found' | 'slot-taken' | 'too-many';
  };
  /** Cancels it. */
  'DELETE /public/bookings/:link': { open: true; answer: PublicBooking; errors: 'not-found' | 'too-many' };
  /** What a visitor sees of offered times. */
  'GET /public/offers/:link': { open: true; answer: PublicOffer; errors: 'not-found' | 'too-many' };
  /** Takes one of them; the others are given back. */
  'POST /public/offers/:link': {
    status: 200;
    open: true;
    body: OfferTake;
    answer: PublicOffer;
    errors: 'not-found' | 'slot-taken' | 'too-many';
  };
}
