import { createHash } from "node:crypto";
import { lstatSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { copyOf, jsonLines, lexicant, lexicantProcess } from "./run.js";

const hook = fileURLToPath(new URL("kill-at.mjs", import.meta.url));

/** Runs a command that is killed before a step: each change of the disk and each of the store's commits is one. Says whether it was. */
export const killedAt = (
  shop: string,
  args: readonly string[],
  step: number,
  env: Readonly<Record<string, string>> = {},
): boolean => {
  const { exit } = lexicantProcess(shop, args, {
    env: { ...env, NODE_OPTIONS: `--import ${hook}`, KILL_AT: String(step) },
  });
  return exit === null;
};

/** Every file of a workspace but the store's own, by its path: its content in short. */
export const filesIn = (folder: string, below = ""): Readonly<Record<string, string>> =>
  Object.fromEntries(
    readdirSync(join(folder, below)).flatMap((name): readonly (readonly [string, string])[] => {
      const path = join(below, name);
      if (path === ".lexicant") return [];
      const found = lstatSync(join(folder, path));
      if (found.isDirectory()) return Object.entries(filesIn(folder, path));
      if (found.isSymbolicLink()) return [[path, "link"]];
      return [
        [
          path,
          createHash("sha256")
            .update(readFileSync(join(folder, path)))
            .digest("hex")
            .slice(0, 12),
        ],
      ];
    }),
  );

/** All that a person could tell of a workspace: its files, its products, its history, what the last builds hold. */
export const stateOf = (shop: string, channels: readonly string[]): unknown => {
  const products = lexicant(shop, ["list", "--json"]).out;
  const history = jsonLines(lexicant(shop, ["history", "--json"]).out);
  return {
    products: createHash("sha256").update(products).digest("hex"),
    history: history.map(({ revision, kind, layer, file }) => ({ revision, kind, layer, file })),
    sent: channels.map((channel) => jsonLines(lexicant(shop, ["sent", channel, "--dry-run", "--json"]).out)),
    files: filesIn(shop),
  };
};

export interface Broken {
  readonly kills: number;
  /** States that are neither that of before nor that of after, by the step of the kill. */
  readonly torn: readonly { readonly step: number; readonly state: unknown }[];
  readonly before: number;
  readonly after: number;
}

/** Kills a command at each of some steps, each time in a copy of the same workspace, and looks at what is there then. */
export const killedEverywhere = (
  shop: string,
  args: readonly string[],
  channels: readonly string[],
  isStep: (step: number) => boolean = () => true,
): Broken => {
  const before = JSON.stringify(stateOf(copyOf(shop), channels));
  const whole = copyOf(shop);
  lexicant(whole, args);
  const after = JSON.stringify(stateOf(whole, channels));
  const torn: { step: number; state: unknown }[] = [];
  const counts = { kills: 0, before: 0, after: 0 };
  for (let step = 1; ; step++) {
    if (!isStep(step)) continue;
    const copy = copyOf(shop);
    if (!killedAt(copy, args, step)) return { ...counts, torn };
    counts.kills++;
    const state = stateOf(copy, channels);
    const text = JSON.stringify(state);
    if (text === before) counts.before++;
    else if (text === after) counts.after++;
    else torn.push({ step, state });
  }
};
