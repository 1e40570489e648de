import { editsFor } from "../../../core/catalogue/edits-layer.js";
import { causeCollector, type CauseCollector } from "../../../core/diagnostics/causes.js";
import { diagnostic, isError, type Diagnostic } from "../../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../../core/diagnostics/refusal.js";
import { checkAnswer, type AskingField } from "../../../core/gaps/check-answer.js";
import type { Answer } from "../../../core/gaps/read-sheet.js";
import { answerAttribute } from "../../../core/listing/answers.js";
import { isHeld, type Listing } from "../../../core/listing/listing.js";
import type { Surroundings } from "../../../core/language/function.js";
import type { ByteSource } from "../../../formats/byte-source.js";
import type { CatalogueTransaction, Store } from "../../../store/store.js";
import type { WorkspaceChannel } from "../../../workspace/channel-files.js";
import type { Workspace } from "../../../workspace/workspace.js";
import { writeTerms, type TermDecision } from "../lexicon/terms-decided.js";
import { unknownSku } from "../refusals.js";
import { loadChannels, provenanceIn } from "../run-channels.js";
import { standingsOf, type Standings } from "./asked-products.js";
import { filledSheets, type FilledSheet } from "./filled-sheets.js";

export interface AnswersRequest {
  readonly files: readonly ByteSource[];
  readonly at: string;
  readonly surroundings: Surroundings;
  readonly dryRun: boolean;
  /** Told of each finding as it comes. */
  onFinding(finding: Diagnostic): void;
}

/** What became of the answers of some gap sheets. */
export interface AnswersResult {
  readonly sheets: number;
  readonly answers: number;
  /** Cells whose answers were taken, by where they went. */
  readonly catalogue: number;
  readonly channel: number;
  readonly lexicon: number;
  /** Taken answers that say nothing new. */
  readonly unchanged: number;
  readonly refused: number;
  readonly revisions: readonly number[];
  /** By channel: of the products in the sheets, those held before and ready now, and those still held. */
  readonly channels: readonly {
    readonly channel: string;
    readonly label: string;
    readonly becameReady: number;
    readonly stillHeld: number;
  }[];
  readonly causes: CauseCollector;
}

interface Accepted {
  readonly answer: Answer;
  readonly sheet: FilledSheet;
  readonly layer: string;
  readonly attribute: string;
  readonly text: string;
}

interface AcceptedTerm extends TermDecision {
  readonly channel: string;
  readonly answer: Answer;
}

/** Takes the answers of filled gap sheets: right ones land together in one act, wrong ones are told by their cells. */
export const takeAnswers = async (
  workspace: Workspace,
  store: Store,
  request: AnswersRequest,
): Promise<AnswersResult> => {
  const sheets: FilledSheet[] = [];
  for (const file of request.files) sheets.push(...(await filledSheets(file)));
  refuseForeign(sheets, workspace);
  const causes = causeCollector();
  const tell = (finding: Diagnostic): void => {
    causes.add(finding);
    request.onFinding(finding);
  };
  const names = [...new Set(sheets.flatMap(({ facts }) => Object.keys(facts.channels)))];
  const channels = await loadChannels(workspace, store, names, request.surroundings);
  tellOlder(sheets, channels, tell);
  const before = standingsOf(channels, await provenanceIn(store));
  const reading = new Reading({ channels, store, currency: workspace.manifest.currency, tell }, before);
  for (const sheet of sheets) {
    sheet.findings.forEach(tell);
    for (const answer of sheet.answers) await reading.take(answer, sheet);
  }
  const { accepted, terms } = reading;
  const transaction = await store.begin();
  try {
    const put = await putAnswers(transaction, accepted, request.at);
    const after = await standingsAfter(transaction, store, channels, reading);
    tellStillWrong(reading, before.standings, after, tell);
    if (request.dryRun) await transaction.rollback();
    else {
      // Rows of a lexicon are written first: should the rest not land, the sheet is imported again.
      for (const { setup } of channels) {
        const own = terms.filter(({ channel }) => channel === setup.channel);
        if (own.length > 0) await writeTerms(workspace, setup.channel, own);
      }
      await transaction.commit();
    }
    const answers = sheets.reduce((sum, sheet) => sum + sheet.answers.length, 0);
    return {
      sheets: sheets.length,
      answers,
      catalogue: accepted.filter(({ answer }) => answer.target.kind === "attribute").length,
      channel: accepted.filter(({ answer }) => answer.target.kind === "field").length,
      lexicon: terms.length,
      unchanged: put.unchanged,
      refused: reading.refused,
      revisions: put.revisions,
      channels: channels.map(({ setup }) => ({
        channel: setup.channel,
        label: setup.definition.label,
        ...progress(before.standings.get(setup.channel), after.get(setup.channel), reading.skus),
      })),
      causes,
    };
  } catch (error) {
    await transaction.rollback();
    throw error;
  }
};

