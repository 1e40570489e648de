import { spawnSync } from "node:child_process";
import { describe, expect, it } from "vitest";
import { textWidth } from "../../src/report/text-width.js";
import { demoShop, smallShop } from "../kit/demo-shop.js";
import { environment, type MadeUpTerminal } from "../kit/process.js";
import { lexicant, mainFile, read, write } from "../kit/run.js";

interface Shown {
  readonly exit: number | null;
  readonly out: string;
  readonly err: string;
  readonly pages: readonly string[];
}

/** Runs a command line on a made-up terminal of so many columns. */
const onTerminal = (
  cwd: string,
  args: readonly string[],
  columns: number,
  colours: Omit<MadeUpTerminal, "columns"> = {},
): Shown => {
  const { exit, out, err, pages = [] } = lexicant(cwd, args, { terminal: { columns, ...colours } });
  return { exit, out, err, pages };
};

const shop = smallShop();
lexicant(shop, ["build", "lanternlist", "--quiet"]);
lexicant(shop, ["sent", "lanternlist", "--quiet"]);
lexicant(shop, ["set", "BC-1402", "price=9.90 GBP"]);

const answers: readonly (readonly string[])[] = [
  ["list", "--limit", "300"],
  ["show", "BC-1301-WHITE-M"],
  ["show", "BC-1301-WHITE-M", "--history"],
  ["sources"],
  ["sources", "show", "shop-export"],
  ["history"],
  ["channels"],
  ["categories", "merrowgate", "hive"],
  ["fields", "gavelstead", "Bees & Honey > Hives > Whole Hives"],
  ["values", "fjordhandel", "colour"],
  ["place", "merrowgate", "--list"],
  ["fills", "merrowgate", "--all"],
  ["lexicon", "fjordhandel", "--list"],
  ["functions"],
  ["try", "price * 1.2"],
  ["try", 'fit_before("{name}, {brand}", "{color}{, size}", 60)', "--sku", "BC-1301-WHITE-M"],
  ["check", "--all"],
  ["check", "--sku", "BC-1301-WHITE-M"],
  ["readiness", "--by", "category", "--limit", "300"],
  ["explain", "BC-1301-WHITE-M", "merrowgate", "--all"],
  ["explain", "BC-1301-WHITE-M", "merrowgate", "item_title"],
  ["gaps", "merrowgate", "fjordhandel"],
  ["build", "--dry-run"],
  ["diff", "lanternlist"],
  ["ledger", "lanternlist"],
  ["ledger", "lanternlist", "BC-1402"],
  ["help"],
  ["help", "build"],
];

/** Cells that stand beside each other. A sentence is left to the terminal, which breaks it so that it can be copied. */
const isRow = (line: string): boolean => /\S {2,}\S/.test(line);

describe("answers on a terminal", () => {
  it.each(answers.map((args) => [args.join(" "), args] as const))(
    "when %s is asked at 80 columns, then no table is wider",
    (_, args) => {
      const { out, err, pages } = onTerminal(shop, args, 80);
      const lines = [out, err, ...pages].join("").split("\n");
      expect(lines.length).toBeGreaterThan(1);
      expect(lines.filter((line) => textWidth(line) > 80 && isRow(line))).toEqual([]);
    },
  );

  it("when an answer only answers, then it is shown page by page; where work is done, it is not", () => {
    const listed = onTerminal(shop, ["list"], 80);
    expect([listed.out, listed.pages.length]).toEqual(["", 1]);
    expect(onTerminal(shop, ["list", "--no-pager"], 80).pages).toEqual([]);
    expect(onTerminal(shop, ["list", "--json", "--limit", "1"], 80).pages).toEqual([]);
    expect(onTerminal(shop, ["build", "--dry-run"], 80).pages).toEqual([]);
    expect(onTerminal(shop, ["place", "merrowgate", "--list"], 80).pages).toHaveLength(1);
    const held = onTerminal(shop, ["check", "--where", "nonsense("], 80);
    expect([held.exit, held.pages]).toEqual([2, []]);
  });

  it("when colours are asked for or not, then they follow that, and messages in a file have none", () => {
    const colour = "\u001b[";
    const seen = (args: readonly string[], own: Omit<MadeUpTerminal, "columns">): readonly boolean[] => {
      const { out, err, pages } = onTerminal(shop, args, 80, own);
      return [(out + pages.join("")).includes(colour), err.includes(colour)];
    };
    const both = { colors: true, errorColors: true };
    expect(seen(["list", "--limit", "2"], both)).toEqual([true, false]);
    expect(seen(["list", "--limit", "2", "--color", "never"], both)).toEqual([false, false]);
    expect(seen(["list", "--color=always", "--limit", "2"], {})).toEqual([true, false]);
    expect(seen(["show", "NOPE"], both)).toEqual([false, true]);
    expect(seen(["show", "NOPE"], { colors: true, errorColors: false })).toEqual([false, false]);
    expect(onTerminal(shop, ["list", "--color", "blue"], 80).err).toContain(
      "--color is one of auto, always, never",
    );
  });
});

