import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { commands } from "../../src/commands/commands.js";
import { demoShop, emptyShop } from "../kit/demo-shop.js";
import {
  copyOf,
  jsonLines,
  lexicant,
  lexicantProcess,
  mainFile,
  projectRoot,
  read,
  temporaryFolder,
  write,
} from "../kit/run.js";

const shop = demoShop();
write(shop, "demo-there/x", "");

const told = ({ out, err }: { readonly out: string; readonly err: string }): string =>
  (err === "" ? out : err).replace(/\s+/g, " ").trim();

/** Lines that somebody mistyped, or that ask for what cannot be: how each ends, and what is said. */
const wrong: readonly (readonly [line: readonly string[], exit: number, says: string])[] = [
  [["lsit"], 2, 'there is no command "lsit"; nearest: list; "lexicant help" shows them all'],
  [["help", "lsit"], 2, 'there is no command "lsit"; nearest: list; "lexicant help" shows them all'],
  [
    ["list", "--lmit", "3"],
    2,
    'unknown option "--lmit"; nearest: --limit; "lexicant help list" shows what there is',
  ],
  [["list", "--limit", "many"], 2, "--limit is a whole number"],
  [["list", "--limit", "0"], 2, "--limit is at least 1"],
  [
    ["list", "--limit", "3", "--limit", "4"],
    2,
    '--limit is given twice; give it once; "lexicant help list" shows what there is',
  ],
  [
    ["list", "extra"],
    2,
    'list takes no more than 0 arguments, and 1 are given; "lexicant help list" shows what there is',
  ],
  [
    ["list", "--category", "Hivess"],
    2,
    'no product is in a category "Hivess"; nearest: "Hives"; "lexicant list" shows them',
  ],
  [
    ["list", "--group", "bc-1301"],
    2,
    'there is no group "bc-1301"; nearest: "BC-1301", "BC-1101", "BC-1201"',
  ],
  [
    ["list", "--sku", "BC-14O2"],
    2,
    'there is no product "BC-14O2"; nearest: "BC-1402", "BC-1112", "BC-1202"; "lexicant list" shows them all',
  ],
  [["list", "--sku", "@nosuch.txt"], 2, 'there is no file "nosuch.txt"'],
  [["list", "--where", "price >"], 2, "a value is expected here price > ^"],
  [
    ["list", "--where", "colour = 'x'"],
    2,
    'there is no attribute "colour"; nearest: "color" colour = \'x\' ^^^^^^',
  ],
  [
    ["list", "--lacking", "merowgate"],
    2,
    '"merowgate" is not in use in this workspace; nearest: "merrowgate"',
  ],
  [
    ["list", "--changed", "--category", "Nowhere"],
    2,
    'no product is in a category "Nowhere"; "lexicant list" shows them',
  ],
  [["show"], 2, 'missing required argument "sku"; "lexicant help show" shows what there is'],
  [
    ["show", "BC-14O2"],
    2,
    'there is no product "BC-14O2"; nearest: "BC-1402", "BC-1112", "BC-1202"; "lexicant list" shows them all',
  ],
  [["show", "BC-1402", "--channel", "nosuch"], 2, '"nosuch" is not in use in this workspace'],
  [["set", "BC-1402"], 2, 'missing required argument "edits"; "lexicant help set" shows what there is'],
  [["set", "BC-1402", "price"], 2, '"price" is no edit; write attribute=value'],
  [["set", "BC-1402", "prise=5"], 2, 'no product has an attribute "prise"; nearest: "price"'],
  [["set", "BC-1402", "price=abc"], 2, 'price "abc": it is not a price, such as 12.50 or 12.50 GBP'],
  [["set", "BC-1402", "price=1", "price=2"], 2, "price is given twice; give it once"],
  [["set", "BC-1402", "sku=X"], 2, "a SKU is never changed: add the product under its new one"],
  [["set", "BC-1402", "price=-5"], 2, 'price "-5": it is below zero, which it cannot be'],
  [
    ["set", "BC-1402", "price@EUR=5 GBP"],
    2,
    'price@EUR holds amounts in EUR, and "5 GBP" names another currency',
  ],
  [["set", "BC-1402", "price@XYZ=5"], 2, 'no product has an attribute "price@XYZ"; nearest: "price"'],
  [["export"], 2, 'missing required argument "file"; "lexicant help export" shows what there is'],
  [
    ["export", "x.pdf"],
    2,
    'a sheet ends in .csv or .xlsx, and "x.pdf" does not (or write - for CSV on standard output)',
  ],
  [
    ["export", "lexicant.yaml"],
    2,
    'a sheet ends in .csv or .xlsx, and "lexicant.yaml" does not (or write - for CSV on standard output)',
  ],
  [["remove"], 2, "name the products to remove: their SKUs, or options that choose them, such as --where"],
  [
    ["remove", "BC-1402", "--where", "name is blank"],
    2,
    "name the products to remove: their SKUs, or options that choose them, such as --where",
  ],
  [
    ["remove", "BC-14O2"],
    2,
    'there is no product "BC-14O2"; nearest: "BC-1402", "BC-1112", "BC-1202"; "lexicant list" shows them all',
  ],
  [["unset", "nosuch"], 2, '"nosuch" is not in use in this workspace'],
  [["undo", "999"], 2, 'there is no revision "999"'],
  [["undo", "--through"], 2, "--through does nothing here: it goes with the number of a revision"],
  [["undo", "1", "--through", "--alone"], 2, "--through and --alone do not go together; give one of them"],
  [["import"], 2, "name the files to read; or say --again to read those of before"],
  [["import", "nosuch.csv"], 2, 'there is no file "nosuch.csv"'],
  [
    ["import", "data/shop-export.csv", "--drop-vanished"],
    2,
    "--drop-vanished does nothing here: it goes with --replace",
  ],
  [
    ["import", "data/shop-export.csv", "--sheet", "2"],
    2,
    "--sheet does nothing here: shop-export.csv is no workbook",
  ],
  [
    ["import", "data/tarnbeck-winter-list.xlsx", "--format", "csv"],
    2,
    "--format csv does nothing here: tarnbeck-winter-list.xlsx is xlsx",
  ],
  [
    ["import", "--source", "nosuch", "data/shop-export.csv"],
    2,
    "nothing was imported: sources/nosuch.yaml does not exist yet; look at the proposal above, then run the same ag",
  ],
  [
    ["sources", "show", "nosuch"],
    2,
    'there is no source "nosuch"; there are: "fernditch", "lanternlist-words", "shop-export", "stock", "tarnbeck-wi',
  ],
  [
    ["channels", "add", "nosuch"],
    2,
    'there is no channel "nosuch"; there are: "chatterquay", "fjordhandel", "gavelstead", "lanternlist", "merrowgat',
  ],
  [
    ["channels", "remove", "merrowgate"],
    2,
    'there is no "lexicant channels remove"; there are add, learn, compare, upgrade',
  ],
  [
    ["categories", "nosuch"],
    2,
    'there is no channel "nosuch"; there are: "chatterquay", "fjordhandel", "gavelstead", "lanternlist", "merrowgat',
  ],
  [["fields", "merrowgate", "NOPE"], 2, '"NOPE" is no category of the channel'],
  [["values", "merrowgate", "nosuch"], 2, '"nosuch" is no field of the channel'],
  [["values", "merrowgate", "colour"], 2, '"colour" is no field of the channel'],
  [["place", "merrowgate", "--set", "Pots > Clay pots=NOPE"], 2, '"NOPE" is no category of the channel'],
  [
    ["place", "merrowgate", "--set", "Nowhere=CLGB"],
    2,
    'no product is in a category "Nowhere"; "lexicant list" shows them',
  ],
  [
    ["place", "merrowgate", "--list", "--accept-above", "90"],
    2,
    "--accept-above and --list do not go together; give one of them",
  ],
  [["place", "merrowgate", "--accept-above", "0.9"], 2, "--accept-above is a share in percent, such as 90"],
  [
    ["lexicon", "fjordhandel", "--set", "slate=steel"],
    2,
    "--set decides a term of one field: name it with --field",
  ],
  [
    ["lexicon", "fjordhandel", "--field", "material", "--set", "slate"],
    2,
    '--set "slate" is no row of a lexicon; write --set "our term=the channel\'s value"',
  ],
  [
    ["lexicon", "fjordhandel", "--field", "material", "--set", "slate=stoone"],
    2,
    '"stoone" is not a value of Material; "lexicant values fjordhandel material" shows them all',
  ],
  [
    ["lexicon", "fjordhandel", "--in", "Nowhere", "--field", "material", "--set", "slate=steel"],
    2,
    'no product is in a category "Nowhere"; "lexicant list" shows them',
  ],
  [["fills", "merrowgate", "NOPE"], 2, '"NOPE" is no category of the channel'],
  [
    ["functions", "nosuchfunction"],
    0,
    "No function is described with these words. All of them: lexicant functions",
  ],
  [["try"], 2, 'missing required argument "expression"; "lexicant help try" shows what there is'],
  [
    ["try", "nosuch(name)"],
    2,
    'there is no function "nosuch"; all of them: "lexicant functions" nosuch(name) ^^^^^^^^^^^^',
  ],
  [["try", "name", "--sku", "NOPE"], 2, 'there is no product "NOPE"; "lexicant list" shows them all'],
  [
    ["check", "nosuch"],
    2,
    'there is no channel "nosuch"; there are: "lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterqua',
  ],
  [
    ["check", "--code", "missing"],
    2,
    '--code: "missing" is no finding\'s code; nearest: "link-missing", "missing-column", "missing-file"',
  ],
  [["check", "--field", "nosuch"], 2, '"nosuch" is no field of the channel'],
  [["check", "--placed-in", "NOPE"], 2, '"NOPE" is no category of the channel'],
  [["check", "--private-addresses"], 2, "--private-addresses does nothing here: it goes with --links"],
  [["check", "--csv", "--sarif"], 2, "--csv and --sarif do not go together; give one of them"],
  [["check", "--csv", "--links"], 2, "--csv and --links do not go together; give one of them"],
  [["readiness", "--by", "colour"], 2, "--by is one of channel, category, brand, product"],
  [["readiness", "--below", "120"], 2, "--below is at most 100"],
  [["explain", "BC-1402", "merrowgate", "nosuch"], 2, '"nosuch" is no field of the channel'],
  [
    ["explain", "BC-1402"],
    2,
    'missing required argument "channel"; "lexicant help explain" shows what there is',
  ],
  [["gaps"], 2, 'missing required argument "channels"; "lexicant help gaps" shows what there is'],
  [["gaps", "merrowgate", "--out", "x.ods"], 2, "--out ends in .xlsx or .csv"],
  [
    ["build", "nosuch"],
    2,
    'there is no channel "nosuch"; there are: "lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterqua',
  ],
  [
    ["build", "chatterquay", "--purpose", "stock"],
    2,
    'Chatterquay takes no "stock" files; its purposes are "full", "offer", "withdraw"',
  ],
  [["build", "--purpose", "stok"], 2, "--purpose is one of full, amend, offer, stock, withdraw"],
  [["build", "--only", "price"], 2, "--only does nothing here: it goes with --purpose amend"],
  [
    ["build", "merrowgate", "--purpose", "amend", "--only", "nosuch"],
    2,
    '"nosuch" is no field of the channel',
  ],
  [["build", "--yes"], 2, "--yes does nothing here: it goes with --purpose withdraw"],
  [
    ["build", "--purpose", "withdraw", "--limit", "3"],
    2,
    "--limit does nothing here: it goes with files of listings, not with --purpose withdraw",
  ],
  [["build", "--confirm-prices", "NOPE"], 2, 'there is no product "NOPE"; "lexicant list" shows them all'],
  [["build", "--failed", "nosuch.csv"], 2, "--failed: refusals are one channel's; name that channel"],
  [["build", "lanternlist", "--failed", "data/stock-2026-11-24.csv"], 2, 'the source reads a column "ref"'],
  [
    ["diff", "nosuch"],
    2,
    'there is no channel "nosuch"; there are: "lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterqua',
  ],
  [["diff", "merrowgate", "--against", "yesterday"], 2, "--against is sent or built"],
  [["sent", "merrowgate", "nosuch.xlsx"], 2, '"nosuch.xlsx" is no file of the last build; there is none yet'],
  [["sent", "merrowgate"], 1, "There is no build to be sent yet. Next: lexicant build merrowgate"],
  [["ledger", "merrowgate", "NOPE"], 2, 'there is no product "NOPE"; "lexicant list" shows them all'],
  [["completion", "tcsh"], 2, '"tcsh" is none of bash, zsh, fish'],
  [["-C", "nosuch", "list"], 2, '-C names no workspace: there is no lexicant.yaml in "nosuch"'],
  [["-C", "data", "list"], 2, '-C names no workspace: there is no lexicant.yaml in "data"'],
  [["--color", "blue", "list"], 2, "--color is one of auto, always, never"],
  [["-C", "x", "init", "y"], 2, "the new folder is named twice: as y and by -C x; give one of them"],
  [["init"], 2, '"." is a workspace already; nothing was changed'],
  [["demo", "demo-there"], 2, '"demo-there" is not empty; name a new folder'],
  [["explain", "BC-1402", "merrowgate", "item_title", "--all"], 2, "--all does nothing here"],
  [["try", "name", "--sku", "BC-1402", "--limit", "3"], 2, "--limit does nothing here"],
  [["ledger", "merrowgate", "BC-1402", "--limit", "3"], 2, "--limit does nothing here"],
  [["export", "-", "--json"], 2, "--json does nothing here"],
  [["fields", "merrowgate", "BCBF", "--all", "--json"], 2, "--all does nothing here"],
  [["completion", "bash", "--json"], 2, "--json does nothing here"],
  [["init", ".", "--channel", "storefront", "--shop", "X"], 2, "--shop does nothing here"],
];

