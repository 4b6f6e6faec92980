import { kindOf } from '../kernel/kind';
import { Grace, SiteHold } from './quiet.entities';

export const siteHoldKind = kindOf({
  entity: SiteHold,
  exported: { name: 'site-holds', order: 'id', later: true },
  words: 'holding back of sites with this id',
  told: true,
  undo: 'taken-back',
});

export const graceKind = kindOf({
  entity: Grace,
  exported: { name: 'graces', order: 'id', later: true },
  words: 'look at a site with this id',
  told: true,
  undo: 'taken-back',
});
