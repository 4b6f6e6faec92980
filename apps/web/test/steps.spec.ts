import type { TaskInfo } from '@corvun/contract';
import { taskOf, withSteps } from '../src/places/lists/steps';

const task = (id: string, parentId: string | null = null, position = 0) => ({ id, parentId, position }) as TaskInfo;
const ids = (tasks: TaskInfo[]) => tasks.map((one) => one.id).join(' ');

describe('steps', () => {
  it('stand right below their task, in their order', () => {
    const all = [task('b2', 'b', 2), task('a'), task('b'), task('b1', 'b', 1), task('a1', 'a')];
    expect(ids(withSteps(all))).toBe('a a1 b b1 b2');
  });

  it('stay where they are when their task is not shown, and nothing is lost', () => {
    expect(ids(withSteps([task('a'), task('x1', 'gone'), task('b')]))).toBe('a x1 b');
  });

  it('know the task they belong to', () => {
    const [parent, step, orphan] = [task('p'), task('s', 'p'), task('o', 'gone')];
    const byId = new Map([parent, step, orphan].map((one) => [one.id, one]));
    expect([parent, step, orphan].map((one) => taskOf(one, byId).id)).toEqual(['p', 'p', 'o']);
  });
});
