import { addAll } from "../core/many.js";
import { editPlan, oneAct } from "../flow/one-act.js";
import { shownItems } from "../core/catalogue/list-text.js";
import { command } from "./command.js";
import { named } from "./options/option.js";
import { editsFor } from "../core/catalogue/edits-layer.js";
import { cellReader, type CellNotes } from "../core/catalogue/cell-reader.js";
import { isUnread, RETRACTED } from "../core/catalogue/record.js";
import { attributeKind, isAttributeName, vocabulary } from "../core/catalogue/vocabulary.js";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { jsonLine } from "../report/json.js";
import type { ValueChange } from "../store/store.js";
import { isCurrency } from "../core/values/currencies.js";
import { CLEAR_WORD } from "../core/catalogue/record.js";
import type { Workspace } from "../workspace/workspace.js";
import type { CommandFile } from "./command-file.js";
import { withWritableCatalogue } from "../flow/open-catalogue.js";
import { refuseUnused, unknownSku } from "../flow/refusals.js";

interface NewAttribute {
  readonly attribute: string;
  readonly nearest: readonly string[];
}

interface Edit {
  readonly attribute: string;
  readonly text: string;
}

/** `lexicant set SKU attribute=value…`: single edits, which lie above all that files say. */
export const set: CommandFile = command({
  args: [
    ["<sku>", "the product's SKU"],
    [
      "<edits...>",
      `attribute=value; nothing behind the = takes the edit back, ${CLEAR_WORD} says that there is none`,
    ],
  ],
  options: {
    channel: named("--channel <name>", "for this channel alone"),
  },
  examples: [
    ["set BC-1301 name='Bee suit' price='89 GBP'", "two values of one product"],
    ["set BC-1301 --channel merrowgate name='Suit for bees'", "for one channel alone"],
  ],
  async run({ given, args, options, io }) {
    const [sku = "", ...written] = args;
    return withWritableCatalogue(options, io, async (open) => {
      const { workspace, store } = open;
      refuseUnused(given.channel, workspace);
      const product = await store.product(sku);
      if (product === undefined) throw new Refusal([await unknownSku(sku, store)]);
      const attributes = await store.attributes();
      const edits = editsOf(written, attributes, workspace);
      const added = newAmong(edits, attributes);
      const plan = editPlan(
        { layer: editsFor(given.channel), file: sku, at: io.now().toISOString(), tellChanges: true },
        edits.map(({ attribute }) => ({ attribute, column: "" })),
      );
      const { fate, revision } = await oneAct(open, async (transaction) => {
        const writer = await transaction.revision(plan);
        const [put] = await writer.put([
          { kind: "product", row: 0, texts: [sku, ...edits.map(({ text }) => text)], doubts: [] },
        ]);
        const changed = put?.fate === "changed" ? 1 : 0;
        const counts = { read: 1, added: 0, changed, unchanged: 1 - changed, rejected: 0 };
        return { fate: put, revision: await writer.finish(counts) };
      });
      const changes = fate?.fate === "changed" ? (fate.changes ?? []) : [];
      const brandNew = added.map(({ attribute }) => attribute);
      if (options.json)
        io.out(
          jsonLine({ type: "edit", sku, revision, channel: given.channel, changes, newAttributes: brandNew }),
        );
      else if (!options.quiet)
        io.out(`${[...lines(sku, changes, revision, given.channel), ...added.map(newLine)].join("\n")}\n`);
      return 0;
    });
  },
});

const newLine = ({ attribute, nearest: near }: NewAttribute): string =>
  `${attribute} is an attribute that no product had before${near.length === 0 ? "" : `; was ${near.join(" or ")} meant?`}`;

const shown = (text: string): string => (text === "" ? "nothing" : shownItems(text, ", "));

