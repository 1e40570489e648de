import { addAll } from "../core/many.js";
import { acceptAbove } from "./options/shared-options.js";
import { command } from "./command.js";
import { flag, text, several } from "./options/option.js";
import { pathParts, pathText } from "../core/values/category-path.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { oneLine } from "../report/table.js";
import { decideAll } from "../flow/decide-all.js";
import type { CommandFile } from "./command-file.js";
import { brokenText } from "../report/answered.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { askTerms } from "../report/ask-terms.js";
import {
  termField,
  termsAccepted,
  termSet,
  writeTerms,
  type TermDecision,
} from "../flow/lexicon/terms-decided.js";
import { goodsKnownFor } from "../flow/known-goods.js";
import { unknownTerms, type UnknownTerm } from "../flow/lexicon/unknown-terms.js";
import { landFiles } from "../flow/as-writer.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { refuseUnknownCategory } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";

/** `lexicant lexicon CHANNEL`: our terms that the channel has no value for, and what each may mean there. */
export const lexicon: CommandFile = command({
  args: [["<channel>", "the channel"]],
  options: {
    acceptAbove,
    set: several(
      "--set <row>",
      '"our term=the channel\'s value" decides one of a --field; may be given several times',
      'is "our term=the channel\'s value"',
    ),
    field: text(
      "--field <field>",
      "only terms of this field of the channel",
      "is a field of the channel",
      300,
    ),
    in: text(
      "--in <category>",
      "what is decided counts in this category of ours and below only",
      "is one of our categories",
    ),
    list: flag("--list", "show what is unknown, and ask nothing"),
    dryRun: flag("--dry-run", "say what would be decided, and write nothing"),
  },
  examples: [
    ["lexicon fjordhandel", "answer one term after the other"],
    ["lexicon fjordhandel --accept-above 90", "take all that is sure"],
  ],
  async run({ given, args, options, io }) {
    const [channel = ""] = args;
    refuseTogether([
      [given.acceptAbove !== undefined, "--accept-above"],
      [given.set !== undefined, "--set"],
      [given.list, "--list"],
    ]);
    refuseIdle([
      [given.in !== undefined && given.list, "--in", "a decision, not with --list"],
      [given.dryRun && given.list, "--dry-run", "a decision, not with --list"],
    ]);
    const category = pathText(pathParts(given.in ?? ""));
    const dryRun = given.dryRun;
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const found = await loadChannel(workspace, store, channel, await surroundings());
      const { setup } = found;
      if (category !== "") await refuseUnknownCategory(category, store);
      const decided: TermDecision[] = await setTerms(given, setup, category);
      const field = given.field === undefined ? undefined : termField(given.field, setup);
      const terms = (
        decided.length > 0 ? [] : await unknownTerms(store, found, () => goodsKnownFor(workspace, channel))
      ).filter((one) => field === undefined || one.field === field);
      let isBroken = false;
      const keep = async (some: readonly TermDecision[]): Promise<void> => {
        if (some.length === 0 || dryRun) return;
        await landFiles(workspace.root, options, io, (landing) =>
          writeTerms({ workspace, landing }, setup.channel, some),
        );
      };
      if (given.acceptAbove !== undefined) addAll(decided, termsAccepted(terms, given.acceptAbove, category));
      if (decided.length > 0) await keep(decided);
      else if (given.acceptAbove === undefined && !given.list && !options.json && io.isAttended) {
        const answered = await askTerms(terms, category, io, (decision) => keep([decision]));
        addAll(decided, answered.decided);
        ({ isBroken } = answered);
      }
      if (isBroken) io.err(`${brokenText(decided.length, "row", dryRun)}\n`);
      if (options.json) {
        for (const decision of decided)
          io.out(jsonLine({ type: "lexicon-row", channel, ...decision, dryRun }));
        if (decided.length === 0) for (const one of terms) io.out(termJson(channel, one));
      } else io.out(`${report(setup, terms, decided, dryRun, io).join("\n")}\n`);
      return isBroken ? 130 : 0;
    });
  },
});

async function setTerms(
  { set = [], field }: { readonly set?: readonly string[] | undefined; readonly field?: string | undefined },
  setup: ChannelSetup,
  category: string,
): Promise<TermDecision[]> {
  if (set.length === 0) return [];
  if (field === undefined)
    throw new Refusal([
      diagnostic("unknown-option", { reason: "--set decides a term of one field: name it with --field" }),
    ]);
  const wanted = termField(field, setup);
  return decideAll("--set", set, (text) => termSet(text, wanted, setup, category));
}

const termJson = (channel: string, { field, term, list, products, sku, proposals }: UnknownTerm): string =>
  jsonLine({
    type: "unknown-term",
    channel,
    field: field.code,
    term,
    list: list.name,
    products,
    sku,
    proposals,
  });

function termLines({ term, products, proposals }: UnknownTerm, io: Io): readonly string[] {
  const style = styleFor(io);
  const [best, ...others] = proposals;
  const meant =
    best === undefined
      ? "no value is like it"
      : `${Math.round(best.confidence * 100)}% ${best.value}, ${best.reason}${others.length === 0 || best.confidence >= 0.9 ? "" : style.dim(`; or ${others.map(({ value }) => value).join(", ")}`)}`;
  return [oneLine(`  "${term}" (${countText(products, "product")}): ${meant}`, io)];
}

function report(
  { channel, definition, files }: ChannelSetup,
  terms: readonly UnknownTerm[],
  decided: readonly TermDecision[],
  dryRun: boolean,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const title = style.bold(`${definition.label} ${definition.version}`);
  if (decided.length > 0)
    return [
      `${title}: ${countText(decided.length, "row")} ${dryRun ? "would be written" : "written"} to ${files.lexicon}`,
      ...decided.map(
        ({ field, term, value, category }) =>
          `  ${field}: ${term} = ${value}${category === "" ? "" : ` in ${category}`}`,
      ),
      dryRun ? "Without --dry-run they are written." : `See what is left: lexicant lexicon ${channel} --list`,
    ];
  if (terms.length === 0)
    return [`${title}: every term of ours has its value. What else is in the way: lexicant check ${channel}`];
  const waiting = terms.reduce((sum, { products }) => sum + products, 0);
  const fields = [...new Set(terms.map(({ field }) => field))];
  const sure = terms.filter(({ proposals: [best] }) => (best?.confidence ?? 0) >= 0.9).length;
  const [first] = terms;
  return [
    `${title}: ${countText(terms.length, "term")} of ours ${terms.length === 1 ? "has" : "have"} no value there, which ${countText(waiting, "product")} ${waiting === 1 ? "waits" : "wait"} for`,
    ...fields.flatMap((field) => [
      `${style.bold(field.code)} (${field.label}); all its values: lexicant values ${channel} ${field.code}`,
      ...terms.filter((one) => one.field === field).flatMap((one) => termLines(one, io)),
    ]),
    ...(sure > 0
      ? [
          `Take the ${sure} that ${sure === 1 ? "is" : "are"} sure: lexicant lexicon ${channel} --accept-above 90`,
        ]
      : []),
    `Decide one: lexicant lexicon ${channel} --field ${first?.field.code ?? ""} --set "${first?.term ?? ""}=${first?.proposals[0]?.value ?? "VALUE"}"`,
  ];
}
