/** Takes filled sheets as one act: right answers land, wrong ones are told by cell. */
import { ownOf } from "../../core/own.js";
import { addAll } from "../../core/many.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Surroundings } from "../../core/language/function.js";
import type { ByteSource } from "../../formats/byte-source.js";
import type { CatalogueTransaction } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { writeTerms } from "../lexicon/terms-decided.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { loadChannels, provenanceIn } from "../run-channels.js";
import { AnswerReading } from "./answer-reading.js";
import { filledSheets, type FilledSheet } from "./filled-sheets.js";
import { putAnswers } from "./put-answers.js";
import { addHelped, progress, standingsAfter, tellStillWrong } from "./standings-after.js";
import { standingsOf } from "./standings.js";

/** Filled sheets, and how they are taken. */
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

/** Takes the answers of filled gap sheets as a part of one act: right ones land with it, wrong ones are told by their cells. */
export async function takeAnswers(
  open: WritableCatalogue,
  transaction: CatalogueTransaction,
  request: AnswersRequest,
): Promise<AnswersResult> {
  const { workspace, store } = open;
  const sheets: FilledSheet[] = [];
  for (const file of request.files) addAll(sheets, await filledSheets(file));
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
  const reading = new AnswerReading({ channels, store, currency: workspace.manifest.currency, tell }, before);
  for (const sheet of sheets) {
    sheet.findings.forEach(tell);
    for (const answer of sheet.answers) await reading.take(answer, sheet);
  }
  const { accepted, terms } = reading;
  // A row of the lexicon helps every product with the term, also those that no sheet asks for.
  const helped = await addHelped(store, channels, before, reading);
  const put = await putAnswers(
    transaction,
    accepted,
    request.at,
    terms.map(({ channel, field, term, value, category, answer }) => ({
      sheet: answer.place.file,
      decided: { channel, field, term, value, category },
    })),
  );
  const after = await standingsAfter(transaction, store, channels, reading, helped);
  tellStillWrong(reading, before.standings, after, tell);
  for (const { setup } of request.dryRun ? [] : channels) {
    const own = terms.filter(({ channel }) => channel === setup.channel);
    if (own.length > 0) await writeTerms(open, setup.channel, own);
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
      ...progress(before.standings.get(setup.channel), after.get(setup.channel), reading.skus, helped),
    })),
    causes,
  };
}

function refuseForeign(sheets: readonly FilledSheet[], { manifest }: Workspace): void {
  const foreign = sheets.filter(({ facts }) => facts.shop !== manifest.shop);
  if (foreign.length > 0)
    throw new Refusal(
      foreign.map(({ facts, file }) =>
        diagnostic("another-shop", { shop: facts.shop, own: manifest.shop }, { place: { file, row: 1 } }),
      ),
    );
}

function tellOlder(
  sheets: readonly FilledSheet[],
  channels: readonly WorkspaceChannel[],
  tell: (finding: Diagnostic) => void,
): void {
  for (const { facts, file } of sheets)
    for (const { setup } of channels) {
      const then = ownOf(facts.channels, setup.channel);
      const now = setup.definition.version;
      if (then !== undefined && then !== now)
        tell(
          diagnostic(
            "older-sheet",
            { channel: setup.definition.label, then, now },
            { place: { file, row: 1 } },
            "warning",
          ),
        );
    }
}
