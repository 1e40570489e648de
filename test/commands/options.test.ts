import { Command } from "commander";
import { describe, expect, it } from "vitest";
import { commands } from "../../src/commands/commands.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { givenOptions } from "../../src/commands/options/given-options.js";
import {
  flag,
  named,
  oneOf,
  percent,
  several,
  text,
  wholeNumber,
} from "../../src/commands/options/option.js";

const table = {
  all: flag("--all", "everything"),
  least: wholeNumber("--least <n>", "so many", { least: 2, most: 9 }),
  kind: oneOf("--kind <kind>", "which", ["bee", "wasp"] as const),
  note: text("--note <text>", "what", "is a note", 5),
  channel: named("--channel <name>", "where"),
  sure: percent("--sure <share>", "how sure"),
  set: several("--set <pair>", "each", "is a pair", /=/),
};

const reasons = async (written: Readonly<Record<string, unknown>>): Promise<readonly string[]> => {
  try {
    await givenOptions(table, written);
    return [];
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings.map((finding) =>
      finding.code === "unknown-option" ? finding.facts.reason : finding.code,
    );
  }
};

describe("a command's options", () => {
  it("when nothing is written, then flags are off and all else is not there", async () => {
    expect(await givenOptions(table, {})).toEqual({ all: false });
  });

  it("when all are right, then each has the type of its entry", async () => {
    const written = {
      all: true,
      least: "3",
      kind: "bee",
      note: "x",
      channel: "quay",
      sure: "50",
      set: ["a=1", "b=2"],
    };
    const given = await givenOptions(table, { ...written, other: "passed over" });
    expect(given).toEqual({ ...written, least: 3, sure: 0.5 });
    const kind: "bee" | "wasp" | undefined = given.kind;
    expect(kind).toBe("bee");
  });

  it.each([
    [{ least: "1" }, "--least is at least 2"],
    [{ least: "10" }, "--least is at most 9"],
    [{ least: "many" }, "--least is a whole number"],
    [{ kind: "fly" }, "--kind is one of bee, wasp"],
    [{ note: "too long" }, "--note is a note"],
    [{ channel: "The Quay" }, "--channel is a channel's name"],
    [{ sure: "0.9" }, "--sure is a share in percent, such as 90"],
    [{ sure: "101" }, "--sure is a share in percent, such as 90"],
    [{ set: ["a=1", "b"] }, "--set is a pair"],
  ])("when %j is written, then it is told what it must be", async (written, reason) => {
    expect(await reasons(written)).toContain(reason);
  });

  it("when several are wrong, then all are told at once, each by one sentence", async () => {
    expect((await reasons({ least: "many", kind: "fly", note: "too long" })).length).toBe(3);
  });

  it.each(commands.map(({ name, load }) => [name, load] as const))(
    "when %s declares its table, then each entry is given under the name that Commander has for it",
    async (_, load) => {
      const { declare, options } = await load();
      const declared = declare(new Command()).options.map((option) => option.attributeName());
      expect(declared).toEqual(Object.keys(options));
    },
  );
});
