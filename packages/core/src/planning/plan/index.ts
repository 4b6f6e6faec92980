export { planStretch } from './plan';
export { costOfPlan, faultOf } from './cost';
export { leastCost } from './bound';
export { MOST_DAYS, MOST_TASKS, ProblemError, readDemands, readProblem } from './readProblem';
export { sayMend, sayWhyNot } from './sayUnplaced';
export type { SayingOf } from './sayUnplaced';
export { PRICES } from './problem';
export type { KeptBlock, Mend, Plan, PlanBlock, PlanInput, PlanTask, Unplaced, UnplacedWhy } from './problem';
