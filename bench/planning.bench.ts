import highs from 'highs';
import { costOfPlan, faultOf, leastCost, planStretch, type PlanInput } from '@corvun/core';
import { exactly } from './planning/exact';
import { inputOf, numbers } from './planning/problems';
import { median, timed } from './report';

/** Small problems that both solve, seconds each may take the exact solver, and how many large ones of each size. */
const SMALL = 240;
const SECONDS = 20;
const LARGE = 5;
const SIZES = [
  { tasks: 50, days: 10, limit: 100, rounds: 400 },
  { tasks: 200, days: 28, limit: 500, rounds: 400 },
  { tasks: 1000, days: 120, limit: 5000, rounds: 60 },
];

const say = (line: string) => process.stdout.write(`${line}\n`);
const percent = (share: number) => `${(share * 100).toFixed(2)} %`;

function checked(input: PlanInput, share?: number) {
  const plan = planStretch(input, share);
  const fault = faultOf(input, plan.blocks);
  if (fault) throw new Error(fault);
  return plan;
}

/** Plans against the best there are, then against what no plan can cost less than, and how long they take. */
async function main(): Promise<void> {
  const over: number[] = [];
  const ours: number[] = [];
  const theirs: number[] = [];
  let proven = 0;
  for (let seed = 0; seed < SMALL; seed += 1) {
    const { upTo, one } = numbers(seed + 5000);
    const input = inputOf(seed, {
      ...{ tasks: 3 + upTo(6), days: 1 + upTo(3) },
      ...{ grid: one([15, 30]), filled: one([0.5, 0.8, 1.1]) },
    });
    const solver = await highs();
    let exact = exactly(solver, { ...input, tasks: [] }, 1);
    theirs.push(await timed(() => (exact = exactly(solver, input, SECONDS))));
    const fault = faultOf(input, exact.blocks);
    if (fault || Math.abs(costOfPlan(input, exact.blocks) - exact.cost) > 1e-3) throw new Error(`the exact plan: ${fault}`);
    let plan = checked(input, 0);
    ours.push(await timed(() => (plan = checked(input))));
    over.push(plan.cost / exact.cost - 1);
    if (exact.proven) proven += 1;
    else say(`problem ${seed}: not proven in ${SECONDS} s; ours costs ${percent(over.at(-1) ?? 0)} more than what was found`);
  }
  const mean = over.reduce((sum, one) => sum + one, 0) / over.length;
  say(`${SMALL} small problems, ${proven} of them solved exactly: ${percent(mean)} over the best on average (aim: 1 %)`);
  say(`the worst of them: ${percent(Math.max(...over))} over the best (aim: 5 %)`);
  say(`time for one: ${(median(ours) / median(theirs)).toFixed(2)} × the exact solver, ${median(ours).toFixed(0)} ms`);
  for (const { tasks, days, limit, rounds } of SIZES) {
    const [times, gaps, alone]: [number[], number[], number[]] = [[], [], []];
    for (let seed = 0; seed < LARGE; seed += 1) {
      for (const filled of [0.7, 1.1]) {
        const input = inputOf(seed, { tasks, days, grid: 15, filled });
        let plan = checked(input, 0);
        times.push(await timed(() => (plan = checked(input))));
        gaps.push(plan.cost / leastCost(input, rounds, plan.cost) - 1);
        const loose = { ...input, dailyLimit: null, tasks: input.tasks.map((one) => ({ ...one, after: [] })) };
        const without = checked(loose);
        alone.push(without.cost / leastCost(loose, rounds, without.cost) - 1);
      }
    }
    say(
      `${tasks} tasks over ${days} days: ${median(times).toFixed(0)} ms, at most ${Math.max(...times).toFixed(0)} (aim: ${limit}); ` +
        `median ${percent(median(gaps))} over the bound, which leaves order and limit out; ${percent(median(alone))} where there are none`,
    );
  }
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
