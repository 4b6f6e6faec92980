import { Command, CommanderError } from 'commander';
import { coreCommands } from './core-commands';
import { dataCommands } from './data-commands';
import { planningCommands } from './planning-commands';
import { serverCommands } from './server-commands';
import { WrongUse } from './usage';

/** Exit codes: done, refused with a sentence, wrong use. */
const REFUSED = 1;
const WRONG_USE = 2;

async function main(): Promise<void> {
  const program = new Command('corvun').description('Corvun on the command line').exitOverride();
  program.showHelpAfterError('Say corvun --help for all commands.');
  coreCommands(program);
  planningCommands(program);
  serverCommands(program);
  dataCommands(program);
  for (const command of program.commands) command.exitOverride().option('--json', 'print one JSON value and nothing else');
  await program.parseAsync(process.argv);
}

main().catch((problem: unknown) => {
  if (problem instanceof CommanderError) {
    process.exitCode = problem.exitCode === 0 ? 0 : WRONG_USE;
    return;
  }
  process.stderr.write(`${problem instanceof Error ? problem.message : String(problem)}\n`);
  process.exitCode = problem instanceof WrongUse ? WRONG_USE : REFUSED;
});
