/** Every setting: where it stands, what it is called, and words by which it is found. */
export const SETTINGS = [
  { id: 'name', part: 'You', name: 'Name', words: 'who signs mails' },
  { id: 'addresses', part: 'You', name: 'My mail addresses', words: 'own address alias asks me invitation participation' },
  { id: 'zone', part: 'You', name: 'Time zone', words: 'zone clock where am I' },
  { id: 'zones', part: 'You', name: 'Further zones', words: 'second zone partner clock hours elsewhere' },
  { id: 'hours', part: 'Working time', name: 'Working hours', words: 'hours weekday start end of work pause lunch break' },
  { id: 'days-off', part: 'Working time', name: 'Days off', words: 'public holidays vacation leave free days calendar' },
  {
    id: 'lengths',
    part: 'Working time',
    name: 'How long work takes',
    words: 'default duration length estimate deep medium light',
  },
  {
    id: 'buffers',
    part: 'Beside events',
    name: 'Before and after',
    words: 'buffer prep preparation follow-up minutes around meetings',
  },
  { id: 'travel', part: 'Beside events', name: 'Ways', words: 'travel places minutes commute base where office leave' },
  { id: 'pauses', part: 'Beside events', name: 'Pauses', words: 'pause break breath long stretch meetings in a row' },
  { id: 'deep', part: 'How days are planned', name: 'Hours for deep work', words: 'deep focus concentration morning plan' },
  { id: 'limit', part: 'How days are planned', name: 'Most of a day', words: 'daily limit load planned minutes full' },
  {
    id: 'share',
    part: 'How days are planned',
    name: 'Room in a day',
    words: 'share percent leave free lunch pause break buffer full',
  },
  { id: 'parts', part: 'How days are planned', name: 'Work in parts', words: 'split chunk pieces long tasks' },
  { id: 'places', part: 'How days are planned', name: 'Places', words: 'errands together tags town way' },
  { id: 'matter', part: 'Your day', name: 'What matters', words: 'priorities most important things focus open the day' },
  { id: 'shortlist', part: 'Your day', name: 'Length of a shortlist', words: 'clear the decks few things reset' },
  { id: 'review-day', part: 'Your day', name: 'Day of the week review', words: 'friday week review look back weekday' },
  {
    id: 'heads-down',
    part: 'Your day',
    name: 'Heads-down',
    words: 'interval timer work pause minutes focus long short sound',
  },
  {
    id: 'held-sites',
    part: 'Your day',
    name: 'Sites held back',
    words: 'quiet block websites distraction focus extension browser news',
  },
  { id: 'outside', part: 'Your day', name: 'Work outside', words: 'weather rain site field place tags' },
  { id: 'close-at', part: 'Your day', name: 'Close the day at', words: 'end of work evening stop shutdown' },
  { id: 'outline-mail', part: 'Your day', name: 'Outline by mail', words: 'morning mail agenda digest day text weekdays' },
  {
    id: 'remind-before',
    part: 'What reminds you',
    name: 'Before an event',
    words: 'reminder alarm notification minutes ahead meeting',
  },
  { id: 'remind-blocks', part: 'What reminds you', name: 'When set-aside time begins', words: 'reminder block start begins' },
  {
    id: 'remind-system',
    part: 'What reminds you',
    name: 'As notifications of the system',
    words: 'reminder desktop push permission',
  },
  { id: 'remind-mail', part: 'What reminds you', name: 'By mail, too', words: 'reminder email' },
  { id: 'week-start', part: 'How it looks', name: 'First day of the week', words: 'monday sunday saturday week begins' },
  { id: 'clock', part: 'How it looks', name: 'Clock', words: '12 24 hours am pm time format' },
  { id: 'dates', part: 'How it looks', name: 'How dates are written', words: 'date format day month order iso' },
  {
    id: 'typed',
    part: 'How it looks',
    name: 'Language of typed lines',
    words: 'english german reading capture line words dates',
  },
  { id: 'snap', part: 'How it looks', name: 'Plan snaps to', words: 'grid minutes snapping step' },
  { id: 'theme', part: 'How it looks', name: 'Light or dark', words: 'theme colours night' },
  { id: 'density', part: 'How it looks', name: 'Room between things', words: 'density compact close dense rows' },
  { id: 'text-size', part: 'How it looks', name: 'Size of text', words: 'letters font larger zoom' },
  { id: 'order', part: 'How it looks', name: 'Order of what arrived', words: 'stack sort oldest newest first' },
  { id: 'calendars', part: 'Calendars and lists', name: 'Calendars', words: 'name code colour hue busy shown' },
  { id: 'mirrors', part: 'Calendars and lists', name: 'Mirrors', words: 'mirror copy busy block another calendar sync' },
  { id: 'list-colours', part: 'Calendars and lists', name: 'Names of lists', words: 'list name code colour hue' },
  { id: 'keys', part: 'Keyboard', name: 'Keys', words: 'shortcuts keyboard commands change' },
  { id: 'capture', part: 'Mail', name: 'Capture address', words: 'forward mail to inbox' },
  { id: 'mail-out', part: 'Mail', name: 'Mail out', words: 'test smtp sending' },
  { id: 'password', part: 'Signed in', name: 'Password', words: 'secret change account' },
  { id: 'sessions', part: 'Signed in', name: 'Where you are signed in', words: 'sessions sign out everywhere account devices' },
  { id: 'tokens', part: 'Signed in', name: 'Tokens of programs', words: 'api command line extension access' },
  { id: 'data', part: 'What is kept', name: 'Data', words: 'backup export import storage used space' },
] as const;

export type SettingId = (typeof SETTINGS)[number]['id'];
export const PARTS = [...new Set(SETTINGS.map(({ part }) => part))];

/** Settings that are meant by words: each word begins one of theirs. */
export function settingsLike(text: string): (typeof SETTINGS)[number][] {
  const wanted = text.toLowerCase().match(/\p{L}{2,}/gu) ?? [];
  if (!wanted.length) return [];
  return SETTINGS.filter(({ name, words, part }) => {
    const own = `${name} ${words} ${part} settings`.toLowerCase().split(/\W+/);
    return wanted.every((word) => own.some((one) => one.startsWith(word)));
  });
}
