import { readdirSync } from "node:fs";
import { join } from "node:path";
import { Ajv2020, type ValidateFunction } from "ajv/dist/2020.js";
import { describe, expect, it } from "vitest";
import { commands } from "../../src/commands/commands.js";
import { smallShop } from "../kit/demo-shop.js";
import { exchangeEnvironment, reaching, startSandbox } from "../kit/sandbox.js";
import { rawLines, lexicant, projectRoot, read, temporaryFolder, write } from "../kit/run.js";

const folder = join(projectRoot, "docs", "schemas");

type Schema = Readonly<Record<string, unknown>> & { readonly $defs?: Readonly<Record<string, unknown>> };

const schemaOf = (command: string): Schema => JSON.parse(read(folder, `${command}.schema.json`)) as Schema;

/** The same schema in which nothing goes that it does not name: whatever an answer has is written down. */
const closed = (schema: unknown): unknown => {
  if (Array.isArray(schema)) return schema.map(closed);
  if (typeof schema !== "object" || schema === null) return schema;
  const own = Object.fromEntries(Object.entries(schema).map(([key, value]) => [key, closed(value)]));
  const names = "properties" in schema && schema.properties !== null;
  return names && !("additionalProperties" in own) ? { ...own, additionalProperties: false } : own;
};

const validators = new Map<string, ValidateFunction>();

const validator = (command: string): ValidateFunction => {
  const known = validators.get(command);
  if (known !== undefined) return known;
  const ajv = new Ajv2020({ allErrors: true, discriminator: false, strict: false });
  const made = ajv.compile(closed(schemaOf(command)) as Schema);
  validators.set(command, made);
  return made;
};

const seen = new Set<string>();

/** Runs a command and holds every line of its answer against the command's schema. */
const told = (
  cwd: string,
  args: readonly string[],
  env: Readonly<Record<string, string>> = {},
): readonly string[] => {
  const [command = ""] = args;
  const { out, err } = lexicant(cwd, [...args, "--json"], { env });
  expect(err).toBe("");
  const validate = validator(command);
  const lines = rawLines(out);
  for (const line of lines) {
    if (!validate(line))
      throw new Error(
        `${args.join(" ")}: ${JSON.stringify(line).slice(0, 400)}\n${JSON.stringify(
          (validate.errors ?? []).filter(({ schemaPath }) =>
            schemaPath.includes(`/${String(line["type"])}/`),
          ),
          undefined,
          1,
        )}`,
      );
    seen.add(String(line["type"]));
  }
  return lines.map(({ type }) => String(type));
};

