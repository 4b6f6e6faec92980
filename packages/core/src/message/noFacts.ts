import type { MessageFacts } from './facts';

/** Facts of what was not read: a card, a conflict, an empty text. */
export const NO_FACTS: Readonly<MessageFacts> = {
  asks: [],
  dates: [],
  durations: [],
  minutes: null,
  people: [],
  links: [],
  places: [],
  money: [],
  numbers: [],
  invitation: false,
};
