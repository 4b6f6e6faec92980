import { kindOf } from '../kernel/kind';
import { Booking, MeetPage, Offer, Share } from './others.entities';
import { withoutLink } from './public-link';

export const shareKind = kindOf({
  entity: Share,
  exported: { name: 'shares', order: 'id', later: true },
  words: 'address with this id',
  told: true,
  undo: 'taken-back',
  out: withoutLink,
});

export const meetPageKind = kindOf({
  entity: MeetPage,
  exported: { name: 'meet-pages', order: 'id', later: true },
  words: 'page with this id',
  told: true,
  undo: 'taken-back',
  out: withoutLink,
});

export const bookingKind = kindOf({
  entity: Booking,
  exported: { name: 'bookings', order: 'id', later: true },
  words: 'booking with this id',
  told: true,
  undo: 'taken-back',
  out: withoutLink,
});

export const offerKind = kindOf({
  entity: Offer,
  exported: { name: 'offers', order: 'id', later: true },
  words: 'offer with this id',
  told: true,
  undo: 'taken-back',
  out: withoutLink,
});
