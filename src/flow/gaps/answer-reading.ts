/** Answers of filled sheets, held against what they are for. */
import { editsFor } from "../../core/catalogue/edits-layer.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { checkAnswer, type AskingField } from "../../core/gaps/check-answer.js";
import type { SheetAnswer } from "../../core/gaps/read-sheet.js";
import { asSku } from "../../core/ids.js";
import { answerAttribute } from "../../core/listing/fill/answers.js";
import type { Listing } from "../../core/listing/listing.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { TermDecision } from "../lexicon/terms-decided.js";
import { unknownSku } from "../refusals.js";
import type { standingsOf } from "./standings.js";
import type { FilledSheet } from "./filled-sheets.js";

/** An answer that is right, with the place that it goes to. */
export interface Accepted {
  readonly answer: SheetAnswer;
  readonly sheet: FilledSheet;
  readonly layer: string;
  readonly attribute: string;
  readonly text: string;
}

/** An answer that says what a term means. */
export interface AcceptedTerm extends TermDecision {
  readonly channel: string;
  readonly answer: SheetAnswer;
}

interface ReadingWith {
  readonly channels: readonly WorkspaceChannel[];
  readonly store: Store;
  readonly currency: string;
  tell(finding: Diagnostic): void;
}

/** Goes through answers and keeps those that are right. */
export class AnswerReading {
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

  async take(answer: SheetAnswer, sheet: FilledSheet): Promise<void> {
    if (!(await this.isKnown(answer))) return;
    const asking = this.askingOf(answer);
    const { target } = answer;
    if (target.kind !== "attribute" && asking.length === 0) {
      this.refuse(
        diagnostic(
          "answer-without-question",
          { channel: target.channel, field: target.field },
          { product: asSku(answer.sku), place: answer.place },
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
    checked.advice?.forEach(this.work.tell);
    if (target.kind === "term") this.takeTerm(answer, asking[0], checked.text);
    else
      this.accepted.push({
        answer,
        sheet,
        text: checked.text,
        layer: editsFor(target.kind === "attribute" ? undefined : target.channel),
        attribute: target.kind === "attribute" ? target.attribute : answerAttribute(target.field),
      });
  }

  private refuse(finding: Diagnostic): void {
    this.work.tell(finding);
    this.refused++;
  }

  /** Whether a product has the SKU; looked up, and run through the channels, once. */
  private async isKnown({ sku, place }: SheetAnswer): Promise<boolean> {
    const known = this.known.get(sku);
    if (known !== undefined) {
      if (!known) this.refused++;
      return known;
    }
    const family = await this.work.store.familyOf(sku);
    if (family?.members.some((member) => member.sku === sku) !== true) {
      this.known.set(sku, false);
      this.refuse({ ...(await unknownSku(sku, this.work.store)), place });
      return false;
    }
    this.known.set(sku, true);
    this.skus.add(sku);
    await this.before.add(family);
    return true;
  }

  private listingOn(channel: string, sku: string): Listing | undefined {
    return this.before.standings.get(channel)?.get(sku)?.listing;
  }

  private askingOf({ askers, target, sku }: SheetAnswer): readonly AskingField[] {
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

  private takeTerm(answer: SheetAnswer, asking: AskingField | undefined, value: string): void {
    const { target } = answer;
    if (target.kind !== "term" || asking === undefined) return;
    const problem = asking.listing.problems.find((one) => one.field === asking.rule && "written" in one);
    const { channel, field } = target;
    if (problem === undefined || !("written" in problem)) {
      // The term has a value by now: the same sheet came before, or the lexicon was written meanwhile.
      const facts = { channel: asking.setup.definition.label, field };
      const where = { product: asSku(answer.sku), place: answer.place };
      this.work.tell(diagnostic("answer-without-question", facts, where, "advice"));
      return;
    }
    const term = problem.written;
    const first = this.terms.find(
      (one) => one.channel === channel && one.field === field && one.term === term,
    );
    if (first === undefined) this.terms.push({ channel, field, term, value, category: "", answer });
    else if (first.value !== value)
      this.refuse(
        diagnostic(
          "contradicting-answers",
          { term, first: first.value, value },
          { product: asSku(answer.sku), channel, place: answer.place },
        ),
      );
  }
}