const refuseForeign = (sheets: readonly FilledSheet[], { manifest }: Workspace): void => {
  const foreign = sheets.filter(({ facts }) => facts.shop !== manifest.shop);
  if (foreign.length > 0)
    throw new Refusal(
      foreign.map(({ facts, file }) =>
        diagnostic("another-shop", { shop: facts.shop, own: manifest.shop }, { place: { file, row: 1 } }),
      ),
    );
};

const tellOlder = (
  sheets: readonly FilledSheet[],
  channels: readonly WorkspaceChannel[],
  tell: (finding: Diagnostic) => void,
): void => {
  for (const { facts, file } of sheets)
    for (const { setup } of channels) {
      const then = facts.channels[setup.channel];
      const now = setup.definition.version;
      if (then !== undefined && then !== now)
        tell(
          diagnostic("older-sheet", { channel: setup.definition.label, then, now }, { place: { file, row: 1 } }, "warning"),
        );
    }
};

interface ReadingWith {
  readonly channels: readonly WorkspaceChannel[];
  readonly store: Store;
  readonly currency: string;
  tell(finding: Diagnostic): void;
}

/** Goes through answers and keeps those that are right. */
class Reading {
  readonly accepted: Accepted[] = [];
  readonly terms: AcceptedTerm[] = [];
  /** The products that the sheets speak of. */
  readonly skus = new Set<string>();
  refused = 0;
  private readonly known = new Map<string, boolean>();

  constructor(
    private readonly work: ReadingWith,
    private readonly before: ReturnType<typeof standingsOf>,
  ) {}

  async take(answer: Answer, sheet: FilledSheet): Promise<void> {
    if (!(await this.isKnown(answer))) return;
    const asking = this.askingOf(answer);
    const { target } = answer;
    if (target.kind !== "attribute" && asking.length === 0) {
      this.refuse(
        diagnostic(
          "answer-without-question",
          { channel: target.channel, field: target.field },
          { product: answer.sku as never, place: answer.place },
          "warning",
        ),
      );
      return;
    }
    const checked = checkAnswer(answer, asking, this.work.currency);
    if ("findings" in checked) {
      checked.findings.forEach(this.work.tell);
      this.refused++;
      return;
    }
    if (target.kind === "term") this.takeTerm(answer, asking[0], checked.text);
    else
      this.accepted.push({
        ...{ answer, sheet, text: checked.text },
        layer: editsFor(target.kind === "attribute" ? undefined : target.channel),
        attribute: target.kind === "attribute" ? target.attribute : answerAttribute(target.field),
      });
  }

  private refuse(finding: Diagnostic): void {
    this.work.tell(finding);
    this.refused++;
  }