/** Types at the program's own terminal: each text when the one before was answered, `^C` for Ctrl+C. */
const typed = (
  cwd: string,
  args: readonly string[],
  texts: readonly string[],
  env: Readonly<Record<string, string>> = {},
) => {
  const script = `
import json, os, pty, select, sys, time
args, texts = json.loads(sys.argv[1]), json.loads(sys.argv[2])
pid, fd = pty.fork()
if pid == 0:
  os.execv(args[0], args)
out, waiting = "", list(texts)
end = time.time() + 60
while time.time() < end:
  ready, _, _ = select.select([fd], [], [], 0.2)
  if ready:
    try: chunk = os.read(fd, 65536)
    except OSError: break
    if not chunk: break
    out += chunk.decode("utf-8", "replace")
  elif waiting and "ends; ? helps:" in out[-400:]:
    text = waiting.pop(0)
    os.write(fd, b"\\x03" if text == "^C" else (text + "\\r").encode())
    out += "\\n"
_, status = os.waitpid(pid, 0)
print(json.dumps({"exit": os.waitstatus_to_exitcode(status), "out": out}))`;
  const { stdout, stderr } = spawnSync(
    "/usr/bin/python3",
    [
      "-c",
      script,
      JSON.stringify([
        "/bin/sh",
        "-c",
        'stty rows 20 cols 100; exec "$0" "$@"',
        process.execPath,
        mainFile,
        ...args,
      ]),
      JSON.stringify(texts),
    ],
    { cwd, encoding: "utf8", env: { ...environment({}), TERM: "xterm", ...env } },
  );
  if (stdout === "") throw new Error(stderr);
  return JSON.parse(stdout) as { readonly exit: number; readonly out: string };
};

describe("a long answer at a person's terminal", () => {
  const shop = demoShop();
  const pager = { LEXICANT_PAGER: "sed 's/^/page: /'" };

  it("when it is longer than the window, then the pager has it; where it is not, or there is none, it is written", () => {
    const long = typed(shop, ["list"], [], pager).out;
    expect(long).toMatch(/^page: sku/);
    expect(long.trim()).toMatch(/products; \d+ more with --limit \d+$/);
    expect(typed(shop, ["list", "--limit", "3"], [], pager).out).not.toContain("page:");
    expect(typed(shop, ["list", "--no-pager"], [], pager).out).not.toContain("page:");
    const none = typed(shop, ["list"], [], { LEXICANT_PAGER: "no-such-pager" });
    expect([none.exit, none.out]).toEqual([0, expect.stringContaining("BC-1101-10")]);
  });
});

describe("a person at the questions of place", () => {
  it("when they ask for help, mistype a number and break it off, then what was answered is kept, and the end says so", () => {
    const own = demoShop();
    write(own, "channels/merrowgate/placements.csv", "our_category,channel_category\n");
    const { exit, out } = typed(own, ["place", "merrowgate"], ["?", "17", "", "^C"]);
    expect(out).toContain("words look among all categories");
    expect(out).toContain('"17" is none of them');
    expect(out).toMatch(/Broken off; 1 placement answered before is kept/);
    expect(exit).toBe(130);
    expect(read(own, "channels/merrowgate/placements.csv").trim().split("\n")).toHaveLength(2);
  });

  it("when they break it off at the first question, then nothing is written", () => {
    const own = demoShop();
    const before = read(own, "channels/fjordhandel/lexicon.csv");
    const { exit, out } = typed(own, ["lexicon", "fjordhandel"], ["^C"]);
    expect([exit, read(own, "channels/fjordhandel/lexicon.csv")]).toEqual([130, before]);
    expect(out).toContain("Broken off; nothing was written");
  });

  it("when nobody is to be asked, then the open ones are shown", () => {
    const { exit, out } = typed(demoShop(), ["lexicon", "fjordhandel", "--no-input"], []);
    expect([exit, out]).toEqual([0, expect.stringContaining("Decide one: lexicant lexicon")]);
  });
});
