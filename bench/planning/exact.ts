import type highs from 'highs';
import { MINUTE, type PlanBlock, type PlanInput } from '@corvun/core';
import { cellsOf, type Cells } from '../../packages/core/src/planning/plan/cells';
import { PRICES } from '../../packages/core/src/planning/plan/problem';
import { endCost, worksOf, type Work } from '../../packages/core/src/planning/plan/work';

type Solver = Awaited<ReturnType<typeof highs>>;
/** Coefficients by variable. */
type Sum = Map<string, number>;

export interface Exact {
  cost: number;
  blocks: PlanBlock[];
  proven: boolean;
}

/** The best plan there is, by an integer programme over the cells of the grid that an independent solver solves. */
export function exactly(solver: Solver, input: PlanInput, seconds: number): Exact {
  const cells = cellsOf(input);
  const works = worksOf(input, cells);
  const model = new Model();
  const uses = works.map((work, index) => (work.blocked ? null : one(model, work, index, cells)));
  let fixed = 0;
  works.forEach((work, index) => {
    fixed += work.out;
    for (const before of uses[index] ? work.before : []) {
      const [own, other] = [uses[index] as Uses, uses[before]];
      if (!other) continue;
      model.add(
        [
          [own.placed, 1],
          [other.placed, -1],
        ],
        0,
      );
      for (let cell = 0; cell < cells.count; cell += 1) {
        const later = [...other.ends].flatMap(([at, names]) => (at >= cell ? names : []));
        const here = own.at.get(cell) ?? [];
        if (here.length && later.length)
          model.add(
            [...here, ...later].map((name) => [name, 1]),
            1,
          );
      }
    }
  });
  for (let cell = 0; cell < cells.count; cell += 1) {
    const here = uses.flatMap((use) => use?.at.get(cell) ?? []);
    if (here.length > 1)
      model.add(
        here.map((name) => [name, 1]),
        1,
      );
  }
  cells.limit.forEach((limit, day) => {
    const [from, to] = [cells.firstOf[day] as number, cells.firstOf[day + 1] as number];
    if (limit >= to - from) return;
    const sum: Sum = new Map();
    for (let cell = from; cell < to; cell += 1)
      for (const name of uses.flatMap((use) => use?.at.get(cell) ?? [])) sum.set(name, (sum.get(name) ?? 0) + 1);
    model.add([...sum], limit);
  });
  const answer = solver.solve(model.text(), { time_limit: seconds, mip_rel_gap: 1e-6, output_flag: false });
  const blocks: PlanBlock[] = [];
  const columns = answer.Columns as Record<string, { Primal: number }>;
  uses.forEach((use, index) => {
    const work = works[index] as Work;
    for (const [cell, names] of use?.at ?? []) {
      if (names.some((name) => (columns[name]?.Primal ?? 0) > 0.5)) {
        const start = cells.start[cell] as number;
        blocks.push({ task: work.task.id, start, end: start + input.grid * MINUTE });
      }
    }
  });
  return { cost: fixed + answer.ObjectiveValue, blocks, proven: answer.Status === 'Optimal' };
}

interface Uses {
  placed: string;
  /** What says that a cell is used. */
  at: Map<number, string[]>;
  /** What says that the last cell is this one. */
  ends: Map<number, string[]>;
}

function one(model: Model, work: Work, index: number, cells: Cells): Uses {
  const { size, chunk, head, tail, price, out } = work;
  const uses: Uses = { placed: `u${index}`, at: new Map(), ends: new Map() };
  const note = (map: Map<number, string[]>, cell: number, name: string) => map.set(cell, [...(map.get(cell) ?? []), name]);
  const { placed } = uses;
  model.binary(placed, -out);
  if (chunk >= size) {
    const starts: [string, number][] = [];
    for (let at = head; at + size <= tail; at += 1) {
      if (cells.run[at] !== cells.run[at + size - 1]) continue;
      let cost = endCost(work, cells, at + size - 1);
      for (let cell = at; cell < at + size; cell += 1) cost += price[cell] as number;
      const name = `x${index}_${at}`;
      model.binary(name, cost);
      starts.push([name, 1]);
      for (let cell = at; cell < at + size; cell += 1) note(uses.at, cell, name);
      note(uses.ends, at + size - 1, name);
    }
    model.add([...starts, [placed, -1]], 0, '=');
    return uses;
  }
  const [used, last]: [[string, number][], [string, number][]] = [[], []];
  for (let cell = head; cell < tail; cell += 1) {
    const [y, b, z] = ['y', 'b', 'z'].map((letter) => `${letter}${index}_${cell}`) as [string, string, string];
    model.binary(y, price[cell] as number);
    model.binary(b, PRICES.part);
    model.binary(z, endCost(work, cells, cell));
    note(uses.at, cell, y);
    note(uses.ends, cell, z);
    model.add(
      [
        [z, 1],
        [y, -1],
      ],
      0,
    );
    if (last.length) model.add([[y, 1], ...last], 1);
    const before = `y${index}_${cell - 1}`;
    const touches = cell > head && cells.run[cell - 1] === cells.run[cell];
    model.add([[y, 1], ...(touches ? [[before, -1] as [string, number]] : []), [b, -1]], 0);
    model.add(
      [
        [b, 1],
        [y, -1],
      ],
      0,
    );
    if (touches)
      model.add(
        [
          [b, 1],
          [before, 1],
        ],
        1,
      );
    const whole = cell + chunk <= tail && cells.run[cell] === cells.run[cell + chunk - 1];
    if (!whole) model.add([[b, 1]], 0);
    else
      for (let next = cell + 1; next < cell + chunk; next += 1)
        model.add(
          [
            [b, 1],
            [`y${index}_${next}`, -1],
          ],
          0,
        );
    used.push([y, 1]);
    last.push([z, 1]);
  }
  model.add([...used, [placed, -size]], 0, '=');
  model.add([...last, [placed, -1]], 0, '=');
  // The first part costs nothing.
  model.cost(placed, -out - PRICES.part);
  return uses;
}

/** An integer programme as the solver reads it: CPLEX's LP format. */
class Model {
  private readonly costs: Sum = new Map();
  private readonly rows: string[] = [];

  binary(name: string, cost: number): void {
    this.costs.set(name, cost);
  }

  cost(name: string, cost: number): void {
    this.costs.set(name, cost);
  }

  add(sum: readonly (readonly [string, number])[], most: number, how: '<=' | '=' = '<='): void {
    if (sum.length > 0) this.rows.push(`${said(sum)} ${how} ${most}`);
  }

  text(): string {
    const rows = this.rows.map((row, at) => ` r${at}: ${row}`).join('\n');
    return `Minimize\n obj: ${said([...this.costs])}\nSubject To\n${rows}\nBinary\n ${[...this.costs.keys()].join('\n ')}\nEnd\n`;
  }
}

/** Lines of the format are short. */
const said = (sum: readonly (readonly [string, number])[]): string =>
  sum.map(([name, factor], at) => `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}${at % 8 === 7 ? '\n' : ''}`).join(' ');