  /** Whether a product has the SKU; looked up, and run through the channels, once. */
  private async isKnown({ sku, place }: Answer): Promise<boolean> {
    const known = this.known.get(sku);
    if (known !== undefined) {
      if (!known) this.refused++;
      return known;
    }
    const family = await this.work.store.familyOf(sku);
    const isThere = family?.members.some((member) => member.sku === sku) === true;
    this.known.set(sku, isThere);
    if (!isThere) this.refuse({ ...(await unknownSku(sku, this.work.store)), place });
    else {
      this.skus.add(sku);
      if (family !== undefined) this.before.add(family);
    }
    return isThere;
  }

  private listingOn(channel: string, sku: string): Listing | undefined {
    return this.before.standings.get(channel)?.get(sku)?.listing;
  }

  private askingOf({ askers, target, sku }: Answer): readonly AskingField[] {
    const own = target.kind === "attribute" ? askers : [{ channel: target.channel, field: target.field }];
    return own.flatMap(({ channel, field }): readonly AskingField[] => {
      const setup = this.work.channels.find((one) => one.setup.channel === channel)?.setup;
      const listing = this.listingOn(channel, sku);
      const rule = listing?.plan.fields.find((planned) => planned.rule.field.code === field)?.rule;
      return setup === undefined || listing === undefined || rule === undefined
        ? []
        : [{ setup, listing, rule }];
    });
  }

  private takeTerm(answer: Answer, asking: AskingField | undefined, value: string): void {
    const { target } = answer;
    if (target.kind !== "term" || asking === undefined) return;
    const problem = asking.listing.problems.find((one) => one.field === asking.rule && "written" in one);
    const { channel, field } = target;
    if (problem === undefined || !("written" in problem)) {
      // The term has a value by now: the same sheet came before, or the lexicon was written meanwhile.
      const facts = { channel: asking.setup.definition.label, field };
      const where = { product: answer.sku as never, place: answer.place };
      this.work.tell(diagnostic("answer-without-question", facts, where, "advice"));
      return;
    }
    const term = problem.written;
    const first = this.terms.find((one) => one.channel === channel && one.field === field && one.term === term);
    if (first === undefined) this.terms.push({ channel, field, term, value, category: "", answer });
    else if (first.value !== value)
      this.refuse(
        diagnostic(
          "contradicting-answers",
          { term, first: first.value, value },
          { product: answer.sku as never, channel, place: answer.place },
        ),
      );
  }
}

