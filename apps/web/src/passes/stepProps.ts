import type { Me, PassInfo } from '@corvun/contract';

/** What the view of a step takes. */
export interface StepProps {
  me: Me;
  today: string;
  pass: PassInfo;
  /** Goes on to the next step. */
  go: () => void;
}
