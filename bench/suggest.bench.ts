import { Memory, NO_FACTS, suggest, type MessageFacts, type Past } from '../packages/core/dist';
import { ratio } from './report';

const HISTORY = 2400;
const KNOWN = 100_000;
const TODAY = '2026-08-03';
const LISTS = ['Permits', 'Field season', 'Boardwalk repair', 'Grant report', 'Volunteer days', 'Reading', 'In town', 'Home'];
const SUBJECTS: Record<string, string[]> = {
  Permits: ['Hearing on the water level', 'Permit for the north bank', 'Gauge readings', 'Your application'],
  'Field season': ['Mowing plan', 'Reed zone survey', 'Pump 2', 'Orchid count'],
  'Boardwalk repair': ['Quote for decking', 'Section C', 'Handrail', 'Delivery of boards'],
  'Grant report': ['Interim report', 'Budget line', 'Figures for the fund', 'Results chapter'],
  'Volunteer days': ['Minibus', 'Pond day', 'Helpers for Saturday', 'Tents'],
  Reading: ['Paper on peat', 'Salt marsh study', 'Newsletter', 'Review'],
  'In town': ['Keys', 'Hose fittings', 'Post office', 'Batteries'],
  Home: ['Dentist', 'Laundry van', 'School', 'Birthday'],
};
const NOTHING: MessageFacts = { ...NO_FACTS };
const asking: MessageFacts = { ...NOTHING, asks: [{ text: 'Could you?', start: 0, end: 10 }] as MessageFacts['asks'] };

/** Numbers from 0 to 1, the same every time (mulberry32). */
function randomOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * Decisions of one made-up user: sixty senders with one or two habits each; each habit is broken one time in ten; every
 * 300 decisions a quarter of the senders changes what they write about; new senders keep coming.
 */
function history(count: number): Past[] {
  const random = randomOf(20_260_803);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const senders = Array.from({ length: 60 }, (_, at) => newSender(at));
  function newSender(at: number) {
    const bulk = at % 6 === 0;
    const domain = ['county-water', 'fund', 'aalto-timber', 'alderfen', 'lower-fen', `place-${at}`][at % 6];
    return { address: `sender-${at}@${domain}.example`, bulk, lists: [pick(LISTS), pick(LISTS)], drops: bulk ? 0.9 : 0.25 };
  }
  return Array.from({ length: count }, (_, at): Past => {
    if (at % 300 === 299) for (let change = 0; change < 15; change += 1) pick(senders).lists = [pick(LISTS), pick(LISTS)];
    if (at % 40 === 39) senders[Math.floor(random() * senders.length)] = newSender(60 + at);
    const sender = senders[Math.floor(random() ** 1.6 * senders.length)]!;
    const about = random() < 0.75 ? sender.lists[0]! : sender.lists[1]!;
    const asks = !sender.bulk && random() < 0.7 ? 1 : 0;
    const broken = random() < 0.1;
    const list = broken ? pick(LISTS) : about;
    const quiet = asks ? false : random() < sender.drops + 0.3;
    const traits = { sender: sender.address, kind: 'mail', bulk: sender.bulk, asks, subject: pick(SUBJECTS[about]!) };
    const way = random();
    const to = quiet ? (sender.bulk ? 'drop' : 'reference') : way < 0.8 ? 'list' : way < 0.93 ? 'day' : 'time';
    return { id: `d${at}`, traits, to, list: quiet ? null : list, tags: [], priority: 'normal', minutes: null };
  });
}

interface Score {
  whole: number;
  first: number;
  three: number;
  of: number;
  ofLists: number;
}
const share = (number: number, of: number) => `${((100 * number) / of).toFixed(0)} %`;
const print = (name: string, { whole, first, three, of, ofLists }: Score) =>
  process.stdout.write(
    `${name}: accepted whole ${share(whole, of)} of ${of}; list right first ${share(first, ofLists)}, in first three ${share(three, ofLists)} of ${ofLists}\n`,
  );