function lines(
  sku: string,
  changes: readonly ValueChange[],
  revision: number | undefined,
  channel: string | undefined,
): readonly string[] {
  if (revision === undefined) return [`${sku}: nothing is new; it stays as it is.`];
  const where = channel === undefined ? "" : ` on ${channel}`;
  return [
    // An edit for one channel shows there, not in the product as all channels see it.
    ...(changes.length === 0 ? [`${sku}${where}: noted.`] : []),
    ...changes
      .filter(({ attribute }) => attribute !== "sku")
      .map(
        ({ attribute, before, after }) => `${sku}${where}: ${attribute} ${shown(before)} → ${shown(after)}`,
      ),
    `This is revision ${revision}; to take it back: lexicant undo ${revision}`,
  ];
}

function editsOf(
  written: readonly string[],
  attributes: AttributeIndex,
  { manifest, kindOf }: Workspace,
): readonly Edit[] {
  const declared = Object.keys(manifest.attributes ?? {});
  const findings: Diagnostic[] = [];
  const edits = written.map((edit): Edit => {
    const at = edit.indexOf("=");
    const attribute = (at < 0 ? edit : edit.slice(0, at)).trim();
    const value = at < 0 ? "" : edit.slice(at + 1).trim();
    if (at < 0)
      findings.push(diagnostic("unknown-option", { reason: `"${edit}" is no edit; write attribute=value` }));
    else if (attribute === "sku")
      findings.push(
        diagnostic("unknown-option", { reason: "a SKU is never changed: add the product under its new one" }),
      );
    else if (!isAttributeName(attribute) || isSlip(attribute, attributes, declared))
      findings.push(
        diagnostic("unknown-attribute", { attribute, nearest: nearest(attribute, attributes.names) }),
      );
    if (value === "") return { attribute, text: RETRACTED };
    const notes: CellNotes = { findings: [], doubts: [] };
    const read = cellReader(
      { attribute, column: "", from: { kind: "column", index: 0 } },
      {
        file: "",
        units: {},
        listSeparator: "|",
        clearWord: CLEAR_WORD,
        currency: manifest.currency,
        decimalMark: ".",
        kindOf,
      },
    );
    const text = read(0, [value], notes);
    addAll(
      findings,
      notes.findings
        .filter(({ code }) => code === "unreadable-value")
        .map(({ facts }) =>
          "problem" in facts && facts.problem === "other-currency"
            ? diagnostic("unknown-option", {
                reason: `${attribute} holds amounts in ${attribute.split("@")[1] ?? manifest.currency}, and "${value}" names another currency`,
              })
            : diagnostic("unreadable-value", facts as never),
        ),
    );
    // What a person writes on purpose is no damage.
    return { attribute, text: text === "" || isUnread(text) ? value : text };
  });
  const names = edits.map(({ attribute }) => attribute);
  const repeated = new Set(names.filter((name, index) => names.indexOf(name) !== index));
  for (const name of repeated)
    findings.push(diagnostic("unknown-option", { reason: `${name} is given twice; give it once` }));
  if (findings.length > 0) throw new Refusal(findings);
  return edits;
}

/** Attributes that the catalogue does not have yet, with those that may have been meant. */
const newAmong = (edits: readonly Edit[], attributes: AttributeIndex): readonly NewAttribute[] =>
  edits
    .filter(
      ({ attribute, text }) =>
        text !== RETRACTED && attributes.slot(attribute) === undefined && !isMarkOf(attribute),
    )
    .map(({ attribute }) => ({ attribute, nearest: nearest(attribute, attributes.names) }));

/** Whether a name that the catalogue does not have is more likely a slip for one that it has: declare it in lexicant.yaml else. */
function isSlip(attribute: string, attributes: AttributeIndex, declared: readonly string[]): boolean {
  if (attributes.slot(attribute) !== undefined || declared.includes(attribute) || isMarkOf(attribute))
    return false;
  return attribute.includes("@") || nearest(attribute, attributes.names).length > 0;
}

/** A language or currency of an attribute of ours may be new to the catalogue. */
function isMarkOf(attribute: string): boolean {
  const [base = "", mark] = attribute.split("@");
  if (mark === undefined || !vocabulary.includes(base)) return false;
  const { kind } = attributeKind(base);
  return kind === "money"
    ? isCurrency(mark)
    : /^(?:text|html|url)$/.test(kind) && /^[a-z]{2,3}(?:-|$)/.test(mark);
}
