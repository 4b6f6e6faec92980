import { propose, type Proposed, type Stretch } from '@corvun/core';

/** What runs in the thread that plans; see `PlanningPool`. */
export const plan = ({ stretch, most }: { stretch: Stretch; most?: number }): Proposed => propose(stretch, most);
