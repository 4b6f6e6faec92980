/** What the tracker's HTTP interface gives (docs/sources/tracker.md). */
export interface Board {
  id: string;
  name: string;
  statuses: { id: string; name: string }[];
}

export interface Card {
  id: string;
  board: string;
  title: string;
  text: string;
  status: string;
  assignee: string | null;
  labels: string[];
  /** Minutes. */
  estimate: number | null;
  due: string | null;
  checklist: { id: string; text: string; done: boolean }[];
  comments: { by: string; at: string; text: string }[];
  url: string;
  /** Grows with every change on the tracker. */
  rev: number;
  changed: string;
  deleted?: boolean;
}

export interface CardPage {
  cards: Card[];
  /** Revision to ask after next time. */
  next: number;
  more: boolean;
  total: number;
}