describe("what commands say to programs", () => {
  const shop = smallShop();
  // A material that Fjordhandel has no value for.
  lexicant(shop, ["set", "BC-1402", "material=slate"]);

  it("when a workspace is begun, then it is told", () => {
    const place = temporaryFolder();
    expect(told(place, ["init", "shop", "--channel", "merrowgate"])).toEqual(["workspace"]);
    expect(told(place, ["demo", "made-up"]).at(-1)).toBe("workspace");
  });

  it.each([
    [["list", "--limit", "40"]],
    [["show", "BC-1301-WHITE-M"]],
    [["show", "BC-1301-WHITE-M", "--history"]],
    [["show", "BC-3610-4"]],
    [["show", "BC-NONE"]],
    [["sources"]],
    [["sources", "show", "fernditch"]],
    [["history"]],
    [["channels"]],
    [["categories", "merrowgate", "hive"]],
    [["fields", "gavelstead", "Clothes & Shoes > Coats & Jackets"]],
    [["fields", "merrowgate", "Beekeeping > Hives > Hive Stands"]],
    [["values", "fjordhandel", "colour"]],
    [["place", "lanternlist"]],
    [["place", "lanternlist", "--accept-above", "10", "--dry-run"]],
    [["fills", "merrowgate"]],
    [["lexicon", "fjordhandel"]],
    [["lexicon", "fjordhandel", "--field", "material", "--set", "slate=steel", "--dry-run"]],
    [["functions"]],
    [["try", "price * 2", "--limit", "3"]],
    [["try", "price * weight", "--limit", "3"]],
    [["try", "fit(name, 5)", "--sku", "BC-1402"]],
    [["check"]],
    [["check", "--sku", "BC-1301-WHITE-M"]],
    [["check", "lanternlist", "--category", "Nobodys"]],
    [["readiness"]],
    [["readiness", "--by", "brand"]],
    [["readiness", "--by", "product", "--limit", "5"]],
    [["explain", "BC-1301-WHITE-M", "merrowgate"]],
    [["explain", "BC-1301-WHITE-M", "merrowgate", "brand_line"]],
    [["explain", "BC-9101", "lanternlist"]],
    [["explain", "BC-1101-10", "gavelstead", "hive_kind"]],
    [["gaps", "merrowgate"]],
    [["build", "lanternlist", "--part", "1/1"]],
    [["build", "lanternlist", "gavelstead"]],
    [["sent", "lanternlist", "--dry-run"]],
    [["sent", "lanternlist"]],
    [["ledger", "lanternlist", "--limit", "5"]],
    [["set", "BC-1402", "price=9.90 GBP"]],
    [["diff", "lanternlist"]],
    [["build", "lanternlist", "--category", "Hives"]],
    [["undo"]],
    [["set", "BC-1402", "--channel", "merrowgate", "name=Brush"]],
    [["unset", "merrowgate", "--dry-run"]],
    [["remove", "BC-1402", "--dry-run"]],
    [["export", "all.csv"]],
    [["channels", "add", "storefront"]],
    [
      [
        "channels",
        "learn",
        "tansyfield",
        "papers/tansyfield/goods-2026.xlsx",
        "papers/tansyfield/departments.csv",
      ],
    ],
    [["channels", "add", "tansyfield"]],
    [["channels", "learn", "tansyfield", "papers/tansyfield/goods-2027.xlsx", "--as", "2027"]],
    [["channels", "compare", "tansyfield", "1", "2027"]],
    [["channels", "upgrade", "tansyfield", "2027"]],
    [["channels", "upgrade", "tansyfield", "--back"]],
    [["lsit"]],
  ])("when it is %j, then every line is as its schema says", (args) => {
    expect(told(shop, args[0] === "lsit" ? ["list", "--limit", "no"] : args).length).toBeGreaterThan(0);
  });

  it("when files are imported, then what is said of each is in the schema", () => {
    write(shop, "goods.csv", "Code,Called,Costs\nQ1,Hive tool,3.50\nQ2,Bee brush,4.50\n");
    expect(told(shop, ["import", "goods.csv"])).toContain("proposal");
    write(shop, "sheet.csv", "sku,name,price,type\nQ1,Hive tool,3.50,tool\n");
    expect(told(shop, ["import", "sheet.csv", "--dry-run"])).toContain("import");
    expect(told(shop, ["import", "out/gaps/merrowgate.xlsx"])).toContain("answers");
  });

  it("when an attribute has a name of ours, then neither hides the other", () => {
    write(shop, "sources/odd.yaml", "layer: shop\nkey: sku\ncolumns:\n  sku: A\n  type: B\n  sku_type: B\n");
    write(shop, "odd.csv", "A,B\nBC-1402,tool\n");
    expect(lexicant(shop, ["import", "odd.csv", "--source", "odd"])).toMatchObject({ exit: 0 });
    const [product] = rawLines(lexicant(shop, ["show", "BC-1402", "--json"]).out);
    expect(product).toMatchObject({ type: "product", sku: "BC-1402", values: { type: "tool" } });
  });

  it("when things go to a channel and come back, then what is said of them is in the schemas", async () => {
    const sandbox = await startSandbox("--channel", "merrowgate");
    for (const line of sandbox.lines) {
      expect(validator("sandbox")(line)).toBe(true);
      seen.add(String(line["type"]));
    }
    const at = reaching(shop, sandbox, ["merrowgate"]);
    const exchanged = (...args: readonly string[]): readonly string[] => told(at, args, exchangeEnvironment);
    exchanged("build", "merrowgate");
    await sandbox.say({ channel: "merrowgate", dislikes: { field: "item_title", word: "copper" } });
    expect(exchanged("submit", "merrowgate", "--dry-run")).toEqual(["submit"]);
    expect(exchanged("submit", "merrowgate", "--check-only")).toEqual(["check-only"]);
    expect(exchanged("submit", "merrowgate", "--wait")).toEqual(["submit", "results"]);
    expect(exchanged("results", "merrowgate", "--job", "1")).toEqual(["results"]);
    expect(exchanged("jobs")).toEqual(["job"]);
    expect(exchanged("ledger", "merrowgate")).toContain("ledger");
    await sandbox.say({ channel: "merrowgate", reference: "BC-1104", cells: { item_title: "Other" } });
    await sandbox.say({ channel: "merrowgate", reference: "OTHER-1", cells: { item_ref: "OTHER-1" } });
    expect(exchanged("reconcile", "merrowgate", "--fix")).toEqual([
      "disagreement",
      "disagreement",
      "reconcile",
      "build",
      "build",
    ]);
    expect(exchanged("reconcile", "merrowgate", "--adopt").at(-1)).toBe("adopted");
    expect(exchanged("serve", "lanternlist", "--show-addresses")).toEqual(["address", "address"]);
    const { out } = lexicant(at, ["sync", "merrowgate", "--json"], { env: exchangeEnvironment });
    for (const line of rawLines(out)) {
      expect(validator("sync")(line)).toBe(true);
      seen.add(String(line["type"]));
    }
    await sandbox.stop();
  });

  it("when all is said, then every command has a schema, and each type of them was seen", () => {
    const files = readdirSync(folder).map((name) => name.replace(".schema.json", ""));
    const answering = commands.map(({ name }) => name).filter((name) => name !== "completion");
    expect(files.sort()).toEqual([...answering].sort());
    const types = new Set(
      files.flatMap((name) =>
        Object.entries(schemaOf(name).$defs ?? {}).flatMap(([type, def]) =>
          JSON.stringify(def).includes('"const"') ? [type] : [],
        ),
      ),
    );
    const others = ["links", "unset", "unset-value"].filter((type) => !seen.has(type));
    expect([...types].filter((type) => !seen.has(type) && !others.includes(type))).toEqual([]);
  });

  it("when a part is in several schemas, then it is the same in all", () => {
    const known = new Map<string, string>();
    for (const { name } of commands.filter((one) => one.name !== "completion"))
      for (const [type, def] of Object.entries(schemaOf(name).$defs ?? {})) {
        const text = JSON.stringify(def);
        expect(known.get(type) ?? text, `${name}: ${type}`).toBe(text);
        known.set(type, text);
      }
  });
});
