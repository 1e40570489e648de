/**
 * Makes a command of a plan: one table of options declares them to Commander, checks what was given, and gives the work
 * its typed values.
 */
import { InvalidArgumentError } from "commander";
import type { ExitCode } from "../io/exit-code.js";
import type { Io } from "../io/io.js";
import type { CommandFile, CommonOptions, Example } from "./command-file.js";
import { givenOptions, type Given, type OptionTable } from "./options/given-options.js";

/** What a command's work is given: its arguments, its own options by their table, and those that all commands have. */
export interface Work<Table extends OptionTable> {
  readonly args: readonly string[];
  readonly given: Given<Table>;
  readonly options: CommonOptions;
  readonly io: Io;
}

interface CommandPlan<Table extends OptionTable> {
  /** Each argument as Commander takes it, with its help. */
  readonly args: readonly (readonly [syntax: string, help: string])[];
  readonly options: Table;
  /** Command lines without the program's name, each with what it does. */
  readonly examples: readonly Example[];
  run(work: Work<Table>): Promise<ExitCode>;
}

const collect = (value: string, earlier: readonly string[] = []): readonly string[] => [...earlier, value];

/** An option with one value: a second would take the place of the first in silence. */
function once(value: string, earlier: string | undefined): string {
  if (earlier !== undefined) throw new InvalidArgumentError("It is given twice; give it once");
  return value;
}

/** A command from its plan: one table of options declares them, checks them and gives them their types. */
export const command = <Table extends OptionTable>(plan: CommandPlan<Table>): CommandFile => ({
  options: plan.options,
  args: plan.args,
  examples: plan.examples,
  declare(declared) {
    for (const [syntax, help] of plan.args) declared.argument(syntax, help);
    for (const { flags, help, repeats } of Object.values(plan.options))
      if (repeats) declared.option(flags, help, collect);
      else if (flags.includes("<")) declared.option(flags, help, once);
      else declared.option(flags, help);
    return declared;
  },
  run: async ({ args, options, io }) =>
    plan.run({ args, given: await givenOptions(plan.options, options), options, io }),
});