/** Proposes each decision of a history before learning it. */
function replay(
  pasts: Past[],
  from: number,
  to: number,
  propose: (past: Past) => { to: string; lists: (string | null)[] },
  learn: (past: Past) => void,
): Score {
  const score: Score = { whole: 0, first: 0, three: 0, of: 0, ofLists: 0 };
  for (const [at, past] of pasts.entries()) {
    if (at >= to) break;
    const proposed = propose(past);
    if (at >= from) {
      const [first = null] = proposed.lists;
      score.of += 1;
      const task = ['list', 'day', 'time'].includes(past.to);
      const sameWay = task ? ['list', 'day', 'time'].includes(proposed.to) : proposed.to === past.to;
      if (sameWay && (!task || first === past.list)) score.whole += 1;
      if (past.list !== null) {
        score.ofLists += 1;
        if (first === past.list) score.first += 1;
        if (proposed.lists.slice(0, 3).includes(past.list)) score.three += 1;
      }
    }
    learn(past);
  }
  return score;
}

function ours(pasts: Past[], from: number, to: number): Score {
  const memory = new Memory();
  return replay(
    pasts,
    from,
    to,
    (past) => {
      const recalled = memory.size ? memory.recall(past.traits) : null;
      const facts = past.traits.asks ? asking : NOTHING;
      const proposed = suggest({ title: 't', subject: 's', facts, bulk: past.traits.bulk, recalled, today: TODAY });
      const lists = (recalled?.lists ?? []).map((one) => one.list).filter((one) => one !== null);
      return {
        to: proposed.sure ? proposed.to : 'nothing',
        lists: [proposed.list ?? lists[0] ?? null, ...lists.filter((one) => one !== proposed.list)],
      };
    },
    (past) => memory.learn(past),
  );
}

/** Always the commonest place so far. */
function commonest(pasts: Past[], from: number, to: number): Score {
  const counts = new Map<string, number>();
  const lists = () => [...counts].sort((a, b) => b[1] - a[1]).map(([list]) => list);
  return replay(
    pasts,
    from,
    to,
    () => ({ to: 'list', lists: lists() }),
    (past) => past.list && counts.set(past.list, (counts.get(past.list) ?? 0) + 1),
  );
}

/** The same as the last time for this sender. */
function sameAsLast(pasts: Past[], from: number, to: number): Score {
  const last = new Map<string, Past[]>();
  return replay(
    pasts,
    from,
    to,
    (past) => {
      const known = last.get(past.traits.sender) ?? [];
      const way = known[0] ? (['day', 'time'].includes(known[0].to) ? 'list' : known[0].to) : 'nothing';
      return { to: way, lists: [...new Set(known.map((one) => one.list))] };
    },
    (past) => last.set(past.traits.sender, [past, ...(last.get(past.traits.sender) ?? [])].slice(0, 5)),
  );
}

const pasts = history(HISTORY);
for (const [from, to] of [
  [30, 200],
  [200, HISTORY],
] as const) {
  process.stdout.write(`decisions ${from} to ${to}\n`);
  print('  ours', ours(pasts, from, to));
  print('  always the commonest list', commonest(pasts, from, to));
  print('  same sender as last time', sameAsLast(pasts, from, to));
}

const memory = new Memory();
for (const past of history(KNOWN)) memory.learn(past);
const ROUNDS = 2000;
const asked = history(ROUNDS);
const time = (work: (past: Past) => unknown) => {
  const start = performance.now();
  for (const past of asked) work(past);
  return (performance.now() - start) / ROUNDS;
};
const scan = () => {
  let found = 0;
  for (let at = 0; at < KNOWN; at += 1) if (asked[at % ROUNDS]!.traits.sender === 'nobody') found += 1;
  return found;
};
time((past) => memory.recall(past.traits));
const start = performance.now();
for (let round = 0; round < 20; round += 1) scan();
ratio(
  `a proposal with ${KNOWN} decisions known against one look through them all`,
  time((past) => memory.recall(past.traits)),
  (performance.now() - start) / 20,
  1,
);
