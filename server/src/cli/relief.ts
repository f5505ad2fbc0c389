import { CommandError } from './command.js';
import { USAGE } from './usage.js';

/** What a command found, to be printed as JSON; nothing where what it wrote is all. */
type Command = (args: readonly string[]) => Promise<object | void>;

/** Each loads what it needs itself: what another one needs would double the time of a short one. */
const COMMANDS: Readonly<Record<string, Command | undefined>> = {
  inspect: async (args) => (await import('./inspect.js')).inspectCommand(args, USAGE),
  export: async (args) => (await import('./export.js')).exportCommand(args, USAGE),
  'dry-run': async (args) => (await import('./dry-run.js')).dryRunCommand(args, USAGE),
  cuts: async (args) => (await import('./cuts.js')).cutsCommand(args, USAGE),
  run: async (args) => (await import('./run.js')).runCommand(args, USAGE),
  check: async (args) => {
    const found = await (await import('./check.js')).checkCommand(args, USAGE);
    if (!found.passes) process.exitCode = 1;
    return found;
  },
};

async function run([name, ...args]: readonly string[]): Promise<void> {
  const isForHelp = [name, ...args].some((each) => each === '--help' || each === '-h');
  if (isForHelp) return console.log(USAGE);
  const command = Object.hasOwn(COMMANDS, name ?? '') ? COMMANDS[name] : undefined;
  if (!command) throw new CommandError(USAGE);
  const found = await command(args);
  if (found) console.log(JSON.stringify(found, null, 2));
}

/** Whether its words are for who sits at the terminal, and no fault of ours. */
async function isTold(error: unknown): Promise<boolean> {
  if (error instanceof CommandError) return true;
  const [{ SignError }, { ShopError }, { PlanError }, { DryRunError }] = await Promise.all([
    import('@plain-relief/core/sign'),
    import('@plain-relief/core/shop'),
    import('@plain-relief/core/cutting'),
    import('@plain-relief/core/dry-run'),
  ]);
  return [SignError, ShopError, PlanError, DryRunError].some((told) => error instanceof told);
}

run(process.argv.slice(2)).catch(async (error: unknown) => {
  console.error((await isTold(error)) ? (error as Error).message : error);
  process.exitCode = 1;
});
