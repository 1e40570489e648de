// Makes a fresh clone ready: installs packages and builds, each only when something changed since the last time.
import { execFileSync, spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync, mkdirSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Where a script writes what ships with the project: in its place, or below the folder that is named to it. */
export const outputPath = (...parts) => {
  const path = join(process.argv[2] ?? root, ...parts);
  mkdirSync(dirname(path), { recursive: true });
  return path;
};

const stampOf = (file) => (existsSync(file) ? readFileSync(file, "utf8") : "");

/**
 * Runs a step with its output shown; ends the whole when it fails, unless it is asked how it ended.
 *
 * @type {(title: string, command: string, args: string[], how?: { isAsked?: boolean, env?: NodeJS.ProcessEnv }) => number}
 */
export const step = (title, command, args, { isAsked = false, ...options } = {}) => {
  process.stderr.write(`\n— ${title}\n`);
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: "inherit", ...options });
  if (error !== undefined) process.stderr.write(`${command}: ${error.message}\n`);
  if (status !== 0 && !isAsked) process.exit(status ?? 1);
  return status ?? 1;
};

/** Runs a step beside others. Gives whether it went well, how long it took, and what it said. */
export const beside = (title, command, args) =>
  new Promise((resolve, reject) => {
    const begun = performance.now();
    const child = spawn(command, args, { cwd: root });
    let said = "";
    const take = (chunk) => (said += chunk);
    child.stdout.on("data", take);
    child.stderr.on("data", take);
    child.on("error", reject);
    child.on("close", (status) =>
      resolve({ title, isGood: status === 0, seconds: (performance.now() - begun) / 1000, said }),
    );
  });

/** Whether the packages are those that the lock file wants, and how that is noted. */
const installed = () => {
  const stampFile = join(root, "node_modules", ".lexicant-installed");
  const stamp = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .update(`${process.versions.modules} ${process.arch}`)
    .digest("hex");
  return { isSo: stampOf(stampFile) === stamp, note: () => writeFileSync(stampFile, stamp) };
};

const PACKAGES = ["ci", "--ignore-scripts", "--no-fund", "--no-audit"];
const ENGINE = ["rebuild", "better-sqlite3", "--no-fund", "--no-audit"];

/**
 * Installs the packages, and compiles the store's engine where no ready one can be had: some minutes of one core, in which
 * another can do what needs no engine. Gives the promise of that step; undefined where nothing is to be done.
 */
export const installBeside = () => {
  const packages = installed();
  if (packages.isSo) return undefined;
  step("install packages", "npm", PACKAGES);
  return beside("compile the store's engine", "npm", ENGINE).then((done) => {
    if (done.isGood) packages.note();
    return done;
  });
};

/** The same, one after the other. */
export const install = () => {
  const packages = installed();
  if (packages.isSo) return;
  step("install packages", "npm", PACKAGES);
  step("compile the store's engine, where no ready one can be had: some minutes", "npm", ENGINE);
  packages.note();
};

export const filesUnder = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesUnder(join(folder, entry.name)) : [join(folder, entry.name)],
  );

/** What a shell starts. */
const program = join(root, "dist", "main.js");

export const build = () => {
  const stampFile = join(root, "dist", ".built");
  const hash = createHash("sha256");
  for (const file of [
    ...filesUnder(join(root, "src")).sort(),
    ...filesUnder(join(root, "goods")).sort(),
    join(root, "scripts", "goods.mjs"),
    join(root, "scripts", "bundle.mjs"),
    join(root, "tsconfig.json"),
    join(root, "package-lock.json"),
  ])
    hash.update(`${file} ${statSync(file).size}`).update(readFileSync(file));
  const stamp = hash.digest("hex");
  if (stampOf(stampFile) === stamp && existsSync(program)) return;
  step("build", process.execPath, [join(root, "scripts", "bundle.mjs")]);
  step("make what is known of goods ready", process.execPath, [join(root, "scripts", "goods.mjs")]);
  writeFileSync(stampFile, stamp);
};

const hasProgram = (program) =>
  spawnSync("sh", ["-c", `command -v ${program}`], { stdio: "ignore" }).status === 0;

const hasPythonModule = (name) =>
  spawnSync("/usr/bin/python3", ["-c", `import ${name}`], { stdio: "ignore" }).status === 0;

/**
 * Programs of the system: installed on Debian as root, named elsewhere. `wanted` gives program → Debian package; a name
 * such as `python3:openpyxl` is a module of the system's Python.
 */
export const systemPrograms = (wanted) => {
  const isThere = (program) =>
    program.startsWith("python3:") ? hasPythonModule(program.slice("python3:".length)) : hasProgram(program);
  const missing = Object.entries(wanted).filter(([program]) => !isThere(program));
  if (missing.length === 0) return;
  const packages = [...new Set(missing.map(([, name]) => name))];
  const canInstall = process.getuid?.() === 0 && hasProgram("apt-get");
  if (!canInstall) {
    process.stderr.write(
      `Missing programs: ${missing.map(([program, name]) => `${program} (Debian package ${name})`).join(", ")}. Install them and try again.\n`,
    );
    process.exit(1);
  }
  step("find Debian's packages", "apt-get", ["update", "-qq"]);
  step(
    `install ${packages.join(", ")}`,
    "apt-get",
    ["install", "-y", "-qq", "--no-install-recommends", ...packages],
    {
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    },
  );
};

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  install();
  build();
  execFileSync(process.execPath, [program, "--version"], { stdio: "inherit" });
}
