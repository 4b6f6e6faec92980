const page = new EventTarget();

beforeAll(() => {
  Object.assign(globalThis, { addEventListener: page.addEventListener.bind(page) });
});

it('sends one after the other, without waiting while the page goes away, and in order again once it is back', async () => {
  const { inOrder } = await import('../src/data/inOrder');
  const sent: string[] = [];
  const slow = (name: string) => {
    let answer = () => {};
    const answered = new Promise<void>((resolve) => (answer = resolve));
    void inOrder(() => {
      sent.push(name);
      return answered;
    });
    return answer;
  };
  const turn = () => new Promise((resolve) => setImmediate(resolve));
  const first = slow('first');
  const second = slow('second');
  await turn();
  expect(sent).toEqual(['first']);
  first();
  await turn();
  expect(sent).toEqual(['first', 'second']);
  slow('third');
  page.dispatchEvent(new Event('pagehide'));
  await turn();
  expect(sent).toEqual(['first', 'second', 'third']);
  page.dispatchEvent(new Event('pageshow'));
  slow('fourth');
  await turn();
  expect(sent).toEqual(['first', 'second', 'third']);
  second();
});
