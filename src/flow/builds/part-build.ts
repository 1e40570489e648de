/** One channel's share of a stretch: purpose, shape, layout, and what the ledger will know. */
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { asSku } from "../../core/ids.js";
import { judgedOf, type Judged } from "../../core/listing/judged.js";
import type { Family } from "../../core/catalogue/family.js";
import { productOf, type Outcome } from "../../core/listing/listing.js";
import type { KeptListing } from "../../core/listing/live-text.js";
import { rowsOf } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { noted } from "../../core/purpose/noted.js";
import type { PurposeFacts } from "../../core/purpose/purpose.js";
import { purposes } from "../../core/purpose/purposes.js";
import type { FileFacts } from "../../layouts/layout.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
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
  /** Listings in the files. */
  readonly written: number;
  /** For each layout. */
  readonly pieces: readonly LayoutPiece[];
  /** What the ledger is to keep, and of which family. */
  readonly kept: readonly (readonly [family: number, listings: readonly KeptListing[]])[];
  /** For withdrawals: products that go to the channel. */
  readonly going: readonly Going[];
}

/** What became of one family in one channel's files. */
export interface BuiltFamily {
  readonly isWritten: boolean;
  readonly outcomes: readonly Judged[];
  /** Ready listings that are not for a file of this purpose, and why. */
  readonly omitted: readonly Judged[];
}

/** A product that goes to the channel: neither it nor its group ends there. */
export interface Going {
  readonly sku: string;
  readonly group: string | undefined;
}

/** Builds what one channel's files hold of the catalogue, part by part. */
export interface PartBuild extends ChannelRun {
  family(outcomes: readonly Outcome[], family: Family): void;
  /** What came of the family that was looked at last. */
  last(): BuiltFamily;
  /** What came of the products since it was last asked. */
  end(): BuiltPart;
}

/** What is begun anew with each part. */
const newPart = () => ({
  written: 0,
  kept: [] as BuiltPart["kept"][number][],
  going: [] as Going[],
});

/** Begins with one channel's share. */
export function partBuild(
  channel: WorkspaceChannel,
  account: FileFacts["account"],
  wishes: BuildWishes,
): PartBuild {
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
  let [outcomes, wasWritten]: [Judged[], boolean] = [[], false];
  return {
    channel,
    take(outcome) {
      outcomes.push(judgedOf(outcome));
      if (purpose === "withdraw" && outcome.kind !== "left-out") {
        const { sku, group } = productOf(outcome);
        part.going.push({ sku, group });
      }
    },
    family(outcomes, family) {
      wasWritten = false;
      if (purpose === "withdraw" || writtenBefore + part.written >= wishes.limit) return;
      for (const shaped of shape(outcomes, family, setup)) {
        const chosen = chosenOf(shaped, isMeant);
        const applied = chosen === undefined ? undefined : purposes[purpose](chosen, purposeFacts);
        if (applied === undefined) continue;
        wasWritten = true;
        for (const layout of layouts) layout.write(applied);
        part.written += applied.members.length;
        const rows = wishes.isTrial ? [] : rowsOf(applied);
        part.kept.push([family.number, rows.flatMap((row) => noted(row, purposeFacts) ?? [])]);
      }
    },
    last() {
      const own = outcomes;
      outcomes = [];
      const omitted = leaving.splice(0).map((finding): Judged => {
        const sku = finding.product ?? asSku("");
        return { kind: "ready", sku, category: undefined, findings: [finding] };
      });
      return { isWritten: wasWritten, outcomes: own, omitted };
    },
    end() {
      const { written, kept, going } = part;
      part = newPart();
      writtenBefore += written;
      return { written, kept, going, pieces: layouts.map((layout) => layout.take()) };
    },
  };
}
