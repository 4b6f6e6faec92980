import { planStretch, type Plan, type PlanInput } from '@corvun/core';

/** What runs in the thread that plans; see `PlanningPool`. */
export const plan = (input: PlanInput): Plan => planStretch(input);
