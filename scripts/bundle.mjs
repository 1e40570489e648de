// Makes the program from `src/`, without a look at types: that is the test's. Twice: put together in `dist/`, so that a
// command reads a dozen files instead of some hundred (finding and reading them was half of what a short command took, and
// what a command does not need stays in files of its own); and file by file in `modules/`, for our scripts and benches.
//
// Packages stay where they are installed, but for those that nearly every command loads: of them only what is used goes in,
// and their licences go along. Leans on Rolldown.
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";
import { rolldown } from "rolldown";
import { filesUnder, root } from "./setup.mjs";

/** Packages of many small files, and what they lean on. */
const taken =
  /^(?:@oxc-project\/runtime|class-transformer|class-validator|libphonenumber-js|reflect-metadata|validator|yaml)(?:\/|$)/;
/** A module, and not a package. */
const isOurs = (id) => id.startsWith(".") || id.startsWith("/") || id.startsWith("src/");
/** @type {import("rolldown").InputOptions} */
const settings = { cwd: root, platform: "node", tsconfig: join(root, "tsconfig.json") };

const together = async () => {
  const target = join(root, "dist");
  // All of it, with what is known of goods, which is made anew behind this: nothing that is stale gets into a package.
  rmSync(target, { recursive: true, force: true });
  const program = await rolldown({
    ...settings,
    // Named as they are looked for: by the shell, by a command that takes more threads, by whoever drives command lines.
    input: {
      main: "src/main.ts",
      "workers/worker": "src/flow/workers/worker.ts",
      "cli/command-line": "src/cli/command-line.ts",
    },
    // What a package has as modules can be told from what of them nobody uses.
    resolve: { mainFields: ["module", "main"] },
    external: (id) => !isOurs(id) && !taken.test(id),
  });
  // As deep as the rooms of `src/`: what is found by its place beside a module is found from here, too.
  const { output } = await program.write({
    dir: target,
    format: "esm",
    chunkFileNames: "parts/[name]-[hash].js",
  });
  return output.flatMap((one) => ("moduleIds" in one ? one.moduleIds : []));
};

const apart = async () => {
  const target = join(root, "modules");
  rmSync(target, { recursive: true, force: true });
  const input = filesUnder(join(root, "src")).filter((file) => file.endsWith(".ts"));
  const modules = await rolldown({
    ...settings,
    input,
    external: (id) => !isOurs(id) && !id.startsWith("@oxc-project/"),
  });
  await modules.write({
    dir: target,
    format: "esm",
    banner: "// @ts-nocheck",
    preserveModules: true,
    preserveModulesRoot: join(root, "src"),
  });
};

/** The licences of the packages that went in, from where these modules are. */
const licences = (modules) => {
  const folders = new Set(
    modules.flatMap((id) => /^.*[/\\]node_modules[/\\](?:@[\w.-]+[/\\])?[\w.-]+/.exec(id) ?? []),
  );
  return [...folders].sort().flatMap((folder) =>
    readdirSync(folder)
      .filter((name) => /^licen[cs]e/i.test(name))
      .map((name) => `${basename(folder)}\n\n${readFileSync(join(folder, name), "utf8").trim()}\n`),
  );
};

const [modules] = await Promise.all([together(), apart()]);
mkdirSync(join(root, "dist"), { recursive: true });
writeFileSync(join(root, "dist", "licences.txt"), licences(modules).join("\n\n"));