describe("lines that are wrong", () => {
  it.each(wrong.map(([line, exit, says]) => [line.join(" "), line, exit, says] as const))(
    "when it is %s, then it says what is wrong, and changes nothing",
    (_, line, exit, says) => {
      const ran = lexicant(shop, line);
      expect(told(ran)).toContain(says);
      expect(ran.exit).toBe(exit);
      expect(ran.err).not.toMatch(/\bat .*\.js:|undefined|\[object/);
    },
  );

  it("when all of them were tried, then the shop is as it was", () => {
    expect(lexicant(shop, ["history", "--json"]).out).toBe(lexicant(demoShop(), ["history", "--json"]).out);
    expect(wrong.length).toBeGreaterThan(60);
  });
});

describe("the words of the command line", () => {
  it.each(commands.map(({ name }) => name))(
    "when help is asked for %s, then it shows examples that are commands",
    async (name) => {
      const { exit, out } = lexicant(shop, ["help", name]);
      expect(exit).toBe(0);
      expect(out).toBe(lexicant(shop, [name, "--help"]).out);
      const file = await commands.find((one) => one.name === name)?.load();
      expect(file?.examples.length).toBeGreaterThan(0);
      for (const [line] of file?.examples ?? []) {
        expect(out).toContain(`lexicant ${line}`);
        expect(line.split(" ")[0]).toBe(name);
      }
    },
  );

  it("when all commands are listed, then they stand in groups, in the order of the work", () => {
    const { out } = lexicant(shop, ["help"]);
    const at = [...new Set(commands.map(({ group }) => group))].map((group) => out.indexOf(`\n${group}:`));
    expect(at.every((place) => place > 0)).toBe(true);
    expect(at).toEqual([...at].sort((a, b) => a - b));
  });

  it("when the workspace is named by -C or the environment, then it is that one and never one around it", () => {
    const { out } = lexicant("/", ["list", "--limit", "1", "--quiet", "-C", shop]);
    expect(out).toContain("BC-1101-10");
    expect(lexicant("/", ["list", "--limit", "1"], { env: { LEXICANT_WORKSPACE: shop } }).out).toContain(
      "BC-1101-10",
    );
    expect(lexicant(join(shop, "data"), ["list", "--limit", "1"]).out).toContain("BC-1101-10");
    expect(lexicant(shop, ["-C", "data", "list"])).toMatchObject({ exit: 2, out: "" });
    expect(lexicant(shop, ["list"], { env: { LEXICANT_WORKSPACE: "data" } }).err).toContain(
      "LEXICANT_WORKSPACE names no workspace",
    );
  });

  it("when the environment says what it cannot, then that is told", () => {
    expect(lexicant(shop, ["list"], { env: { LEXICANT_TODAY: "tomorrow" } })).toMatchObject({
      ...{ exit: 2, out: "" },
      err: expect.stringContaining("LEXICANT_TODAY is a day"),
    });
    expect(
      told({ out: "", err: lexicant(shop, ["list"], { env: { LEXICANT_WORKSPCE: shop } }).err }),
    ).toContain("LEXICANT_WORKSPCE is read by nothing; nearest: LEXICANT_WORKSPACE");
  });

  it("when all is to be quiet, then errors are told all the same", () => {
    const own = emptyShop();
    write(own, "sources/goods.yaml", "layer: goods\nkey: sku\ncolumns:\n  sku: SKU\n  price: Price\n");
    write(own, "lexicant.yaml", read(own, "lexicant.yaml").replace("layers: []", "layers: [goods]"));
    write(own, "goods.csv", "SKU,Price\nA,1.00\n,2.00\n");
    const { exit, out, err } = lexicant(own, ["import", "goods.csv", "--quiet"]);
    expect([exit, out]).toEqual([0, ""]);
    expect(err).toContain("the row has no sku");
    expect(lexicant(own, ["import", "goods.csv", "--quiet", "--strict"]).exit).toBe(1);
    expect(lexicant(own, ["show", "NOPE", "--quiet"]).err).toContain("no product");
  });
});

describe("how commands end", () => {
  it("when some is held, then a build is done; strictly it is not; where all is held, nothing is", () => {
    const own = copyOf(shop);
    expect(lexicant(own, ["build", "lanternlist"]).exit).toBe(0);
    expect(lexicant(own, ["build", "lanternlist", "--strict"]).exit).toBe(1);
    const held = jsonLines(lexicant(own, ["list", "--lacking", "lanternlist", "--json"]).out)[0]?.[
      "sku"
    ] as string;
    const none = lexicant(own, ["build", "lanternlist", "--sku", held]);
    expect([none.exit, none.out]).toEqual([1, expect.stringContaining("no listing is for this file")]);
    expect(lexicant(own, ["check", "lanternlist"]).exit).toBe(1);
    expect(lexicant(own, ["explain", held, "lanternlist"]).exit).toBe(0);
  });

  it("when its reader goes away, then a listing ends at once and says so", () => {
    const { exit, err } = lexicantProcess(shop, ["list", "--json"], {
      shell: '"$0" "$@" | head -1 > /dev/null; exit ${PIPESTATUS[0]}',
    });
    expect([exit, err]).toEqual([141, ""]);
  });
});

describe("completion", () => {
  const words = (...line: readonly string[]): readonly string[] =>
    lexicant(shop, ["completion", "words", "--", ...line])
      .out.split("\n")
      .filter(Boolean);

  it("when a word is begun, then commands, options, channels, categories, fields and SKUs end it", () => {
    expect(words("re")).toEqual(["remove", "readiness", "results", "reconcile"]);
    expect(words("build", "--pu")).toEqual(["--purpose"]);
    expect(words("build", "--purpose", "")).toContain("withdraw");
    expect(words("build", "mer")).toEqual(["merrowgate"]);
    expect(words("show", "BC-1301-WHITE-")).toEqual([
      "BC-1301-WHITE-L",
      "BC-1301-WHITE-M",
      "BC-1301-WHITE-S",
      "BC-1301-WHITE-XL",
      "BC-1301-WHITE-XXL",
    ]);
    expect(words("list", "--category", "Beekeeping > Bee c")).toContain("Beekeeping > Bee clothing > Suits");
    expect(words("explain", "BC-1402", "merrowgate", "item_")).toEqual(["item_ref", "item_title"]);
    expect(words("fields", "merrowgate", "BCB")).toContain("BCBF");
    expect(words("set", "BC-1402", "pri")).toContain("price=");
    expect(words("check", "--code", "missing-r")).toEqual(["missing-required", "missing-recommended"]);
    expect(lexicant("/", ["completion", "words", "--", "-C", shop, "show", "BC-1402"]).out).toBe("BC-1402\n");
    expect(lexicant(temporaryFolder(), ["completion", "words", "--", "show", "BC"])).toMatchObject({
      exit: 0,
      out: "",
      err: "",
    });
  });

  it("when bash is given its script, then it completes as a person would see it", () => {
    const script = `PATH="${projectRoot}/test/kit:$PATH"
lexicant() { "${process.execPath}" "${mainFile}" "$@"; }
eval "$(lexicant completion bash)"
complete -p lexicant
COMP_WORDS=(lexicant list --category "Beekeeping > Bee clothing > Su"); COMP_CWORD=3; _lexicant; printf '%s\\n' "\${COMPREPLY[@]}"`;
    const { stdout, stderr } = spawnSync("bash", ["-c", script], { cwd: shop, encoding: "utf8" });
    expect(stderr).toBe("");
    expect(stdout).toBe(
      "complete -o default -F _lexicant lexicant\nBeekeeping\\ \\>\\ Bee\\ clothing\\ \\>\\ Suits\n",
    );
  });
});

describe("the manual", () => {
  it("when another program reads it, then every command and variable is in it, and nothing is faulty", () => {
    const page = readFileSync(join(projectRoot, "man", "lexicant.1"), "utf8");
    for (const { name } of commands) expect(page).toContain(`\n.SS ${name}`);
    for (const name of ["LEXICANT_WORKSPACE", "NO_COLOR", "141"]) expect(page).toContain(name);
    const groff = spawnSync("groff", ["-man", "-Tutf8", "-ww", "-z"], { input: page, encoding: "utf8" });
    // A machine without it has still the page; where it is there, it finds no fault.
    if (groff.error === undefined) expect(groff.stderr).toBe("");
  });
});
