import { type Outside, clear, until, withOutside, type Caller, type Line, type Page, type Running } from './harness';

interface Chatted {
  messages: { id: string; text: string; thread: string | null; by: { id: string }; reactions: { name: string; by: string }[] }[];
}
interface Full extends Line {
  text: string;
  note: string;
  joinedTo: string | null;
  joined: { id: string; kind: string; text: string }[];
  context: { who: string; text: string; itself: boolean }[];
  thread: { id: string }[];
  state: string;
}

let server: Running;
let outside: Outside;
let maren: Caller;
let id: string;

const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body.items as Full[];
const full = async (one: string) => (await maren.get<Full>(`/incoming/${one}`)).body;
const post = (text: string, by = 'jonas', channel = 'field-crew') => outside.act('/chat/post', { by, channel, text });

beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
  const input = {
    kind: 'chat',
    name: 'Team chat',
    address: `${outside.url}/chat`,
    settings: { words: ['pump'], decidedMark: 'seen' },
  };
  id = (await maren.post<{ id: string }>('/sources', input)).body.id;
  await until(async () => (await inbox()).length === 3, 'the first messages');
});

afterAll(async () => {
  await server.stop();
  outside.stop();
  clear(server.data);
});

describe('the chat', () => {
  it('brings in what is addressed to the user, what was sent to them alone, and what a word picks; with its context', async () => {
    const lines = await inbox();
    expect(lines.map((one) => one.note)).toEqual([
      'Field crew, addressed to you',
      'Field crew, addressed to you',
      'Pia Keller, sent to you alone',
    ]);
    const ferry = await full(lines[0]?.id ?? '');
    expect(ferry.context.map((one) => [one.who, one.itself])).toEqual([
      ['Jonas Brandl', false],
      ['Mina Lund', false],
      ['Jonas Brandl', true],
      ['Mina Lund', false],
      ['Luk Petersen', false],
    ]);
    expect(ferry.suggestion?.title).toBe('Ask the ferry whether they take the pump');
  });

  it('a new message is there at once, over the live stream', async () => {
    await post('the pump makes a noise');
    await until(async () => (await inbox()).some((one) => one.note === 'Field crew, says “pump”'), 'the message with the word');
  });

  it('what the user marks for themselves comes in, once', async () => {
    await outside.act('/chat/react', { id: 'm5', name: 'keep' });
    await until(
      async () => (await inbox()).filter((one) => one.note === 'Office, marked by you').length === 1,
      'the marked message',
    );
    await outside.act('/chat/react', { id: 'm5', name: 'other' });
    await post('@maren and this');
    await until(async () => (await inbox()).some((one) => one.subject === '@maren and this'), 'the next one');
    expect((await inbox()).filter((one) => one.subject.includes('printer'))).toHaveLength(1);
  });

  it('deciding posts the mark, a reply goes back, each once', async () => {
    const [line] = await inbox();
    await maren.post(`/incoming/${line?.id}/reply`, { text: 'I ask them today' });
    await maren.post('/decisions', { incoming: [line?.id], to: 'done' });
    const message = await until(
      async () =>
        (await outside.state<Chatted>('chat')).messages.find(
          (one) => one.id === 'm3' && one.reactions.some((mark) => mark.name === 'seen' && mark.by === 'maren'),
        ),
      'the mark',
    );
    const replies = await until(async () => {
      const found = (await outside.state<Chatted>('chat')).messages.filter((one) => one.thread === message.id);
      return found.length ? found : null;
    }, 'the reply');
    expect(replies.map((one) => [one.by.id, one.text])).toEqual([['maren', 'I ask them today']]);
  });

  it('a decision that is taken back before its mark went out leaves no mark', async () => {
    await maren.patch(`/sources/${id}`, { state: 'paused' });
    const line = (await inbox()).find((one) => one.note === 'Pia Keller, sent to you alone');
    await maren.post('/decisions', { incoming: [line?.id], to: 'drop' });
    expect((await maren.get<{ state: string }[]>('/outbox')).body.filter((one) => one.state === 'waiting')).toHaveLength(1);
    await maren.post('/decisions/undo');
    expect((await maren.get<{ state: string }[]>('/outbox')).body.filter((one) => one.state === 'waiting')).toHaveLength(0);
    await maren.patch(`/sources/${id}`, { state: 'active' });
  });

  it('a message that names a card, and the card, are one matter: whichever comes first', async () => {
    const board = { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready'], done: 'built', reopen: 'ready' };
    await maren.post('/sources', {
      kind: 'tracker',
      name: 'Tracker',
      address: `${outside.url}/tracker`,
      settings: { boards: [board] },
    });
    const fence = await until(
      async () => (await inbox()).find((one) => one.subject === 'Close section C with fence'),
      'the card',
    );
    const joined = await until(async () => {
      const shown = await full(fence.id);
      return shown.joined.length ? shown.joined : null;
    }, 'the message joined to it');
    expect(joined).toMatchObject([{ kind: 'chat', text: expect.stringContaining('the signs card is') as string }]);
    expect((await inbox()).some((one) => one.subject.startsWith('the signs card'))).toBe(false);
    expect((await full(joined[0]?.id ?? '')).joinedTo).toBe(fence.id);

    await post(`@maren again about ${outside.url}/tracker/cards/BW-14.`);
    await until(async () => (await full(fence.id)).joined.length === 2, 'the second message joined');
  });

  it('is removed with what happens to its things said: the undecided leave, the decided stay', async () => {
    const before = await inbox();
    const { body } = await maren.call<{ sentence: string }>('DELETE', `/api/sources/${id}`);
    const left = await inbox();
    expect(body.sentence).toBe(`Team chat is removed; ${before.length - left.length} undecided left the inbox`);
    expect(left.every((one) => one.note === '' || !one.note.includes('you'))).toBe(true);
    expect((await maren.get(`/sources/${id}`)).status).toBe(404);
  });
});