/** Puts answers into revisions of their own: one for each sheet and layer. */
const putAnswers = async (
  transaction: CatalogueTransaction,
  accepted: readonly Accepted[],
  at: string,
): Promise<{ readonly revisions: readonly number[]; readonly unchanged: number }> => {
  const groups = new Map<string, Accepted[]>();
  for (const one of accepted) {
    const key = `${one.sheet.file}\u0000${one.layer}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  const revisions: number[] = [];
  let unchanged = 0;
  for (const group of groups.values()) {
    const put = await putGroup(transaction, group, at);
    if (put.revision !== undefined) revisions.push(put.revision);
    unchanged += put.unchanged;
  }
  return { revisions, unchanged };
};

const putGroup = async (
  transaction: CatalogueTransaction,
  group: readonly Accepted[],
  at: string,
): Promise<{ readonly revision: number | undefined; readonly unchanged: number }> => {
  const titles = new Map(group.map(({ attribute, answer }) => [attribute, answer.title]));
  const bySku = new Map<string, Accepted[]>();
  for (const one of group) bySku.set(one.answer.sku, [...(bySku.get(one.answer.sku) ?? []), one]);
  const writer = await transaction.revision({
    kind: "import",
    layer: group[0]?.layer ?? "",
    source: "gaps",
    file: group[0]?.sheet.file ?? "",
    at,
    columns: [
      { attribute: "sku", column: "SKU" },
      ...[...titles].map(([attribute, column]) => ({ attribute, column })),
    ],
    keys: ["sku"],
    mode: "update",
    compare: "layer",
    replace: false,
    tellChanges: false,
  });
  const records = [...bySku].map(([sku, answers]) => ({
    kind: "product" as const,
    row: answers[0]?.answer.row ?? 0,
    texts: [
      sku,
      ...[...titles.keys()].map((name) => answers.find(({ attribute }) => attribute === name)?.text ?? ""),
    ],
    doubts: [],
  }));
  const fates = await writer.put(records);
  const counts = { read: records.length, added: 0, changed: 0, unchanged: 0, rejected: 0 };
  let unchanged = 0;
  fates.forEach((fate, index) => {
    if (fate.fate === "changed") counts.changed++;
    else {
      counts.unchanged++;
      unchanged += bySku.get(records[index]?.texts[0] ?? "")?.length ?? 0;
    }
  });
  return { revision: await writer.finish(counts), unchanged };
};

/** The products as they will be: with the answers, and with the new rows of the lexicons. */
const standingsAfter = async (
  transaction: CatalogueTransaction,
  store: Store,
  channels: readonly WorkspaceChannel[],
  { terms, skus }: Reading,
): Promise<Standings> => {
  // An answer may bring an attribute that the catalogue did not have: plans are made anew.
  const attributes = await store.attributes();
  const after = standingsOf(
    channels.map((channel) => withTerms(channel, attributes, terms)),
    await provenanceIn(store),
  );
  const seen = new Set<string>();
  for await (const families of transaction.touchedFamilies())
    for (const family of families) {
      for (const { sku } of family.members) seen.add(sku);
      after.add(family);
    }
  for (const sku of skus) {
    const family = seen.has(sku) ? undefined : await store.familyOf(sku);
    if (family !== undefined) after.add(family);
  }
  return after.standings;
};

const withTerms = (
  { setup, account }: WorkspaceChannel,
  attributes: Awaited<ReturnType<Store["attributes"]>>,
  terms: readonly AcceptedTerm[],
): WorkspaceChannel => {
  const own = terms.filter(({ channel }) => channel === setup.channel);
  const { lexicon } = setup;
  return {
    account,
    setup: {
      ...setup,
      attributes: {
        ...setup.attributes,
        slot: (name) => setup.attributes.slot(name) ?? attributes.slot(name),
      },
      lexicon: {
        ...lexicon,
        find: (field, ourCategory, term) =>
          own.find((one) => one.field === field && one.term === term)?.value ??
          lexicon.find(field, ourCategory, term),
      },
    },
  };
};

/** An answer that was taken and is not enough: what the channel still says of the field it was for. */
const tellStillWrong = (
  { accepted }: Reading,
  before: Standings,
  after: Standings,
  tell: (finding: Diagnostic) => void,
): void => {
  for (const { answer } of accepted) {
    const { target } = answer;
    const askers =
      target.kind === "attribute" ? answer.askers : [{ channel: target.channel, field: target.field }];
    for (const { channel, field } of askers) {
      const now = after.get(channel)?.get(answer.sku)?.outcome;
      if (now === undefined || before.get(channel)?.get(answer.sku) === undefined) continue;
      for (const finding of now.findings)
        if (isError(finding) && finding.field === field) tell({ ...finding, place: answer.place });
    }
  }
};

const progress = (
  before: Standings extends ReadonlyMap<string, infer M> ? M | undefined : never,
  after: Standings extends ReadonlyMap<string, infer M> ? M | undefined : never,
  skus: ReadonlySet<string>,
): { readonly becameReady: number; readonly stillHeld: number } => {
  let [becameReady, stillHeld] = [0, 0];
  for (const sku of skus) {
    const was = before?.get(sku)?.outcome;
    const now = after?.get(sku)?.outcome;
    if (was === undefined || now === undefined) continue;
    if (isHeld(was) && now.kind === "ready") becameReady++;
    if (isHeld(now)) stillHeld++;
  }
  return { becameReady, stillHeld };
};
