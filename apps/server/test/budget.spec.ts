import { Budget, budgeted } from '../src/reading/budget';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

describe('the time that one thing may take to be read', () => {
  it('is counted from when the thread begins, however late that is', () => {
    const over = jest.fn();
    const budget = new Budget(2000, over);
    jest.advanceTimersByTime(30_000);
    expect(budgeted(({ text }: { text: string }) => text)({ text: 'read', begun: budget.begun })).toBe('read');
    jest.advanceTimersByTime(1999);
    expect(over).not.toHaveBeenCalled();
    jest.advanceTimersByTime(1);
    expect(over).toHaveBeenCalledTimes(1);
    jest.advanceTimersByTime(120_000);
    expect(over).toHaveBeenCalledTimes(1);
  });

  it('is over, too, where the thread never begins; one that ended in time is let be', () => {
    const [never, ended] = [jest.fn(), jest.fn()];
    expect(new Budget(2000, never).begun.byteLength).toBe(8);
    new Budget(2000, ended).end();
    jest.advanceTimersByTime(59_000);
    expect(never).not.toHaveBeenCalled();
    jest.advanceTimersByTime(2000);
    expect([never.mock.calls.length, ended.mock.calls.length]).toEqual([1, 0]);
  });
});
