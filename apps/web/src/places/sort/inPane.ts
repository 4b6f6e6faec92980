import type { DayInfo, IncomingFull, IncomingLine, Me, Undecided } from '@corvun/contract';
import type { Proposal } from './proposal';
import type { TimeChoice } from './timeChoice';

/** Decides the thing that is open. */
export type DecideThis = (input: Undecided) => Promise<void>;

/** What is open, for the panels of the destinations. */
export interface InPane {
  me: Me;
  today: string;
  line: IncomingLine;
  days: DayInfo[];
  choice: TimeChoice;
  /** Words of the text that were chosen for a day. */
  when: string | undefined;
  incoming: IncomingFull | undefined;
  proposal: Proposal;
  decide: DecideThis;
}
