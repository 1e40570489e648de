/**
 * Checks the options of one command by their table. class-validator is the heaviest package of a short command: it is
 * loaded only where an option has a value to be judged.
 */
import { ownOf } from "../../core/own.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Option } from "./option.js";

/** A command's options by the names under which it is given them: those of Commander. */
export type OptionTable = Readonly<Record<string, Option<unknown>>>;

/** What a command is given of its table. */
export type Given<Table extends OptionTable> = {
  readonly [Name in keyof Table]: Table[Name] extends Option<infer Value> ? Value : never;
};

function readBy({ read, repeats }: Option<unknown>, written: unknown): unknown {
  if (repeats) return Array.isArray(written) ? written.map((one) => read(String(one))) : written;
  if (typeof written === "string") return read(written);
  // One that may stand alone.
  return written === true ? read("") : written;
}

/**
 * A command's options, checked. The validator is loaded only when an option has a value: a command without options starts
 * without it.
 * @throws Refusal with every option that is wrong
 */
export async function givenOptions<Table extends OptionTable>(
  table: Table,
  written: Readonly<Record<string, unknown>>,
): Promise<Given<Table>> {
  const given = new Map<string, unknown>();
  const valued: [name: string, option: Option<unknown>][] = [];
  for (const [name, option] of Object.entries(table)) {
    if (option.rules === undefined) given.set(name, ownOf(written, name) === true);
    else if (ownOf(written, name) !== undefined) {
      given.set(name, readBy(option, ownOf(written, name)));
      valued.push([name, option]);
    }
  }
  if (valued.length > 0) await refuseWrong(valued, given);
  return Object.fromEntries(given) as Given<Table>;
}

async function refuseWrong(
  valued: readonly (readonly [name: string, option: Option<unknown>])[],
  given: ReadonlyMap<string, unknown>,
): Promise<void> {
  const validator = await import("./validators.js");
  const { validate } = await import("../../workspace/validate.js");
  class Model {}
  for (const [name, { rules }] of valued)
    for (const rule of rules?.(validator) ?? []) rule(Model.prototype, name);
  const plain = Object.fromEntries(valued.map(([name]) => [name, given.get(name)]));
  const { findings } = validate(Model, plain, () => undefined);
  const wrong = valued.flatMap(([name, { flags }]): readonly Diagnostic[] => {
    const own = findings.flatMap(({ facts }) =>
      "key" in facts && "reason" in facts && facts.key === name ? [facts.reason] : [],
    );
    // Whatever is no number at all is also none within the bounds: the first says enough.
    const said = own.find((reason) => !reason.startsWith("is at ")) ?? own[0];
    const flag = /--[a-z-]+/.exec(flags)?.[0] ?? flags;
    return said === undefined ? [] : [diagnostic("unknown-option", { reason: `${flag} ${said}` })];
  });
  if (findings.length > 0) throw new Refusal(wrong.length > 0 ? wrong : findings);
}
