import { causeCollector, type PlainCauses } from "../../core/diagnostics/causes.js";
import { diagnostic, isError, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { asSku } from "../../core/ids.js";
import { productOf, type Outcome } from "../../core/listing/listing.js";
import type { ListedId } from "../../core/listing/check/listed-ids.js";
import type { KeptListing } from "../../core/listing/live-text.js";
import { rowsOf } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { noted } from "../../core/purpose/noted.js";
import type { PurposeFacts } from "../../core/purpose/purpose.js";
import { purposes } from "../../core/purpose/purposes.js";
import type { FileFacts } from "../../layouts/layout.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { sentence } from "../../workspace/wording.js";
import { channelCounts, type PlainCounts } from "../channel-counts.js";
import type { ChannelRun } from "../run-channels.js";
import {
  chosenOf,
  layoutFor,
  layoutsFor,
  meantOn,
  purposeFactsFor,
  type BuildWishes,
} from "./build-wishes.js";
import { layoutPieces, type LayoutPiece } from "./layout-pieces.js";

/** What becomes of one part of the catalogue in one channel's files: plain, so that it can go from thread to thread. */
export interface BuiltPart {
  readonly counts: PlainCounts;
  /** Why ready listings are not in the files. */
  readonly omitted: PlainCauses;
  /** Listings in the files. */
  readonly written: number;
  /** Entries of the build's record for products that are not in them, as JSON. */
  readonly notSent: readonly string[];
  /** For each layout. */
  readonly pieces: readonly LayoutPiece[];
  /** What the ledger is to keep, and of which family. */
  readonly kept: readonly (readonly [family: number, listings: readonly KeptListing[]])[];
  /** For withdrawals: products that go to the channel. */
  readonly going: readonly Going[];
  /** Ids that are not the SKUs themselves. */
  readonly ids: readonly ListedId[];
}

/** A product that goes to the channel: neither it nor its group ends there. */
export interface Going {
  readonly sku: string;
  readonly group: string | undefined;
}

/** Builds what one channel's files hold of the catalogue, part by part. */
export interface PartBuild extends ChannelRun {
  /** What came of the products since it was last asked. */
  end(): BuiltPart;
}

/** What is begun anew with each part. */
const newPart = () => ({
  counts: channelCounts(),
  omitted: causeCollector(),
  written: 0,
  notSent: [] as string[],
  kept: [] as BuiltPart["kept"][number][],
  going: [] as Going[],
});

export const partBuild = (
  channel: WorkspaceChannel,
  account: FileFacts["account"],
  wishes: BuildWishes,
): PartBuild => {
  const { setup } = channel;
  const { purpose, kind } = wishes;
  const isMeant = meantOn(wishes, setup.channel);
  const leaving: Diagnostic[] = [];
  const purposeFacts: PurposeFacts = {
    ...purposeFactsFor(setup, wishes),
    omit: ({ sku }, { code, facts }) =>
      leaving.push(
        diagnostic(code, facts as never, { product: asSku(sku), channel: setup.channel }, "advice"),
      ),
  };
  const facts = { account, action: purposeFacts.rule.action };
  const layouts = layoutsFor(setup, purpose).map((layout) =>
    layoutPieces(layoutFor(layout, purposeFacts, kind), facts),
  );
  let part = newPart();
  let writtenBefore = 0;
  /** Ready listings that are not for a file of this purpose. */
  const noteLeaving = (): void => {
    for (const finding of leaving.splice(0)) {
      part.omitted.add(finding);
      const { code, product: sku } = finding;
      const because = [{ code, message: sentence(finding) }];
      part.notSent.push(JSON.stringify({ sku, state: "not in this file", because }));
    }
  };
  return {
    channel,
    take(outcome) {
      part.counts.take(outcome);
      if (purpose === "withdraw" && outcome.kind !== "left-out") {
        const { sku, group } = productOf(outcome);
        part.going.push({ sku, group });
      }
      if (outcome.kind !== "ready") part.notSent.push(JSON.stringify(noteOf(outcome)));
    },
    family(outcomes, family) {
      if (purpose === "withdraw" || writtenBefore + part.written >= wishes.limit) return;
      for (const shaped of shape(outcomes, family, setup)) {
        const chosen = chosenOf(shaped, isMeant);
        const applied = chosen === undefined ? undefined : purposes[purpose](chosen, purposeFacts);
        noteLeaving();
        if (applied === undefined) continue;
        for (const layout of layouts) layout.write(applied);
        part.written += applied.members.length;
        const rows = wishes.isTrial ? [] : rowsOf(applied);
        part.kept.push([family.number, rows.flatMap((row) => noted(row, purposeFacts) ?? [])]);
      }
    },
    end() {
      const { counts, omitted, written, notSent, kept, going } = part;
      part = newPart();
      writtenBefore += written;
      return {
        ...{ counts: counts.plain(), omitted: omitted.plain(), written, notSent, kept, going },
        pieces: layouts.map((layout) => layout.take()),
        ids: setup.ids.all(),
      };
    },
  };
};

/** A product that is not in the files, and why. */
const noteOf = (outcome: Exclude<Outcome, { kind: "ready" }>): Readonly<Record<string, unknown>> => {
  const { sku } = productOf(outcome);
  if (outcome.kind === "left-out")
    return {
      sku,
      state: "left out",
      because: outcome.findings.map((finding) => ({ code: finding.code, message: sentence(finding) })),
    };
  return {
    sku,
    state: "held",
    because: outcome.findings.filter(isError).map((finding) => ({
      code: finding.code,
      field: finding.field,
      message: sentence(finding),
    })),
  };
};
