import { kindOf } from '../kernel/kind';
import { DayPlan } from './day-plan.entity';
import { Pass } from './pass.entity';
import { Shortlist } from './shortlist.entity';

export const dayPlanKind = kindOf({
  entity: DayPlan,
  exported: { name: 'day-plans', order: 'day', later: true },
  words: 'plan of this day',
  told: true,
  undo: 'taken-back',
});

export const passKind = kindOf({
  entity: Pass,
  exported: { name: 'passes', order: 'id', later: true },
  words: 'pass with this id',
  told: true,
  undo: 'taken-back',
});

export const shortlistKind = kindOf({
  entity: Shortlist,
  exported: { name: 'shortlists', order: 'id', later: true },
  words: 'shortlist',
  told: true,
  undo: 'taken-back',
});
